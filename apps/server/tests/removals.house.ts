/** What the tests of removing and putting back share: a house, a site for each test, and asking both. */
import type { HistoryRow } from '@fastigium/contracts/api/draft';
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import { speak } from '../src/words.ts';
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import type { PageInside } from '@fastigium/contracts/api/pages';
import type { RemovalList } from '@fastigium/contracts/api/removals';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, beforeEach } from 'vitest';
import { compileDraft } from '../src/features/draft/compileDraft.ts';
import type { Client } from './client.ts';
import { openHouse, zip, type House } from './harness.ts';
import { demoFiles as wholeDemo } from './pages.files.ts';

/** The demo's English half without its pictures: many sites are made of it. */
export const demoFiles = () =>
  Object.fromEntries(
    Object.entries(wholeDemo()).filter(([path]) => !/^(cy|pictures|observatory|sky-tonight)\//.test(path)),
  );

export let house: House;
export let site: string;
let files: Awaited<ReturnType<typeof zip>>;
export let sites = 0;

/** For the tests of one file. */
export function useRemovals(): void {
  beforeAll(async () => {
    house = await openHouse();
    files = await zip(demoFiles());
  }, 120_000);
  afterAll(() => house.stop());
  beforeEach(async () => {
    site = await house.owner.newSite(`Site ${(sites += 1)}`);
    await house.owner.bringIn(site, files);
  });
}

export const decide = async (decision: object) => {
  const answer = await house.owner.decide(site, decision);
  return {
    status: answer.status,
    words: answer.status === 201 ? speak(answer.body.message) : '',
    code: answer.body.error?.code,
    message: answer.body.error?.message,
  };
};
export const tree = async () =>
  (await house.owner.get<{ pages: PageRow[]; removed: RemovedRow[] }>(`/api/sites/${site}/pages`)).body;
export const at = async (address: string): Promise<PageRow> => house.owner.page(site, address);
export const list = async () => (await house.owner.get<RemovalList>(`/api/sites/${site}/removals`)).body;
export const last = async (): Promise<number> => (await list()).rows[0]?.of ?? 0;
export const remove = (node: string, more: object = {}) =>
  decide({ kind: 'remove', thing: { kind: 'node', node }, ...more });
export const putBack = (of: number, more: object = {}) => decide({ kind: 'put-back', things: [{ of }], ...more });
export const compiled = async () => {
  const { shards, rules, files: count } = await compileDraft(house.server.deps, site);
  return { shards: [...shards], rules: rules.rules, count };
};
export const inside = async (page: string) =>
  (await house.owner.get<PageInside>(`/api/sites/${site}/pages/${page}/inside`)).body;
export const addresses = async () =>
  (await tree()).pages.map(({ address, depth }) => `${'  '.repeat(depth)}${address}`);

/** Somebody else of the team. */
export async function colleague(role: string, email: string): Promise<Client> {
  const { body } = await house.owner.post<{ token: string }>('/api/invitations', { role });
  const client = house.client();
  await client.start();
  await client.post(`/api/join/${body.token}`, { name: email.split('@')[0], email, password: 'a long enough one' });
  return client;
}
export const forGood = async (of: readonly number[], confirmed: string, client = house.owner) => {
  const { version } = await house.owner.overview(site);
  const { status, body } = await client.post<{ message?: DecisionMessage; error?: { code: string; message: string } }>(
    `/api/sites/${site}/removals/for-good`,
    { version, of, confirmed },
  );
  return { status, words: body.message && speak(body.message), code: body.error?.code, message: body.error?.message };
};
export const DAY_MS = 86_400_000;
export const runOn = (days: number) => house.owner.post('/api/stand-ins/clock', { byMs: days * DAY_MS });
export const until = async <T>(read: () => Promise<T>, isRight: (value: T) => boolean): Promise<T> => {
  for (let turn = 0; turn < 400; turn += 1) {
    const value = await read();
    if (isRight(value)) return value;
    await pause(25);
  }
  return read();
};
export const history = async () =>
  (await house.owner.get<{ rows: HistoryRow[] }>(`/api/sites/${site}/history`)).body.rows;
