/** The tree of pages, the table of their metadata and the list of snags scrolled at 50,000 rows in a real browser: the longest task of its main thread. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { chromium, type Browser, type Page } from '@playwright/test';
import { checkDraft } from '../apps/server/src/features/snags/checkDraft.ts';
import type { Figure } from './figures.ts';
import { openBenchHouse, OWNER } from './house.ts';

const PAGES = 49_999;
/** Tasks shorter than this are not told of (W3C Long Tasks API, section 1). */
const LONG_MS = 50;

export async function ledgersBench(): Promise<Figure[]> {
  const house = await openBenchHouse({ FASTIGIUM_WEB_FOLDER: new URL('../apps/web/dist', import.meta.url).pathname });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const folder = join(house.folder, 'ledgers');
    writeManyPages(folder);
    const site = await house.bringIn('Ledgers', folder);
    await checkDraft(house.deps, site);
    await house.quiet();
    const { snags } = await house.deps.db.one<{ snags: number }>(
      'select least(50000, count(*))::int as snags from snag where site_id = $1',
      [site],
    );
    const page = await signedIn(browser, house.url);
    const tree = await scrolled(page, `${house.url}/sites/${site}/pages`, 'treeitem');
    const table = await scrolled(page, `${house.url}/sites/${site}/metadata`, 'option');
    const list = await scrolled(page, `${house.url}/sites/${site}/survey?show=look`, 'option');
    return [
      {
        name: `longest task while ${PAGES.toLocaleString('en')} pages are scrolled`,
        value: tree.longestMs,
        unit: 'ms',
        most: LONG_MS,
        from: `${tree.tasks} over ${LONG_MS} ms; ${tree.rows} rows passed`,
      },
      {
        name: `longest task while metadata of ${PAGES.toLocaleString('en')} pages is scrolled`,
        value: table.longestMs,
        unit: 'ms',
        most: LONG_MS,
        from: `${table.tasks} over ${LONG_MS} ms; ${table.rows} rows passed`,
      },
      {
        name: `longest task while ${snags.toLocaleString('en')} snags are scrolled`,
        value: list.longestMs,
        unit: 'ms',
        most: LONG_MS,
        from: `${list.tasks} over ${LONG_MS} ms; ${list.rows} rows passed`,
      },
    ];
  } finally {
    await browser.close();
    await house.stop();
  }
}

export async function signedIn(browser: Browser, url: string): Promise<Page> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(url);
  await page.getByLabel('E-mail').fill(OWNER.email);
  await page.getByLabel('Password').fill(OWNER.password);
  await page.keyboard.press('Enter');
  // Whole, since the sign-in page's own address ends in ?then=/sites.
  await page.waitForURL(`${url}/sites`);
  return page;
}

/** By wheel a little and a lot, and by jumps from end to end. */
export async function scrolled(
  page: Page,
  url: string,
  role: 'treeitem' | 'option',
): Promise<{ longestMs: number; tasks: number; rows: number }> {
  await page.goto(url);
  const rowsShown = page.locator('.ledger-list').getByRole(role);
  await rowsShown.first().waitFor({ timeout: 120_000 });
  await page.waitForTimeout(3000);
  await page.evaluate(() => {
    const tasks: number[] = [];
    Object.assign(globalThis, { tasks });
    new PerformanceObserver((list) => tasks.push(...list.getEntries().map(({ duration }) => duration))).observe({
      type: 'longtask',
    });
  });
  const rows = new Set<string>();
  const note = async () => {
    for (const at of await rowsShown.evaluateAll((all) => all.map((each) => each.getAttribute('aria-posinset') ?? '')))
      rows.add(at);
  };
  await rowsShown.nth(3).hover();
  for (let turn = 0; turn < 60; turn += 1) {
    await page.mouse.wheel(0, turn < 30 ? 120 : 4000);
    await page.waitForTimeout(30);
    if (turn % 10 === 9) await note();
  }
  for (const part of [0.5, 1, 0.25, 0]) {
    await rowsShown.first().evaluate((row, to) => {
      const list = row.closest('.ledger-list');
      if (list) list.scrollTop = list.scrollHeight * to;
    }, part);
    await page.waitForTimeout(400);
    await note();
  }
  const tasks = await page.evaluate(() => (globalThis as unknown as { tasks: number[] }).tasks);
  return { longestMs: Math.max(0, ...tasks), tasks: tasks.length, rows: rows.size };
}

/** Small pages with a title and no description, so that each has something worth a look. */
function writeManyPages(folder: string): void {
  for (let n = 0; n < PAGES; n += 1) {
    const file = join(folder, n === 0 ? 'index.html' : `part-${Math.floor(n / 100)}/page-${n}.html`);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(
      file,
      `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Page ${n}</title></head><body><h1>Page ${n}</h1><a href="/part-${Math.floor(((n + 1) % PAGES) / 100)}/page-${(n + 1) % PAGES || 1}.html">Next</a></body></html>`,
    );
  }
}
