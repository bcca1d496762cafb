/** Removing and putting back by hand: a branch, with two people at it, from release to release; a section; a page of an older release; a purge that is stopped. */
import { expect, test, type Page } from '@playwright/test';
import {
  app,
  archive,
  demoFiles,
  editor,
  expectAccessible,
  go,
  letAllBe,
  liveAt,
  openPage,
  publish,
  signIn,
} from './house.ts';

const live = (page: Page, path: string) => liveAt(page, 'terrace', path);

const said = (page: Page, words: string | RegExp) =>
  expect(page.locator('.notice').filter({ hasText: words })).toBeVisible();

test('a branch goes and comes back whole; a section, an older page, and a purge that is stopped', async ({
  page,
  browser,
}) => {
  test.slow();
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  await signIn(page);
  await page.getByTestId('zip').setInputFiles(archive(demoFiles(), 'terrace.zip'));
  await page.getByLabel('Name of the site').fill('Terrace');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await letAllBe(page);
  await publish(page, 1);
  const paths = ['/', '/visit/', '/visit/groups/', '/visit/getting-here/', '/learn/', '/journal/'];
  const before = await Promise.all(paths.map((path) => live(page, path)));
  expect(before[0]).toContain('>Visit<');

  const other = await (await browser.newContext()).newPage();
  await other.goto(app);
  await other.getByLabel('E-mail').fill(editor.email);
  await other.getByLabel('Password').fill(editor.password);
  await other.keyboard.press('Enter');
  await other.waitForURL(`${app}/sites`);
  await other.getByRole('link', { name: /Terrace/ }).click();

  await test.step('before it goes, what leads there is shown; its address leads to another page', async () => {
    await go(page, 'g', 'pages');
    await openPage(page, '/visit/');
    await page.getByRole('tree').press('Delete');
    await expect(page.getByRole('heading', { name: 'Remove “Visit”' })).toBeVisible();
    await expect(page.getByText(/other pages link here/)).toBeVisible();
    await expect(page.getByText('Main menu (Home …): “Visit”')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('radio', { name: 'Another page …' }).click();
    await page.getByPlaceholder('letters of a title or address').fill('learn');
    await page.getByRole('option').filter({ hasText: '/learn/' }).first().click();
    await page.getByLabel(/^Why/).fill('Closed for the winter');
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await said(page, '“Visit” removed, with 5 below it');
    await expect(page.getByRole('treeitem').filter({ hasText: 'was 1st under Visit' })).toBeVisible();
    await expect(page.getByText('Removed today')).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('published, its old addresses redirect, and menus and links leave it out', async () => {
    await publish(page, 2);
    expect(await live(page, '/visit/groups/')).toBe('301 /learn/');
    expect(await live(page, '/')).not.toContain('>Visit<');
    expect(await live(page, '/journal/')).not.toContain('/visit/');
  });

  await test.step('meanwhile a colleague changes the neighbours', async () => {
    await go(other, 'g', 'pages');
    await openPage(other, '/learn/');
    await other.getByRole('textbox', { name: /^Title/ }).fill('Learn with us');
    await other.keyboard.press('Enter');
    await said(other, 'Learn with us');
    await openPage(other, '/journal/');
    await other.getByRole('tree').press('Alt+ArrowDown');
    await said(other, 'takes another place');
  });

  await test.step('put back whole from the list of all removals: what will change is said, then done', async () => {
    await go(page, 'g', 'pages');
    await page.getByRole('radio', { name: /^Removed/ }).click();
    await page.getByRole('option').filter({ hasText: 'Closed for the winter' }).click();
    await expect(page.getByText('“Visit” and 5 more come back')).toBeVisible();
    await expect(page.getByText(/Links in \d+ pages lead here again/)).toBeVisible();
    await expect(page.getByText(/6 redirects retire/)).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('listbox', { name: 'Removed things' }).press('b');
    await said(page, '“Visit” put back, with 5 more');
    await expect(page.getByText('Nothing is removed.')).toBeVisible();
    await publish(page, 3);
    const after = await Promise.all(paths.map((path) => live(page, path)));
    // The colleague's title is new; everything else is as it was.
    expect(after.map((text) => text.replaceAll('Learn with us', 'Learn · Lanternmoor Observatory'))).toEqual(before);
  });

  await test.step('a section goes, and comes back alone', async () => {
    await go(page, 'g', 'pages');
    await openPage(page, '/visit/getting-here/');
    await page.getByRole('button', { name: 'Remove By car' }).click();
    await expect(page.getByRole('heading', { name: 'What goes with it' })).toBeVisible();
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await said(page, 'Section “By car” of “Getting here” removed');
    await page.getByRole('listitem').filter({ hasText: 'By car' }).getByRole('button', { name: 'Put back' }).click();
    await said(page, 'Section “By car” put back');
    await go(page, 'p', 'publish');
    await expect(page.getByRole('heading', { name: 'Live and draft are the same: release 3' })).toBeVisible();
  });

  await test.step('a purge is stopped by what a colleague holds, and goes through when it is let go', async () => {
    await go(page, 'g', 'pages');
    for (const address of ['/visit/groups/', '/visit/access/']) {
      await openPage(page, address);
      await page.getByRole('tree').press('Delete');
      await page.getByRole('button', { name: 'Remove', exact: true }).click();
      await said(page, 'removed; its address leads to “Visit”');
    }
    await go(other, 'g', 'pages');
    await other.getByRole('radio', { name: 'Removed, 2' }).click();
    await other.getByRole('option').filter({ hasText: '/visit/groups/' }).click();
    await other.getByRole('button', { name: 'Hold it …' }).click();
    await other.getByLabel('Why nothing may take it').fill('The school decides on Monday');
    await other.keyboard.press('Enter');
    await expect(other.getByText('held by TR').or(other.getByText(/held by [A-Z]{2}$/))).toBeVisible();
    await page.getByRole('radio', { name: 'Removed, 2' }).click();
    await page.getByRole('button', { name: 'mark all 2' }).click();
    await page.getByRole('button', { name: 'For good …' }).first().click();
    await expect(page.getByText('The school decides on Monday').first()).toBeVisible();
    await expect(page.getByRole('button', { name: 'Remove for good' })).toHaveCount(0);
    await page.getByRole('button', { name: 'Leave it' }).click();
    await page.getByRole('option').filter({ hasText: '/visit/groups/' }).click();
    await page.getByRole('button', { name: 'Let it go' }).click();
    await said(page, 'no longer held');
    await page.getByRole('button', { name: 'For good …' }).first().click();
    await page.getByLabel('Type how many: 2').fill('2');
    await page.keyboard.press('Enter');
    await said(page, '2 removed things');
    await expect(page.getByText('Nothing is removed.')).toBeVisible();
  });

  await test.step('release 1 still has the page: taken from there, it stands where it stood', async () => {
    await publish(page, 4);
    expect(await live(page, '/visit/groups/')).toBe('301 /visit/');
    await go(page, 'g', 'pages');
    await page.getByRole('radio', { name: 'In releases' }).click();
    await page.getByLabel('Which release').selectOption('1');
    await page.getByRole('option').filter({ hasText: '/visit/groups/' }).click();
    await expect(page.locator('figcaption').filter({ hasText: 'release 1' })).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Take it as a page' }).click();
    await said(page, 'as in release 1, at /visit/groups/');
    await publish(page, 5);
    expect(await live(page, '/visit/groups/')).toBe(before[2]);
  });
  await other.context().close();
  expect(problems).toEqual([]);
});
