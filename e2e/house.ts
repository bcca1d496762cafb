/** What every walk through the application needs. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

export const port = Number(process.env.FASTIGIUM_E2E_PORT);
export const app = `http://localhost:${port}`;
export const demo = new URL('../demo/lanternmoor/', import.meta.url).pathname;
export const { owner } = JSON.parse(readFileSync(join(demo, 'scenario.json'), 'utf8')) as { owner: { email: string; password: string } };

export async function go(page: Page, letter: string, station: string): Promise<void> {
  await page.keyboard.press('g');
  await page.keyboard.press(letter);
  await page.waitForURL(`**/${station}**`);
}

export async function signIn(page: Page): Promise<void> {
  await page.goto(app);
  await page.getByLabel('E-mail').fill(owner.email);
  await page.getByLabel('Password').fill(owner.password);
  await page.keyboard.press('Enter');
  // Whole, since the sign-in page's own address ends in ?then=/sites.
  await page.waitForURL(`${app}/sites`);
}

/** Brings in a real site nobody here wrote, from a folder, as a new one. */
export async function bringInReference(page: Page, name: string): Promise<void> {
  await page.getByTestId('folder').setInputFiles('/usr/share/developers-reference');
  await page.getByLabel('Name of the site').fill(name);
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.waitForURL('**/survey');
  await expect(page.getByRole('treeitem').filter({ hasText: '/best-pkging-practices.html' })).toBeVisible({ timeout: 30_000 });
}

/** Serious faults that a machine can see, by the rules of WCAG 2.2 A and AA; what imported pages show is theirs. */
export async function expectAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).exclude('iframe').withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(' | ')}`)).toEqual([]);
}
