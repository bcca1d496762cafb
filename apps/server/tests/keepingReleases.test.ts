/** Which releases are kept, in the database and at the host, and what that leaves of the others. */
import { readdir, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newLiveSite, openHouse, type House } from './harness.ts';

let house: House;
let site: string;
const states = async () =>
  Object.fromEntries((await house.owner.releases(site)).map(({ number, state }) => [number, state]));
const titled = async (title: string) => {
  await house.owner.decide(site, { kind: 'title', page: (await house.owner.page(site, '/visit/')).id, title });
  await house.owner.publish(site);
};
const calm = async () => {
  for (let n = 0; n < 100; n += 1) {
    const { runningJobs } = await house.owner.overview(site);
    if (runningJobs.length === 0) return;
    await new Promise((resolve) => {
      setTimeout(resolve, 50);
    });
  }
};
const contents = async () =>
  (await readdir(join(house.hostFolder, 'contents'), { recursive: true })).filter((name) => name.includes('/'));

beforeAll(async () => {
  house = await openHouse();
  site = await newLiveSite(house, 'Moor');
  for (const title of ['Two', 'Three', 'Four']) await titled(title);
  await calm();
});
afterAll(() => house.stop());

describe('the last two', () => {
  let before: number;
  beforeAll(async () => {
    await house.owner.put(`/api/sites/${site}/releases/1/pin`, { isPinned: true });
    before = (await contents()).length;
    expect((await house.owner.put(`/api/sites/${site}/releases/keeping`, { count: 2 })).status).toBe(200);
    await calm();
  });

  it('are kept, with the pinned one; of the other its line stays', async () => {
    expect(await states()).toEqual({ 1: 'past', 2: 'let-go', 3: 'past', 4: 'live' });
    const api = `/api/sites/${site}/releases`;
    for (const answer of [
      await house.owner.post(`${api}/2/rollback`),
      await house.owner.put(`${api}/2/pin`, { isPinned: true }),
    ])
      expect(answer).toMatchObject({ status: 404, body: { error: { code: 'release-not-kept' } } });
    expect((await house.owner.get(`/api/sites/${site}/releases/compare?before=1&after=2`)).status).toBe(404);
  });

  it('what only it had is deleted here, and what others have stays', async () => {
    const titles = await house.server.deps.db.many<{ title: string }>(
      `select substring(convert_from(bytes, 'UTF8') from '<title>([^<]*)') as title from content where convert_from(bytes, 'UTF8') like '%<title>T%' or convert_from(bytes, 'UTF8') like '%<title>F%'`,
    );
    expect(titles.map(({ title }) => title).sort()).toEqual(['Four', 'Three']);
    expect((await house.visit('moor.localhost', '/visit/')).body).toContain('<title>Four</title>');
  });

  it('the host is told with the next release, and keeps what came lately', async () => {
    const old = new Date(Date.now() - 2 * 86_400_000);
    for (const name of await contents()) await utimes(join(house.hostFolder, 'contents', name), old, old);
    await titled('Five');
    await calm();
    // Two and three are let go by now; a page of each went, one page came.
    expect(await states()).toEqual({ 1: 'past', 2: 'let-go', 3: 'let-go', 4: 'past', 5: 'live' });
    expect((await contents()).length).toBe(before + 1 - 2);
    expect((await stat(join(house.hostFolder, 'contents'))).isDirectory()).toBe(true);
  });

  it('going back to the pinned one works at once', async () => {
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases/1/rollback`);
    expect((await house.owner.ended(body.job)).state).toBe('done');
    expect((await house.visit('moor.localhost', '/visit/')).body).toContain('<title>Visit</title>');
  });

  it('fewer than two are refused', async () =>
    expect((await house.owner.put(`/api/sites/${site}/releases/keeping`, { count: 1 })).status).toBe(400));
});
