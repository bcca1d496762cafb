/**
 * The whole job with a site nobody here wrote: a reference of Debian, as its package installs it. From its folder to
 * a live site, home, texts, addresses and redirects changed, a section gone and back, published again, and back.
 */
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { bringInReference, go, liveAt, openPage, point, signIn } from './house.ts';

const FOLDER = '/usr/share/developers-reference/';
const source = (path: string) => readFileSync(FOLDER + path, 'utf8');
const live = (page: Page, path: string) => liveAt(page, 'reference-anew', path);
const said = (page: Page, words: string | RegExp) =>
  expect(page.locator('.notice').filter({ hasText: words })).toBeVisible();

test('a real site goes live, is changed in every way, and goes back', async ({ page }) => {
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  await signIn(page);
  await bringInReference(page, 'Reference anew');

  await test.step('nothing holds it, and it goes live byte for byte', async () => {
    await expect(page.getByRole('radio', { name: 'Must be fixed 0' })).toBeVisible();
    await go(page, 'p', 'publish');
    await page.getByRole('button', { name: 'Publish release 1' }).click();
    await expect(page.getByText('Live and draft are the same: release 1')).toBeVisible();
    for (const path of ['index.html', 'scope.html', 'best-pkging-practices.html'])
      expect(await live(page, `/${path === 'index.html' ? '' : path}`)).toBe(source(path));
  });

  await test.step('another page becomes home, with what it does told before', async () => {
    await go(page, 'g', 'pages');
    await openPage(page, '/scope.html');
    await page.getByRole('button', { name: 'Use as home page' }).click();
    await expect(
      page.getByRole('heading', { name: 'What leads to the front, and will lead to the new home' }),
    ).toBeVisible();
    await page.getByLabel('Its new address').fill('/contents.html');
    await page.getByRole('button', { name: 'Make it the home page' }).click();
    await expect(page.getByText('This is the home page.')).toBeVisible();
  });

  await test.step('a text is corrected by pointing at it, and is the new one when pointed at again', async () => {
    await openPage(page, '/new-maintainer.html');
    await page.getByRole('button', { name: /^Point at/ }).click();
    await point(page, { selector: 'p:has-text("lurk")' });
    const field = page.getByLabel('The text', { exact: true });
    await expect(field).toHaveValue(/^You should subscribe and lurk/);
    await field.fill('Read along for a while first.');
    await page.getByRole('button', { name: 'Set the text' }).click();
    await said(page, /Read along/);
    await point(page, { selector: 'p:has-text("Read along")' });
    await expect(field).toHaveValue('Read along for a while first.');
    await page.getByRole('button', { name: 'Back to the tree' }).click();
  });

  await test.step('a page moves, and an old address lands on it', async () => {
    await openPage(page, '/new-maintainer.html');
    await page.getByLabel('Address', { exact: true }).fill('/joining.html');
    await page.getByRole('button', { name: 'Move', exact: true }).click();
    await expect(page.getByRole('treeitem').filter({ hasText: '/joining.html' })).toBeVisible();
    await go(page, 'r', 'redirects');
    await page.getByRole('button', { name: /^Add one/ }).click();
    await page.getByLabel('Old address', { exact: true }).fill('/ch-new-maintainer.en.html');
    await page.getByLabel('Where it lands', { exact: true }).fill('/joining.html');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Settle' }).click();
    await said(page, '/ch-new-maintainer.en.html lands on /joining.html (301)');
    await page.getByRole('listbox', { name: 'Old addresses' }).focus();
  });

  await test.step('a section goes, with what is in it told before', async () => {
    await go(page, 'g', 'pages');
    await openPage(page, '/resources.html');
    await page.getByRole('button', { name: /^Remove .*Mailing lists/ }).click();
    await expect(page.getByRole('heading', { name: 'What goes with it' })).toBeVisible();
    await expect(page.getByText(/^\d+ links go/)).toBeVisible();
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await said(page, /^Section “.*Mailing lists/);
  });

  await test.step('what visitors get is what was asked, and nothing else', async () => {
    await go(page, 'p', 'publish');
    await page.getByRole('button', { name: 'Publish release 2' }).click();
    await expect(page.getByText('Live and draft are the same: release 2')).toBeVisible();
    await expect(page.getByRole('region', { name: 'Asked from outside' }).getByText('All as published')).toBeVisible({
      timeout: 60_000,
    });
    expect(await live(page, '/')).toContain('1. Scope of This Document');
    expect(await live(page, '/scope.html')).toBe('301 /');
    expect(await live(page, '/contents.html')).toContain('href="joining.html"');
    expect(await live(page, '/new-maintainer.html')).toBe('301 /joining.html');
    expect(await live(page, '/ch-new-maintainer.en.html')).toBe('301 /joining.html');
    expect(await live(page, '/joining.html')).toContain('Read along for a while first.');
    const resources = await live(page, '/resources.html');
    expect(resources).not.toContain('id="mailing-lists"');
    expect(resources).toContain('id="irc-channels"');
    // Nothing in it leads to a page that moved or was chosen.
    const untouched = /href="(new-maintainer|scope)\.html/;
    expect(await live(page, '/l10n.html')).not.toMatch(untouched);
  });

  await test.step('the section comes back as it was, and the site with it', async () => {
    await go(page, 'g', 'pages');
    await openPage(page, '/resources.html');
    await page
      .getByRole('listitem')
      .filter({ hasText: 'Mailing lists' })
      .getByRole('button', { name: 'Put back' })
      .click();
    await said(page, /put back/);
    await go(page, 'p', 'publish');
    await page.getByRole('button', { name: 'Publish release 3' }).click();
    await expect(page.getByText('Live and draft are the same: release 3')).toBeVisible();
    const back = (await live(page, '/resources.html')).replaceAll('joining.html', 'new-maintainer.html');
    expect(back.length - source('resources.html').length).toBeLessThan(40);
    expect(back).toContain('id="mailing-lists"');
  });

  await test.step('and all of it is taken back by going to the first release', async () => {
    await page.getByRole('button', { name: 'Go back to it' }).last().click();
    await expect(page.getByText(/back to release 1/)).toBeVisible();
    expect(await live(page, '/')).toBe(source('index.html'));
    expect(await live(page, '/new-maintainer.html')).toBe(source('new-maintainer.html'));
  });

  // The package keeps its scripts' library elsewhere, so its own pages miss it in their previews.
  expect(problems.filter((words) => words !== '$ is not defined')).toEqual([]);
});
