/** Metadata by hand: from what is set for the site to what the live host gives. The site is invented. */
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { zipSync } from 'fflate';
import { PNG } from 'pngjs';
import { expectAccessible, go, port, signIn } from './house.ts';

const html = (title: string, language: string, more = '') =>
  `<!DOCTYPE html>\n<html lang="${language}">\n<head>\n  <meta charset="utf-8">\n  <meta name="viewport" content="width=device-width">\n  <title>${title} · Tarn House</title>\n${more}</head>\n<body>\n<nav><ul><li><a href="/">Home</a></li><li><a href="/rooms/">Rooms</a></li><li><a href="/walks/">Walks</a></li><li><a href="/cy/" hreflang="cy">Cymraeg</a></li><li><a href="/cy/ystafelloedd/">Ystafelloedd</a></li></ul></nav>\n<main><h1>${title}</h1><p>This paragraph of ${title} says what a guest finds here, and how to come by it.</p></main>\n</body>\n</html>\n`;
const FILES: Record<string, string> = {
  'index.html': html('Tarn House by the water', 'en'),
  'rooms/index.html': html('Rooms', 'en', '  <meta name="author" content="The designer">\n'),
  'walks/index.html': html('Walks', 'en'),
  'cy/index.html': html('Tŷ’r Llyn', 'cy'),
  'cy/ystafelloedd/index.html': html('Ystafelloedd', 'cy'),
};
const archive = {
  name: 'tarn.zip',
  mimeType: 'application/zip',
  buffer: Buffer.from(
    zipSync(Object.fromEntries(Object.entries(FILES).map(([path, text]) => [path, Buffer.from(text)]))),
  ),
};

async function live(page: Page, path: string): Promise<string> {
  const answer = await page.request.get(`http://127.0.0.1:${port + 2}${path}`, {
    headers: { host: 'tarn-house.localhost' },
    maxRedirects: 0,
  });
  return answer.status() === 200 ? answer.text() : String(answer.status());
}

const show = (page: Page, view: string) => page.getByRole('radio', { name: view }).click();
async function choose(page: Page, words: string): Promise<void> {
  await page.getByRole('searchbox').fill(words);
  await page.getByRole('option').filter({ hasText: words }).first().click();
  await page.getByRole('searchbox').fill('');
}
async function setFor(page: Page, label: string, text: string): Promise<void> {
  await choose(page, label);
  await page.getByRole('textbox', { name: label, exact: true }).fill(text);
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(page.getByRole('option').filter({ hasText: label }).filter({ hasText: text })).toBeVisible();
}
async function switchOn(page: Page, label: string): Promise<void> {
  await choose(page, label);
  await page.getByRole('radiogroup', { name: label }).getByRole('radio', { name: 'On' }).click();
  await expect(page.getByRole('radiogroup', { name: label }).getByRole('radio', { name: 'On' })).toBeChecked();
}
const source = (page: Page) => page.getByRole('list', { name: 'The head as it will be published' });
async function publish(page: Page, number: number): Promise<void> {
  await go(page, 'p', 'publish');
  await page.getByRole('button', { name: `Publish release ${number}` }).click();
  await expect(page.getByText(`Live and draft are the same: release ${number}`)).toBeVisible();
}

test('site, branch and page: set, seen in the source, published, read back', async ({ page }) => {
  test.slow();
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  await signIn(page);
  await page.getByTestId('zip').setInputFiles(archive);
  await page.getByLabel('Name of the site').fill('Tarn House');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.getByRole('radio', { name: /^Pages 5/ }).click();

  await test.step('a name of its own', async () => {
    await go(page, 'a', 'address');
    await page.getByLabel('Find a name').fill('tarnhouse');
    await page.keyboard.press('Enter');
    await page
      .getByRole('option')
      .filter({ has: page.getByText('tarnhouse.example', { exact: true }) })
      .click();
    await page.getByRole('button', { name: 'Register and connect tarnhouse.example' }).click();
    await expect(page.getByText('tarnhouse.example is registered and connected.')).toBeVisible();
  });

  await test.step('an author for the site, and a conflict with the page’s own, decided', async () => {
    await go(page, 'm', 'metadata');
    await show(page, 'Whole site');
    await expectAccessible(page);
    await setFor(page, 'Author', 'Nia & Tom “of the tarn”');
    await show(page, 'Page by page');
    await choose(page, '/walks/');
    await expect(source(page)).toContainText('<meta name="author" content="Nia &amp; Tom “of the tarn”">');
    await choose(page, '/rooms/');
    await expect(source(page)).toContainText('content="The designer"');
    await source(page).getByRole('button', { name: 'conflict' }).click();
    await page.getByRole('button', { name: 'Use what is set' }).click();
    await expect(source(page)).toContainText('<meta name="author" content="Nia &amp; Tom “of the tarn”">');
    await expectAccessible(page);
  });

  await test.step('descriptions in place, by keyboard from row to row', async () => {
    await page.getByRole('listbox', { name: 'Pages with their metadata' }).focus();
    await page.keyboard.press('Home');
    await page.keyboard.press('d');
    const cell = page.getByRole('textbox', { name: 'Description', exact: true });
    await cell.fill('A house by the water, with five rooms and a boat.');
    await cell.press('Tab');
    await expect(page.getByRole('textbox', { name: 'Title', exact: true })).toBeFocused();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('option').filter({ hasText: 'A house by the water, with five' })).toBeVisible();
    await choose(page, '/walks/');
    await page.getByRole('listbox', { name: 'Pages with their metadata' }).focus();
    await page.keyboard.press('t');
    await expect(page.getByRole('option').filter({ hasText: '/walks/' })).not.toContainText('suggested');
    await expect(source(page)).toContainText('<meta name="description" content="This paragraph of Walks');
  });

  await test.step('to a writer and back', async () => {
    await page.getByRole('button', { name: 'As a table' }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Download CSV' }).click(),
    ]);
    const csv = readFileSync(await download.path(), 'utf8');
    expect(csv).toContain('/rooms/');
    const edited = `${csv.replace(/^(\/cy\/,[^,]*,)[^,]*/m, '$1"Tŷ ger y dŵr, gyda phum ystafell"')}/nowhere/,x\r\n`;
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'back.csv', mimeType: 'text/csv', buffer: Buffer.from(edited) });
    await expect(page.getByText('1 cell on 1 page would change.')).toBeVisible();
    await expect(page.getByText('1 row is about no page of this site')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Take all of it' }).click();
    await expect(page.getByRole('option').filter({ hasText: 'Tŷ ger y dŵr' })).toBeVisible();
  });

  await test.step('translations: one recognised, one put together, linked both ways', async () => {
    await show(page, 'Languages');
    await page.getByRole('option').filter({ hasText: '/rooms/' }).click();
    await page
      .getByRole('combobox', { name: 'Page in Welsh' })
      .selectOption({ label: 'Ystafelloedd · /cy/ystafelloedd/' });
    await page.getByRole('button', { name: 'Put together' }).click();
    await expect(page.getByRole('option').filter({ hasText: '/rooms/' })).toContainText('/cy/ystafelloedd/');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Link them to each other' }).click();
    await expect(page.getByRole('button', { name: 'Stop linking them' })).toBeVisible();
  });

  await test.step('icons from one picture, a sitemap, a robots.txt that says which line decides', async () => {
    await show(page, 'Whole site');
    await choose(page, 'Icons');
    const picture = new PNG({ width: 512, height: 512 });
    picture.data.fill(140);
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'mark.png', mimeType: 'image/png', buffer: PNG.sync.write(picture) });
    await expect(page.getByText('icon-maskable-512.png', { exact: true })).toBeVisible();
    await expect
      .poll(() => page.getByAltText('favicon.ico at 32 px').evaluate((image: HTMLImageElement) => image.naturalWidth))
      .toBeGreaterThan(0);
    await page.locator('input[type=file]').setInputFiles({
      name: 'mark.svg',
      mimeType: 'image/svg+xml',
      buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'),
    });
    await expect(page.getByText('the SVG holds a <script>')).toBeVisible();
    await switchOn(page, 'sitemap.xml');
    await choose(page, 'robots.txt');
    await page.getByRole('textbox', { name: 'robots.txt' }).fill('User-agent: *\nDisallow: /walks/');
    await page.getByLabel('Address', { exact: true }).fill('/walks/');
    await expect(page.getByText('by line 2:')).toBeVisible();
    await page.getByRole('textbox', { name: 'robots.txt' }).fill('User-agent: *\nDisallow:');
    await expect(page.getByText('It lets anybot ask for every page.')).toBeVisible();
    await page.getByRole('button', { name: 'Set', exact: true }).click();
    await expect(page.getByRole('option').filter({ hasText: 'robots.txt' })).toContainText('User-agent: *');
  });

  await test.step('published, and read back from the live host', async () => {
    await publish(page, 1);
    const rooms = await live(page, '/rooms/');
    expect(rooms).toContain('<meta name="author" content="Nia &amp; Tom “of the tarn”">');
    expect(rooms).not.toContain('The designer');
    for (const path of ['/rooms/', '/cy/ystafelloedd/']) {
      const text = await live(page, path);
      for (const [tag, to] of [
        ['en', '/rooms/'],
        ['cy', '/cy/ystafelloedd/'],
        ['x-default', '/rooms/'],
      ])
        expect(text).toMatch(
          new RegExp(`<link rel="alternate" hreflang="${tag}" href="https://(www\\.)?tarnhouse\\.example${to}">`),
        );
    }
    expect(await live(page, '/sitemap.xml')).toContain('tarnhouse.example/rooms/</loc><lastmod>');
    expect(await live(page, '/robots.txt')).toMatch(/Sitemap: https:\/\/(www\.)?tarnhouse\.example\/sitemap\.xml/);
    expect(await live(page, '/favicon.ico')).not.toBe('404');
    await go(page, 'm', 'metadata');
    await expect(page.getByText('5 heads read back, all right')).toBeVisible();
    await choose(page, '/walks/');
    await page.getByLabel(/^Description,/).fill('Three walks from the door, one of them for prams.');
    await page.getByRole('button', { name: 'Set', exact: true }).click();
    await expect(source(page).getByRole('listitem').filter({ hasText: 'one of them for prams' })).toContainText(
      'not live yet',
    );
    await publish(page, 2);
    expect(await live(page, '/walks/')).toContain('one of them for prams');
  });
  expect(problems).toEqual([]);
});
