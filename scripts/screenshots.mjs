#!/usr/bin/env node
/**
 * Takes the pictures of the README anew from the demo, on a Fastigium with data of its own: a home page
 * chosen, the most visited old addresses settled, a release published and two things changed since.
 */
/* global document -- inside page.evaluate, which runs in the browser */
import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';

const root = new URL('..', import.meta.url).pathname;
const PORT = 4710;
const data = mkdtempSync(join(tmpdir(), 'fastigium-pictures-'));
chmodSync(data, 0o755);
const command = spawn('node', ['scripts/start.mjs', '--port', String(PORT), '--data', data], {
  cwd: root,
  stdio: ['ignore', 'pipe', 'inherit'],
});
const ended = new Promise((resolve) => command.once('exit', resolve));
await new Promise((resolve) => command.stdout.on('data', (piece) => piece.toString().includes('Ctrl C') && resolve()));

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const calm = (ms = 700) => page.waitForTimeout(ms);
/** Notices go by themselves; they are not what the pictures are of. */
const shoot = async (name) => {
  await calm();
  await page
    .getByRole('button', { name: 'Close this notice' })
    .click({ timeout: 500 })
    .catch(() => {});
  await calm();
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
};
const go = async (letter, station) => {
  // The letters are commands only while no field has the focus.
  await page.evaluate(() => document.activeElement?.blur());
  await page.keyboard.press('g');
  await page.keyboard.press(letter);
  await page.waitForURL(`**/${station}**`);
  await calm();
};
const openPage = async (words) => {
  await page.getByLabel('Search pages').fill(words);
  await calm(300);
  await page.getByRole('treeitem').first().click();
  await page.getByLabel('Search pages').fill('');
  await page.keyboard.press('Escape');
};
const setTitle = async (title) => {
  await page.getByLabel(/^Title,/).fill(title);
  await page.keyboard.press('Enter');
  await calm();
};
// Both written whole: the first that holds some letters may be another one.
const settle = async (old, address) => {
  await page.getByLabel('Search addresses').fill(old);
  await calm(300);
  await page
    .getByRole('option')
    .filter({ has: page.getByText(old, { exact: true }) })
    .click();
  await page.keyboard.press('e');
  await page.keyboard.type(address);
  await calm(300);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await calm();
};

const removePage = async (address, why) => {
  await openPage(address);
  await page.getByRole('tree').press('Delete');
  await page.getByLabel(/^Why/).fill(why);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await calm(1200);
};

try {
  await page.goto(`http://localhost:${PORT}/`);
  await page.getByText('Fill it in').click();
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('link', { name: /Lanternmoor/ }).click();
  await page.getByRole('radio', { name: /^Worth a look 9/ }).click({ timeout: 30_000 });
  await page.getByRole('option').filter({ hasText: 'The refractor' }).click();
  await shoot('survey');
  await page.getByRole('radio', { name: /^Must be fixed/ }).click();
  for (let left = 3; left > 0; left -= 1) {
    await page.getByRole('option').first().click();
    await page.getByLabel('Take it on your name, because').fill('The next export mends it');
    await page.keyboard.press('Enter');
    await calm();
  }

  await go('g', 'pages');
  await openPage('/welcome/');
  await page.getByRole('button', { name: 'Use as home page' }).click();
  await calm();
  await shoot('home-choice');
  await page.getByRole('button', { name: 'Make it the home page' }).click();
  await calm();
  await openPage('/journal/');
  await page.getByRole('button', { name: 'List them here' }).click();
  await page.getByRole('button', { name: 'List them', exact: true }).click();
  await calm();
  await removePage('/visit/access/', 'Folded into Getting here');
  await openPage('getting-here');
  // Until every row in view has its picture.
  await page.waitForFunction(() => document.querySelectorAll('.picture.none').length === 0, undefined, {
    timeout: 60_000,
  });
  await shoot('pages');
  await page.getByRole('button', { name: /^Point at a text/ }).click();
  await calm(1500);
  await pointAt('Dip your lights');
  await shoot('point');
  await page.getByRole('button', { name: 'Back to the tree' }).click();
  await page.getByRole('radio', { name: 'Menus' }).click();
  await calm();
  await page.getByRole('treeitem').filter({ hasText: '/sky-tonight/' }).click();
  await shoot('menus');

  await go('r', 'redirects');
  await page.keyboard.press('b');
  await page.getByRole('radio', { name: 'Search index' }).click();
  await page.getByLabel('Domain to list').fill('lanternmoor.example');
  await page.getByRole('button', { name: 'Ask', exact: true }).click();
  await page.getByRole('listitem').filter({ hasText: 'search listing' }).waitFor();
  await calm(3000);
  await page
    .getByRole('listbox', { name: 'Old addresses' })
    .getByRole('option')
    .filter({ hasText: '/visit.php?id=7' })
    .click();
  await calm();
  await shoot('redirects');
  for (const [old, words] of [
    ['/visit.php?id=3', '/visit/'],
    ['/visit.php?id=7', '/visit/opening-times/'],
    ['/visit.php?id=12', '/visit/getting-here/'],
    ['/sky/tonight.php', '/sky-tonight/'],
    ['/sky/moon.php', '/sky-tonight/moon/'],
    ['/news/2016/05/mercury-transit.html', '/journal/transit-of-mercury/'],
  ])
    await settle(old, words);
  await page.getByLabel('Search addresses').fill('/index.php');
  await calm(300);
  await page.getByRole('option').first().click();
  await page.keyboard.press('h');
  await calm();
  await page.getByLabel('Search addresses').fill('');
  await page.getByRole('radio', { name: /^All/ }).click();
  await page.getByRole('button', { name: /^Many at once/ }).click();
  await page.getByRole('button', { name: /^Settle \d+ address/ }).click();
  await calm(2000);

  await go('a', 'address');
  await page.getByLabel('The name, as you would type it').fill('www.lanternmoor.example');
  await page.keyboard.press('Enter');
  await page.getByRole('tab', { name: /^Records/ }).click();
  await page.getByRole('button', { name: 'Send as DNS update' }).waitFor();
  await shoot('address');
  await page.getByRole('tab', { name: /^Host/ }).click();
  await page.getByText('Two-bay', { exact: true }).click();
  await shoot('host');
  await page.getByRole('tab', { name: /^Records/ }).click();
  await page.getByRole('button', { name: 'Send as DNS update' }).click();
  await page.getByText('The last old answer runs out').waitFor();
  const domain = (name) => page.getByRole('button', { name: new RegExp(`^${name}`) });
  await page.getByLabel('A further or an old domain that should lead here').fill('lantern-moor.example');
  await page.keyboard.press('Enter');
  await domain('lantern-moor.example').click();
  await page.getByRole('button', { name: 'Send as DNS update' }).click();
  await page.getByRole('heading', { name: 'The records are right' }).waitFor();
  await domain('lanternmoor.example').click();
  await shoot('spread');

  await go('p', 'publish');
  await page.getByRole('button', { name: 'Publish release 1' }).click();
  await page.getByText('Live and draft are the same: release 1').waitFor({ timeout: 30_000 });
  await go('g', 'pages');
  await openPage('/about/people');
  await setTitle('People, and a cat');
  await openPage('/visit/telescope');
  await setTitle('Hire a telescope');
  await go('p', 'publish');
  await page.getByLabel('Note for the ladder').fill('Shorter titles');
  await page.getByRole('button', { name: 'Publish release 2' }).click();
  await page.getByText('Live and draft are the same: release 2').waitFor({ timeout: 30_000 });
  // Pictures of what is live, to set the next change beside.
  await calm(12_000);
  await go('g', 'pages');
  await removePage('/about/privacy/', 'The client’s lawyer sends a new one');
  await removePage('/observatory/', '');
  await openPage('getting-here');
  await page.getByRole('button', { name: 'Remove By car' }).click();
  await calm();
  await page.getByRole('radio', { name: /^Removed/ }).click();
  await page.getByRole('option').filter({ hasText: '/observatory/' }).click();
  await calm(2500);
  await shoot('removed');
  await page.getByRole('radio', { name: 'In releases' }).click();
  await page.getByLabel('Which release').selectOption('1');
  await page.getByLabel('Search the release').fill('visit');
  await page.getByRole('option').filter({ hasText: '/visit/getting-here/' }).click();
  await calm(2500);
  await shoot('releases');
  for (let left = 3; left > 0; left -= 1) {
    await page.keyboard.press('Control+z');
    await calm(1200);
  }
  await page.getByRole('radio', { name: 'In place' }).click();
  await openPage('/learn/star-party');
  await page.getByRole('button', { name: /^Point at a text/ }).click();
  await calm(1500);
  await pointAt('Three nights in October');
  await page
    .getByRole('textbox', { name: 'The text' })
    .fill(
      'Four nights in October this year: bring a telescope, or look through somebody else’s. The car park closes at ten, so walk up from the chapel; there will be lanterns. Soup for everybody, and for those who can name six constellations a second bowl.',
    );
  await page.getByRole('button', { name: 'Set the text' }).click();
  await calm();
  await page.getByRole('button', { name: 'Back to the tree' }).click();
  await go('m', 'metadata');
  await page.getByRole('radio', { name: 'Whole site' }).click();
  const setting = async (words) => {
    await page.getByRole('searchbox').fill(words);
    await page.getByRole('option').filter({ hasText: words }).first().click();
    await page.getByRole('searchbox').fill('');
    await calm();
  };
  const set = async (label, text) => {
    await setting(label);
    await page.getByRole('textbox', { name: label, exact: true }).fill(text);
    await page.getByRole('button', { name: 'Set', exact: true }).click();
    await calm();
  };
  await set('Author', 'Lanternmoor Observatory');
  for (const label of ['Canonical address on every page', 'sitemap.xml']) {
    await setting(label);
    await page.getByRole('radio', { name: 'On', exact: true }).click();
    await calm();
  }
  await set('robots.txt', 'User-agent: *\nDisallow: /about/privacy/\n');
  await page.getByLabel('Address', { exact: true }).fill('/about/privacy/');
  await shoot('site-metadata');
  await page.getByRole('radio', { name: 'Page by page' }).click();
  await page.getByRole('option').filter({ hasText: '/about/history/' }).click();
  await page.getByRole('button', { name: /^Take the first paragraph/ }).click();
  await calm(2500);
  await shoot('metadata');
  await go('r', 'redirects');
  await page.getByRole('radio', { name: /^To settle/ }).click();
  await settle('/schools/ks2-workshop.htm', '/learn/workshops/primary/');
  await page.getByLabel('Search addresses').fill('/shop/');
  await calm(300);
  await page.getByRole('option').first().click();
  await page.keyboard.press('x');
  await calm();
  await go('p', 'publish');
  const visitors = page.getByRole('region', { name: 'Who can visit' });
  await visitors.getByRole('button', { name: /^Another part/ }).click();
  await visitors.getByRole('radio', { name: 'A page and what is below' }).click();
  await visitors.getByPlaceholder('letters of a title or address').fill('/about/people/');
  await calm(300);
  await page.keyboard.press('Enter');
  await visitors.getByRole('button', { name: 'Set it' }).click();
  await calm(2500);
  await page.getByRole('option').filter({ hasText: '/learn/star-party/' }).click();
  await page.locator('.looks img').nth(1).waitFor({ timeout: 60_000 });
  await page.getByRole('heading', { name: 'Release 3', exact: true }).scrollIntoViewIfNeeded();
  await shoot('publish');
  await go('r', 'redirects');
  await page.getByRole('button', { name: /^Prove/ }).click();
  await page.getByRole('button', { name: /^Ask the live host/ }).click();
  await page.getByText('Every answer is as it was published.').waitFor({ timeout: 60_000 });
  await calm(1500);
  await shoot('proof');

  // Nine days of visitors, more of them each day; one link that many follow on the last.
  const all = [
    '/',
    '/visit/',
    '/learn/',
    '/journal/',
    '/cy/',
    '/sky-tonight/',
    '/visit.php?id=3',
    '/visit.php?id=7',
    '/index.php',
  ];
  const lost = [
    ['/visit.php?id=99', 'https://www.moorland-walks.example/links.html', 2],
    ['/openevenings/2019', 'https://school.example/trips', 1],
    ['/tickets.php', undefined, 1],
    ['/pdf/leaflet-old.pdf', 'https://library.example/', 1],
  ];
  for (let day = 0; day < 9; day += 1) {
    for (const path of all) for (let n = 0; n < 2 + day; n += 1) await visit(path);
    for (const [path, from, often] of lost)
      for (let n = 0; n < often * (day === 8 && often === 2 ? 9 : 1); n += 1) await visit(path, from);
    if (day < 8) await runOn(24 * 3_600_000);
  }
  // The page learns of another clock in a while; now is soon enough.
  await page.reload();
  await calm(2000);
  await go('w', 'watch');
  await page.getByRole('button', { name: 'Read now' }).click();
  await calm(6000);
  await page.getByRole('option').filter({ hasText: '/visit.php?id=99' }).click();
  await shoot('watch');
  await page.getByRole('radio', { name: /^Host/ }).click();
  await shoot('watch-host');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('day of the move');
  await page.keyboard.press('Enter');
  await page.waitForURL('**/move');
  await calm(2500);
  await shoot('move');

  await page.goto(`http://localhost:${PORT}/people`);
  await page.getByRole('button', { name: /Petra Quill/ }).click();
  await page.getByRole('radio', { name: 'Only these' }).click();
  await calm();
  await shoot('people');
} catch (error) {
  // Where it went wrong says more than the message.
  await page.screenshot({ path: join(tmpdir(), 'fastigium-screenshots-failed.png') });
  throw error;
} finally {
  await browser.close();
  command.kill('SIGINT');
  await ended;
  rmSync(data, { recursive: true, force: true });
}

/** A visitor's browser at the demo's live site. */
function visit(path, from) {
  return new Promise((resolve, reject) => {
    request(
      {
        host: '127.0.0.1',
        port: PORT + 2,
        path,
        agent: false,
        headers: {
          host: 'lanternmoor.localhost',
          'user-agent': 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0',
          ...(from ? { referer: from } : {}),
        },
      },
      (answer) => {
        answer.resume();
        answer.on('end', resolve);
      },
    )
      .on('error', reject)
      .end();
  });
}

/** Lets the world's clock run on. */
async function runOn(byMs) {
  await page.evaluate(async (ms) => {
    const { csrfToken } = await (await fetch('/api/session')).json();
    await fetch('/api/stand-ins/clock', {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken },
      body: JSON.stringify({ byMs: ms }),
    });
  }, byMs);
  await calm(2500);
}

/** Clicks in the page to point at, which stands scaled in its frame. */
async function pointAt(words) {
  const frame = page.frames().find((each) => /-p\.preview\./.test(each.url()));
  const at = await page.locator('iframe').boundingBox();
  const scale = await page
    .locator('iframe')
    .evaluate((element) => element.getBoundingClientRect().width / element.offsetWidth);
  const inside = await frame
    .getByText(words)
    .first()
    .evaluate((element) => {
      const box = element.getBoundingClientRect();
      return { x: box.x + 30, y: box.y + 10 };
    });
  await page.mouse.click(at.x + inside.x * scale, at.y + inside.y * scale);
}
