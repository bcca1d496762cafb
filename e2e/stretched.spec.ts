/**
 * The interface in a language nobody speaks, a third longer than English and every phrase between brackets: what stands
 * without them is in no catalogue, and nothing may be cut off or stand over something else. A third is common practice
 * for texts of this length from English to German.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { app, owner } from './house.ts';

const root = new URL('..', import.meta.url).pathname;
let built = '';

test.beforeAll(() => {
  built = mkdtempSync(join(tmpdir(), 'fastigium-stretched-'));
  const { status, stderr } = spawnSync(
    'npx',
    ['vite', 'build', 'apps/web', '--mode', 'stretched', '--outDir', built, '--emptyOutDir', '--logLevel', 'error'],
    { cwd: root, encoding: 'utf8' },
  );
  expect(status, stderr).toBe(0);
});
test.afterAll(() => rmSync(built, { recursive: true, force: true }));

/** The built files in place of the server's, its own page with the headers and the nonce that it sends. */
async function serveStretched(page: Page): Promise<void> {
  const index = readFileSync(join(built, 'index.html'), 'utf8');
  await page.route(`${app}/**`, async (route) => {
    const { pathname } = new URL(route.request().url());
    if (pathname.startsWith('/api/')) return route.fallback();
    const file = join(built, pathname);
    if (pathname !== '/' && existsSync(file)) return route.fulfill({ path: file });
    const response = await route.fetch();
    const nonce = /'nonce-([^']+)'/.exec(response.headers()['content-security-policy'] ?? '')?.[1] ?? '';
    return route.fulfill({ response, body: index.replaceAll('__NONCE__', nonce) });
  });
}

/** Every text that the server sent: it is data, or words of its own. */
function textsSent(page: Page): string[] {
  const texts: string[] = [];
  const gather = (value: unknown): void => {
    if (typeof value === 'string') texts.push(value);
    else if (typeof value === 'object' && value !== null) Object.values(value).forEach(gather);
  };
  page.on('response', async (response) => {
    if (response.headers()['content-type']?.includes('json')) gather(await response.json().catch(() => null));
  });
  return texts;
}

interface Seen {
  /** Texts outside of brackets. */
  readonly bare: readonly string[];
  readonly cut: readonly string[];
}

/** Runs in the browser. */
function look(): Seen {
  // Addresses and source are as they are; keys are called as what is printed on them.
  const AS_IT_IS = 'svg, iframe, script, style, .address, kbd, pre, code, option';
  const isShown = (element: Element) => {
    const { width, height } = element.getBoundingClientRect();
    return width > 1 && height > 1 && getComputedStyle(element).visibility !== 'hidden';
  };
  /** What stands outside of brackets; a phrase may go on from one text to the next. */
  const outside = (texts: readonly string[]) => {
    let depth = 0;
    let left = '';
    for (const letter of texts.join('\n')) {
      if (letter === '⟦') depth += 1;
      if (depth === 0) left += letter;
      else if (letter === '⟧' && (depth -= 1) === 0) left += '\n';
    }
    // Several things side by side are said one by one: “: Orla Dormer”, “a, b”.
    return left.split(/\n|[:,;·] /).map((piece) => piece.replace(/\s+/g, ' ').replace('└', '').trim());
  };
  const textsOf = (element: Element) => {
    const nodes = document.createTreeWalker(element, NodeFilter.SHOW_TEXT);
    const texts: string[] = [];
    while (nodes.nextNode())
      if (!nodes.currentNode.parentElement?.closest(AS_IT_IS)) texts.push(nodes.currentNode.nodeValue ?? '');
    return texts;
  };
  const written = [...document.querySelectorAll('body *')].filter(
    (element) =>
      isShown(element) &&
      !element.closest(AS_IT_IS) &&
      [...element.childNodes].some(({ nodeType, nodeValue }) => nodeType === 3 && nodeValue?.trim()),
  );
  // A phrase may lie over several elements, a button within a paragraph too: what holds all of them is read as one.
  const wholes = new Set(
    written.map(
      (element) => element.closest('p, label, h1, h2, h3, dd, dt') ?? element.closest('button, a') ?? element,
    ),
  );
  const texts = [...wholes].flatMap((element) => outside(textsOf(element)));
  const attributes = [...document.querySelectorAll('[aria-label], [title], [placeholder]')]
    .filter((element) => isShown(element) && !element.closest('iframe'))
    .flatMap((element) =>
      ['aria-label', 'title', 'placeholder'].flatMap((name) => outside([element.getAttribute(name) ?? ''])),
    );
  const cut = written.flatMap((element) => {
    if (!element.textContent.includes('⟦') || element.closest('.one-line')) return [];
    const { right } = element.getBoundingClientRect();
    const isOver = element.scrollWidth > element.clientWidth + 1 && getComputedStyle(element).display !== 'inline';
    return right > innerWidth + 1 || isOver ? [`${element.tagName} ${element.textContent.trim().slice(0, 90)}`] : [];
  });
  return { bare: [...texts, ...attributes].filter((text) => /[A-Za-z]{2}/.test(text)), cut };
}

/** Days, sizes and languages as standards and `Intl` write them, and addresses, which are no matter of catalogues. */
const AS_WRITTEN =
  /^(?:(?:\w{3} )?\d{1,2} [A-Z][a-z]{2,3}(?: \d{4})?(?:, [\d:]+)?|[\d.]+ [kMG]?B|\p{L}+ \([a-z]{2,3}\)|\/.*)$/u;

test('every word of the main views is in a catalogue, and fits where it is a third longer', async ({ page }) => {
  const sent = textsSent(page);
  await serveStretched(page);
  await page.goto(app);
  await page.locator('input[type=email]').fill(owner.email);
  await page.locator('input[type=password]').fill(owner.password);
  await page.keyboard.press('Enter');
  await page.waitForURL(`${app}/sites`);
  const sites = await page.evaluate(
    async () => (await (await fetch('/api/sites')).json()) as { id: string; name: string }[],
  );
  // The demo's own: other walks change theirs meanwhile.
  const site = `/sites/${sites.find(({ name }) => name === 'Lanternmoor Observatory')?.id ?? ''}`;
  const stations = ['survey', 'address', 'pages', 'metadata', 'redirects', 'publish', 'watch', 'move'];
  for (const path of ['/sites', ...stations.map((each) => `${site}/${each}`), '/people', '/account', '/trail']) {
    await test.step(path.replace(site, ''), async () => {
      await page.goto(`${app}${path}`);
      await page.locator('h1, .ledger').first().waitFor();
      const views = page.locator('.ledger .head [role=radio], .list .bar [role=radio]');
      for (let view = -1; view < (await views.count()); view += 1) {
        if (view >= 0) await views.nth(view).click();
        await page.waitForLoadState('networkidle');
        const { bare, cut } = await page.evaluate(look);
        const forgotten = bare.filter((text) => !AS_WRITTEN.test(text) && !sent.some((each) => each.includes(text)));
        expect.soft(forgotten, `view ${view}`).toEqual([]);
        expect.soft(cut, `view ${view}`).toEqual([]);
      }
    });
  }
});
