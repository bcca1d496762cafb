/** Fifty thousand old addresses scrolled and settled by keyboard in a real browser: the longest task of its main thread. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { chromium } from '@playwright/test';
import { addListed } from '../apps/server/src/features/redirects/routes.ts';
import { readRedirectRows } from '../apps/server/src/features/redirects/rows.ts';
import type { Figure } from './figures.ts';
import { openBenchHouse } from './house.ts';
import { scrolled, signedIn } from './ledgers.ts';

const ADDRESSES = 50_000;
const PAGES = 1000;
const SETTLED = 20;
/** Tasks shorter than this are not told of (W3C Long Tasks API, section 1). */
const LONG_MS = 50;

export async function settlingBench(): Promise<Figure[]> {
  const house = await openBenchHouse({ FASTIGIUM_WEB_FOLDER: new URL('../apps/web/dist', import.meta.url).pathname });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const folder = join(house.folder, 'settling');
    writePages(folder);
    const site = await house.bringIn('Settling', folder);
    await house.quiet();
    await addListed(
      house.deps,
      { site, by: house.owner.id },
      Array.from({ length: ADDRESSES }, (_, n) => ({
        address: `/old-${n % 97}/subject-${n % PAGES}-${n}.php`,
        visits: ADDRESSES - n,
      })),
    );
    await house.quiet();
    const before = performance.now();
    await readRedirectRows(house.deps, site);
    console.log(`rows of ${ADDRESSES} reckoned in ${Math.round(performance.now() - before)} ms`);
    const page = await signedIn(browser, house.url);
    const list = await scrolled(page, `${house.url}/sites/${site}/redirects`, 'option');
    await page.evaluate(() => {
      (globalThis as unknown as { tasks: number[] }).tasks.length = 0;
    });
    await page.locator('.ledger-list').focus();
    const begun = performance.now();
    for (let n = 0; n < SETTLED; n += 1) {
      const selected = page.locator('.ledger-list [aria-selected="true"]');
      const was = (await selected.textContent()) ?? '';
      await page.keyboard.press('x');
      await page.waitForFunction(
        (text) => document.querySelector('.ledger-list [aria-selected="true"]')?.textContent !== text,
        was,
      );
    }
    const seconds = (performance.now() - begun) / 1000;
    await house.quiet();
    await page.waitForTimeout(3000);
    const tasks = await page.evaluate(() => (globalThis as unknown as { tasks: number[] }).tasks);
    return [
      {
        name: `longest task while ${ADDRESSES.toLocaleString('en')} old addresses are scrolled`,
        value: list.longestMs,
        unit: 'ms',
        most: LONG_MS,
        from: `${list.tasks} over ${LONG_MS} ms; ${list.rows} rows passed`,
      },
      {
        name: `longest task while ${SETTLED} of them are settled`,
        value: Math.max(0, ...tasks),
        unit: 'ms',
        most: LONG_MS,
        from: `${tasks.length} over ${LONG_MS} ms; ${(seconds / SETTLED).toFixed(2)} s each`,
      },
    ];
  } finally {
    await browser.close();
    await house.stop();
  }
}

function writePages(folder: string): void {
  for (let n = 0; n < PAGES; n += 1) {
    const file = join(folder, n === 0 ? 'index.html' : `part-${n % 20}/subject-${n}/index.html`);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(
      file,
      `<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Subject ${n}</title></head><body><h1>Subject ${n}</h1></body></html>`,
    );
  }
}
