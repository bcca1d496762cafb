/** What every walk through the application needs. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { zipSync } from 'fflate';

export const port = Number(process.env.FASTIGIUM_E2E_PORT);
export const app = `http://localhost:${port}`;
export const demo = new URL('../demo/lanternmoor/', import.meta.url).pathname;
interface Account {
  readonly name: string;
  readonly email: string;
  readonly password: string;
}
export const { owner, editor } = JSON.parse(readFileSync(join(demo, 'scenario.json'), 'utf8')) as {
  owner: Account;
  editor: Account;
};

export async function go(page: Page, letter: string, station: string): Promise<void> {
  await page.keyboard.press('g');
  await page.keyboard.press(letter);
  await page.waitForURL(`**/${station}**`);
}

export async function enterPassword(page: Page, who: Pick<Account, 'email' | 'password'>): Promise<void> {
  await page.goto(app);
  await page.getByLabel('E-mail').fill(who.email);
  await page.getByLabel('Password').fill(who.password);
  await page.keyboard.press('Enter');
}

export async function signIn(page: Page, who: Account = owner): Promise<void> {
  await enterPassword(page, who);
  // Whole, since the sign-in page's own address ends in ?then=/sites.
  await page.waitForURL(`${app}/sites`);
}

export async function signOut(page: Page): Promise<void> {
  await page.getByRole('button', { name: /account$/ }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.getByLabel('E-mail').waitFor();
}

/** At the server, so that no answer under way brings it back; the page is told nothing. */
export async function endSession(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const ask = async <T>(path: string) => (await (await fetch(`/api${path}`)).json()) as T;
    const { csrfToken } = await ask<{ csrfToken: string }>('/session');
    const { sessions } = await ask<{ sessions: { id: string; isThis: boolean }[] }>('/account');
    const own = sessions.find(({ isThis }) => isThis);
    await fetch(`/api/account/sessions/${own?.id}`, { method: 'DELETE', headers: { 'x-csrf-token': csrfToken } });
  });
}

/** Brings in a real site nobody here wrote, from a folder, as a new one. */
export async function bringInReference(page: Page, name: string): Promise<void> {
  await page.getByTestId('folder').setInputFiles('/usr/share/developers-reference');
  await page.getByLabel('Name of the site').fill(name);
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.waitForURL('**/survey');
  await page.getByRole('radio', { name: /^Pages \d/ }).click();
  await expect(page.getByRole('treeitem').filter({ hasText: '/best-pkging-practices.html' })).toBeVisible();
}

/** Serious faults that a machine can see, by the rules of WCAG 2.2 A and AA; what imported pages show is theirs. */
export async function expectAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .exclude('iframe')
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(' | ')}`),
  ).toEqual([]);
}

/** Takes everything that must be fixed on one's name, so that a release is held by nothing. */
export async function letAllBe(page: Page): Promise<void> {
  await page.getByRole('radio', { name: /^Must be fixed [1-9]/ }).click();
  const rows = page.getByRole('listbox', { name: 'What came in' }).getByRole('option');
  await rows.first().waitFor();
  for (let left = await rows.count(); left > 0; left -= 1) {
    await rows.first().click();
    await page.getByLabel('Take it on your name, because').fill('Known to the client');
    await page.keyboard.press('Enter');
    await expect(rows).toHaveCount(left - 1);
  }
}

/** Clicks in a page to point at, which stands scaled in its frame. */
export async function point(page: Page, words: string | { selector: string }): Promise<void> {
  const pointing = () => page.frames().find((each) => /-p\.preview\./.test(each.url()));
  await expect.poll(() => pointing() !== undefined).toBe(true);
  const frame = pointing();
  if (!frame) throw new Error('there is no page to point at');
  await frame.waitForLoadState();
  const target = typeof words === 'string' ? frame.getByText(words) : frame.locator(words.selector);
  await target.first().waitFor();
  const at = await page.locator('iframe').boundingBox();
  const scale = await page
    .locator('iframe')
    .evaluate((element: HTMLElement) => element.getBoundingClientRect().width / element.offsetWidth);
  const inside = await target.first().evaluate((element) => {
    const box = element.getBoundingClientRect();
    return { x: box.x + Math.min(30, box.width / 2), y: box.y + Math.min(12, box.height / 2) };
  });
  await page.mouse.click((at?.x ?? 0) + inside.x * scale, (at?.y ?? 0) + inside.y * scale);
}

const site = join(demo, 'site');

/** The demo's finished site, by path. */
export const demoFiles = (): Record<string, Uint8Array> =>
  Object.fromEntries(
    readdirSync(site, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile())
      .map((entry) => {
        const file = join(entry.parentPath, entry.name);
        return [file.slice(site.length + 1), readFileSync(file)];
      }),
  );

export const archive = (content: Record<string, Uint8Array>, name: string) => ({
  name,
  mimeType: 'application/zip',
  buffer: Buffer.from(zipSync(content)),
});

/** What a visitor of a site gets at the host: the page, or the status and where it leads. */
export async function liveAt(page: Page, name: string, path: string): Promise<string> {
  const answer = await page.request.get(`http://127.0.0.1:${port + 2}${path}`, {
    headers: { host: `${name}.localhost` },
    maxRedirects: 0,
  });
  return answer.status() === 200 ? answer.text() : `${answer.status()} ${answer.headers()['location'] ?? ''}`;
}

/** Chooses a page in the tree by words of its title or address. */
export async function openPage(page: Page, words: string): Promise<void> {
  await page.getByLabel('Search pages').fill(words);
  await page.getByRole('treeitem').first().click();
  await page.getByLabel('Search pages').fill('');
  await page.getByLabel('Search pages').press('Escape');
}

export async function publish(page: Page, number: number): Promise<void> {
  await go(page, 'p', 'publish');
  await page.getByRole('button', { name: `Publish release ${number}` }).click();
  await expect(page.getByText(`Live and draft are the same: release ${number}`)).toBeVisible();
}
