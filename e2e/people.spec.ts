/** People’s own accounts: signed out while at work, second factors, what a client sees. */
import { expect, test } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { app, editor, endSession, enterPassword, expectAccessible, owner, signIn, signOut } from './house.ts';

test('a session that ends in the middle of something costs nothing that was typed', async ({ page }) => {
  await signIn(page);
  await page.getByTestId('zip').setInputFiles({
    name: 'kept.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(
      zipSync({ 'index.html': strToU8('<!DOCTYPE html><html lang="en"><title>Kept</title><h1>Kept</h1></html>') }),
    ),
  });
  await page.getByLabel('Name of the site').fill('Typed before it ended');
  await endSession(page);
  await page.getByRole('button', { name: 'Bring it in' }).click();

  const dialog = page.getByRole('dialog', { name: 'Your session has ended' });
  await expect(dialog).toContainText(owner.email);
  await expectAccessible(page);
  await dialog.getByLabel('Password').fill('not this one');
  await page.keyboard.press('Enter');
  await expect(dialog.getByRole('alert')).toContainText('do not belong together');
  await dialog.getByLabel('Password').fill(owner.password);
  await page.keyboard.press('Enter');
  await page.waitForURL('**/survey');
  await expect(
    page.getByRole('heading', { name: 'Typed before it ended' }).or(page.getByText('Typed before it ended')).first(),
  ).toBeVisible();
});

test('a passkey is made, asked for after the password, and written-down codes stand for it', async ({ browser }) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  // Chromium’s own authenticator, by its protocol’s WebAuthn domain: real keys, signatures and counters.
  const cdp = await context.newCDPSession(page);
  await cdp.send('WebAuthn.enable');
  const { authenticatorId } = await cdp.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  await signIn(page, editor);
  await page.getByRole('button', { name: /account$/ }).click();
  await page.getByRole('link', { name: 'Your account' }).click();
  await page.getByRole('button', { name: 'Add a passkey' }).click();
  await page.getByLabel('What you call it').fill('Stick with the red band');
  await page.getByLabel('Your password').fill('not this one');
  await page.getByRole('button', { name: 'Make the passkey' }).click();
  await expect(page.getByRole('alert')).toContainText('This is not your password');
  await page.getByLabel('Your password').fill(editor.password);
  await page.getByRole('button', { name: 'Make the passkey' }).click();
  await expect(page.getByRole('heading', { name: 'Write these down' })).toBeVisible();
  await expectAccessible(page);
  const codes = await page.locator('.codes li').allTextContents();
  expect(codes).toHaveLength(10);
  await page.getByRole('button', { name: 'I have them' }).click();
  await expect(page.getByText('Stick with the red band')).toBeVisible();
  expect((await cdp.send('WebAuthn.getCredentials', { authenticatorId })).credentials).toHaveLength(1);

  await signOut(page);
  await enterPassword(page, editor);
  await expect(page.getByText('Now your second factor')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Use your passkey' }).click();
  await page.waitForURL(`${app}/sites`);

  await signOut(page);
  await enterPassword(page, editor);
  await page.getByLabel('One of the codes').fill('not one of them');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toContainText('This is not the second factor');
  await page.getByLabel('One of the codes').fill(codes[3] ?? '');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL(`${app}/sites`);

  await page.goto(`${app}/account`);
  await expect(page.getByText('9 codes left')).toBeVisible();
  await page.getByRole('button', { name: 'Remove' }).click();
  await page.getByLabel('Your password').fill(editor.password);
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByText('Whoever learns your password is in')).toBeVisible();
  await context.close();
});

test('a client sees what is shown to them, a new password comes by a link, and all of it is on the trail', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await page.goto(`${app}/people`);
  await page.getByRole('radio', { name: 'client' }).click();
  await page.getByRole('checkbox', { name: /Lanternmoor Observatory/ }).check();
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = (await page.locator('.link').textContent()) ?? '';
  const context = await browser.newContext();
  const guest = await context.newPage();
  await guest.goto(link);
  await guest.getByLabel('Your name').fill('Orla Dormer');
  await guest.getByLabel('E-mail').fill('orla@lanternmoor.example');
  await guest.getByLabel('Password').fill('password123');
  await guest.getByRole('button', { name: 'Join' }).click();
  await expect(guest.getByText('This password is easily guessed')).toBeVisible();
  await guest.getByLabel('Password').fill('copper-and-thatch');
  await guest.getByRole('button', { name: 'Join' }).click();
  await guest.getByRole('link', { name: /Lanternmoor Observatory/ }).click();
  await guest.waitForURL('**/client');
  await expect(guest.getByRole('heading', { name: 'Reports' })).toBeVisible();
  await expectAccessible(guest);
  // No station opens to them, by whichever address.
  await guest.goto(guest.url().replace(/client$/, 'pages'));
  await guest.waitForURL('**/client');

  await page.reload();
  await page.getByRole('button', { name: /Orla Dormer/ }).click();
  await page.getByRole('button', { name: 'Make a link to set a new password' }).click();
  await guest.goto((await page.locator('.link').textContent()) ?? '');
  await guest.getByLabel('New password').fill('rafters-under-sleet');
  await guest.getByRole('button', { name: 'Set it' }).click();
  await guest.getByRole('link', { name: 'To the sign-in' }).click();
  await enterPassword(guest, { email: 'orla@lanternmoor.example', password: 'rafters-under-sleet' });
  await expect(guest.getByRole('link', { name: /Lanternmoor Observatory/ })).toBeVisible();
  await context.close();

  await page.getByRole('link', { name: /the audit trail/ }).click();
  await expect(page.getByText('A link by which somebody sets a new password: Orla Dormer')).toBeVisible();
  await page.getByRole('radio', { name: 'sign-in' }).click();
  await expect(page.getByText('A link by which somebody sets')).toHaveCount(0);
  await expect(page.getByText('Orla Dormer').first()).toBeVisible();
  await expectAccessible(page);
});
