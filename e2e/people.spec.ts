/** Whoever was signed out while at work: asked over what is open, and what they did goes on. */
import { expect, test } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { expectAccessible, owner, signIn } from './house.ts';

test('a session that ends in the middle of something costs nothing that was typed', async ({ page, context }) => {
  await signIn(page);
  await page.getByTestId('zip').setInputFiles({
    name: 'kept.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(
      zipSync({ 'index.html': strToU8('<!DOCTYPE html><html lang="en"><title>Kept</title><h1>Kept</h1></html>') }),
    ),
  });
  await page.getByLabel('Name of the site').fill('Typed before it ended');
  await context.clearCookies();
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
