/** Survey and Pages by hand: from a dropped export with faults to a live site, and a newer export over it. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import {
  app,
  archive,
  demo,
  demoFiles,
  editor,
  expectAccessible,
  go,
  liveAt,
  openPage,
  point,
  publish,
  signIn,
} from './house.ts';

const live = (page: Page, path: string) => liveAt(page, 'moor', path);

test('mend, home, listing, menu, logo, publish; then a newer export with a conflict', async ({ page }) => {
  test.slow();
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  await signIn(page);
  await page.getByTestId('zip').setInputFiles(archive(demoFiles(), 'moor.zip'));
  await page.getByLabel('Name of the site').fill('Moor');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByRole('radio', { name: 'Must be fixed 3' })).toBeVisible();

  await test.step('a release is held by what must be fixed', async () => {
    await go(page, 'p', 'publish');
    await page.getByRole('button', { name: 'Publish release 1' }).click();
    await expect(page.getByText('3 must be fixed before a release.')).toBeVisible();
    await go(page, 's', 'survey');
  });

  await test.step('sample text: seen in the source, pointed at, corrected', async () => {
    await page.getByRole('radio', { name: 'Must be fixed 3' }).click();
    await page.getByRole('option').filter({ hasText: 'Meteorites' }).click();
    await expect(page.locator('mark')).toContainText('Lorem ipsum');
    await expectAccessible(page);
    await page.getByRole('link', { name: 'Point at it in the page' }).click();
    await point(page, 'Lorem ipsum');
    await expect(page.getByRole('heading', { name: 'This text' })).toBeVisible();
    await page.getByRole('textbox', { name: 'The text' }).fill('Stones that fell from the sky <b>here</b>.');
    await page.getByRole('button', { name: 'Set the text' }).click();
    await expect(page.getByText('becomes “Stones that fell')).toBeVisible();
    await expect(page.getByText('2 must be fixed', { exact: true }).first()).toBeVisible();
  });

  await test.step('a link to the test copy: led to a page', async () => {
    await go(page, 's', 'survey');
    await page.getByRole('option').filter({ hasText: 'Star party' }).click();
    await page.getByRole('link', { name: 'Point at it in the page' }).click();
    await point(page, 'put their name down');
    await page.getByPlaceholder('letters of a title or address').fill('contact');
    await page.getByRole('option').filter({ hasText: '/about/contact/' }).click();
    await page.getByRole('button', { name: 'Set the link' }).click();
    await expect(page.getByText('1 must be fixed', { exact: true }).first()).toBeVisible();
  });

  await test.step('a leftover file: taken on one’s name; a picture without words: mended in one step', async () => {
    await go(page, 's', 'survey');
    await page.getByRole('option').filter({ hasText: 'moor.css.bak' }).click();
    await page.getByLabel('Take it on your name, because').fill('The next export leaves it out');
    await page.keyboard.press('Enter');
    await page.getByRole('radio', { name: /^Worth a look/ }).click();
    await page.getByRole('option').filter({ hasText: 'The refractor' }).click();
    await page.getByLabel('What the picture shows; empty for decoration').fill('A long brass telescope');
    await page.getByRole('button', { name: 'Set the words' }).click();
    await expect(page.getByRole('option').filter({ hasText: 'The refractor' })).toHaveCount(0);
  });

  await test.step('home page and listing', async () => {
    await go(page, 'g', 'pages');
    await openPage(page, '/welcome/');
    await page.getByRole('button', { name: 'Use as home page' }).click();
    await page.getByRole('button', { name: 'Make it the home page' }).click();
    await expect(page.getByText('This is the home page.')).toBeVisible();
    await openPage(page, '/journal/');
    await page.getByRole('button', { name: 'List them here' }).click();
    await page.getByLabel('Entries to a page').fill('5');
    await page.getByRole('button', { name: 'List them', exact: true }).click();
    await expect(page.getByText('No menu leads to it.')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Add it to the main menu' }).click();
    await expect(page.getByText(/Main menu \(Home …\) changed: .*Journal/)).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('the menu by keyboard: the new item one place up', async () => {
    await page.getByRole('treeitem').filter({ hasText: '/journal/' }).click();
    await page.keyboard.press('Alt+ArrowUp');
    await expect(page.getByText(/changed: .*About, Journal, Cymraeg/)).toBeVisible();
  });

  await test.step('the tree: renamed with what is below, by keyboard one place up, one step back', async () => {
    await page.getByRole('radio', { name: 'In place' }).click();
    await openPage(page, '/visit/');
    await page.getByLabel('Address', { exact: true }).fill('/come/');
    await expect(page.getByText('6 pages move')).toBeVisible();
    await page.getByRole('button', { name: 'Move', exact: true }).click();
    await expect(page.getByText('/visit/ becomes /come/, with 5 below it')).toBeVisible();
    await page.getByRole('treeitem').filter({ hasText: '/come/getting-here/' }).click();
    await page.keyboard.press('Alt+ArrowUp');
    await expect(page.getByText('takes another place under “Visit”')).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(page.getByText('Taken back: “Getting here”')).toBeVisible();
  });

  await test.step('the logo, swapped everywhere', async () => {
    await openPage(page, 'getting-here');
    await page.keyboard.press('p');
    await page
      .getByRole('button', { name: /^Point at a text/ })
      .click({ timeout: 2000 })
      .catch(() => {});
    await point(page, { selector: 'a.name img' });
    await page.getByLabel('Show another one: a file from here').setInputFiles({
      name: 'logo.png',
      mimeType: 'image/png',
      buffer: readFileSync(join(demo, 'site/pictures/moon.png')),
    });
    await page
      .getByRole('radiogroup', { name: 'Where the picture is to change' })
      .getByRole('radio', { name: /^Every page where it stands/ })
      .click();
    await page.getByRole('button', { name: 'Swap it' }).click();
    await expect(page.getByText('/pictures/logo-2.png shown instead of /pictures/logo.png')).toBeVisible();
  });

  await test.step('published, and seen live', async () => {
    await publish(page, 1);
    const front = await live(page, '/');
    expect(front).toContain('<h1>Lanternmoor Observatory</h1>');
    expect(front).toMatch(/About<\/a><\/li><li><a href="\/journal\/">Journal<\/a>/);
    expect(front).toMatch(/<img src="[^"]*logo-2\.png" alt="" width="64"/);
    expect(await live(page, '/learn/meteorites/')).toContain('<p>Stones that fell from the sky &lt;b>here&lt;/b>.</p>');
    expect(await live(page, '/learn/star-party/')).toMatch(/<a href="[^"]*about\/contact\/">put their name down<\/a>/);
    expect(await live(page, '/journal/page-2/')).toContain('aria-current="page">2</a>');
    expect(await live(page, '/journal/feed.xml')).toContain('<feed xmlns="http://www.w3.org/2005/Atom"');
    expect(await live(page, '/visit/groups/')).toBe('301 /come/groups/');
  });

  await test.step('a newer export: seen first, its conflict decided, everything decided kept', async () => {
    await go(page, 's', 'survey');
    const newer = demoFiles();
    delete newer['style/moor.css.bak'];
    const meteorites = Buffer.from(newer['learn/meteorites/index.html'] ?? []).toString();
    newer['learn/meteorites/index.html'] = Buffer.from(
      meteorites.replace(/Lorem ipsum[^<]*/, 'Stones from elsewhere, on a table.'),
    );
    newer['visit/cafe/index.html'] = Buffer.from(
      Buffer.from(newer['visit/access/index.html'] ?? [])
        .toString()
        .replace(
          /<main[\s\S]*<\/main>/,
          '<main id="content"><h1>Café</h1><p>Soup, tea and a window to the east.</p></main>',
        )
        .replace('<title>Access', '<title>Café'),
    );
    await page.getByRole('button', { name: 'Newer export' }).click();
    await page.getByTestId('zip').setInputFiles(archive(newer, 'newer.zip'));
    await page.getByRole('button', { name: 'Bring it in' }).click();
    await expect(page.getByRole('heading', { name: 'Newer export: newer.zip' })).toBeVisible();
    await expect(page.getByText('Stones from elsewhere, on a table.')).toBeVisible();
    await expect(page.getByText('/visit/cafe/index.html')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('radio', { name: 'Keep what was set here' }).click();
    await page.getByRole('button', { name: 'Apply it' }).click();
    await expect(page.getByText('Everything decided here stays.')).toBeVisible();
    await publish(page, 2);
    expect(await live(page, '/learn/meteorites/')).toContain('Stones that fell from the sky');
    expect(await live(page, '/')).toContain('<h1>Lanternmoor Observatory</h1>');
    expect(await live(page, '/')).toContain('logo-2.png');
    expect(await live(page, '/visit/cafe/')).toContain('<h1>Café</h1>');
    expect(await live(page, '/style/moor.css.bak')).toContain('404');
  });

  expect(problems).toEqual([]);
});

test('a running site comes in by its address, its scripts’ pages as files', async ({ page }) => {
  await signIn(page);
  await page.getByRole('radio', { name: 'A running site' }).click();
  // By number, since another walk may have led the name elsewhere.
  await page.getByLabel('Address of the running site').fill('203.0.113.9');
  await page.getByLabel('Name of the site').fill('The old one');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Crawl it' }).click();
  await page.waitForURL('**/survey');
  await page.getByRole('radio', { name: /^Pages 1\d\d/ }).click({ timeout: 60_000 });
  await page.getByLabel('Search the list').fill('photo-35');
  await expect(page.getByRole('treeitem').filter({ hasText: '/gallery/photo-35.html' })).toBeVisible();
  await page.getByLabel('Search the list').fill('');
  await page.getByRole('radio', { name: /^Notes/ }).click();
  await expect(page.getByText('Not asked for: the site’s robots.txt keeps crawlers out.')).toBeVisible();
  await go(page, 'r', 'redirects');
  await page.getByLabel('Search addresses').fill('/visit.php?id=12');
  await expect(page.getByRole('option').filter({ hasText: '/visit-12.html' })).toBeVisible();
});

test('two people on one page: the second is told, and keeps what was typed', async ({ page, browser }) => {
  await signIn(page);
  await page.getByTestId('zip').setInputFiles(archive(demoFiles(), 'two.zip'));
  await page.getByLabel('Name of the site').fill('Two');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.getByRole('radio', { name: /^Pages 4\d/ }).click();
  await go(page, 'g', 'pages');
  // What the pointer is over is tinted, and can still be read.
  const add = page.getByRole('button', { name: 'Add', exact: true });
  await add.hover();
  await expect
    .poll(() => add.evaluate((button) => Number(getComputedStyle(button.firstElementChild as Element).opacity)))
    .toBeLessThan(0.3);
  await openPage(page, 'getting-here');
  const context = await browser.newContext();
  const other = await context.newPage();
  await other.goto(app);
  await other.getByLabel('E-mail').fill(editor.email);
  await other.getByLabel('Password').fill(editor.password);
  await other.keyboard.press('Enter');
  await other.waitForURL(`${app}/sites`);
  await other.goto(page.url());
  await page.getByLabel(/^Title,/).fill('The way to us');
  await other.getByLabel(/^Title,/).fill('How to get here');
  await other.keyboard.press('Enter');
  await expect(page.getByText(`${editor.name} changed the draft.`)).toBeVisible();
  await expect(page.getByText('Meanwhile somebody set it to “How to get here”')).toBeVisible();
  await expect(page.getByLabel(/^Title,/)).toHaveValue('The way to us');
  await page.getByRole('button', { name: 'take theirs' }).click();
  await expect(page.getByLabel(/^Title,/)).toHaveValue('How to get here');
  await page.getByLabel(/^Title,/).fill('The way to us');
  await page.keyboard.press('Enter');
  await expect(other.getByLabel(/^Title,/)).toHaveValue('The way to us');
  await context.close();
});

test('somebody is invited, joins, sees everything and changes nothing; then access ends', async ({ page, browser }) => {
  await signIn(page);
  await page.goto(`${app}/people`);
  await page.getByRole('radio', { name: 'reviewer' }).click();
  await page.getByRole('button', { name: 'Make a link' }).click();
  const link = (await page.locator('.link').textContent()) ?? '';
  await expectAccessible(page);
  const context = await browser.newContext();
  const guest = await context.newPage();
  await guest.goto(link);
  await expect(guest.getByText('invites you to')).toBeVisible();
  await expectAccessible(guest);
  await guest.getByLabel('Your name').fill('Nia Flagstone');
  await guest.getByLabel('E-mail').fill('nia@lanternmoor.example');
  await guest.getByLabel('Password').fill('mortar-and-lime');
  await guest.getByRole('button', { name: 'Join' }).click();
  await guest.getByRole('link', { name: /Lanternmoor Observatory/ }).click();
  await guest.getByRole('radio', { name: /^Worth a look/ }).click();
  await expect(guest.getByRole('button', { name: 'Let it be' })).toHaveCount(0);
  await guest.goto(guest.url().replace(/survey.*/, 'pages'));
  await expect(guest.getByRole('treeitem').first()).toBeVisible();
  await expect(guest.getByRole('button', { name: 'Use as home page' })).toHaveCount(0);
  await page.reload();
  await page.getByRole('button', { name: /Nia Flagstone/ }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take access away' }).click();
  await page.getByRole('button', { name: 'Really, at once' }).click();
  await expect(page.getByText('Nia Flagstone has no access any more')).toBeVisible();
  await guest.reload();
  await expect(guest.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await context.close();
});
