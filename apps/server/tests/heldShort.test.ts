/** Nothing of the database is held while worker threads work: not by a touch, a newer export or a check. */
import { afterAll, beforeEach, beforeAll, describe, expect, it } from 'vitest';
import type { Deps } from '../src/deps.ts';
import { decide } from '../src/features/draft/decide.ts';
import { applyImport } from '../src/features/imports/applyImport.ts';
import { checkDraft } from '../src/features/snags/checkDraft.ts';
import { expectFree, type House, openHouse, settled, zip } from './harness.ts';

let house: House;
let site: string;
let by: { id: string; name: string };
const pageOf = (n: number, words = 'Same words everywhere') =>
  `<title>${n}</title><main><h1>${n}</h1><p>${words}</p><p>${'long enough to go to a thread '.repeat(400)}</p></main>`;
const files = (words?: string) => ({
  'index.html': pageOf(0, words),
  ...Object.fromEntries(Array.from({ length: 8 }, (_, n) => [`p${n}/index.html`, pageOf(n + 1, words)])),
});
const everywhere = {
  kind: 'text',
  scope: { kind: 'everywhere' },
  place: { tag: 'p', what: 'text', mark: 'Same words everywhere', nth: 0, under: '', way: '' },
} as const;

beforeAll(async () => {
  house = await openHouse();
  by = await house.server.deps.db.one<{ id: string; name: string }>('select id, name from person limit 1');
});
afterAll(() => house.stop());
beforeEach(async () => {
  site = await house.owner.newSite(`Held ${Math.random()}`);
  await house.owner.bringIn(site, await zip(files()));
  await settled(house, site);
});

/** Whatever is given to threads first asks for the site as whoever decides would, and for the pool outside a transaction. */
function watched(meanwhile: () => Promise<unknown> = () => Promise.resolve()): { deps: Deps; calls: () => number } {
  const { deps } = house.server;
  let calls = 0;
  const threads: Deps['threads'] = new Proxy(deps.threads, {
    get(target, name: keyof Deps['threads']) {
      const found = target[name];
      if (typeof found !== 'function') return found;
      return async (...given: unknown[]) => {
        const isFirst = (calls += 1) === 1;
        await expectFree(house, 'site', site);
        if (isFirst) await meanwhile();
        return (found as (...all: unknown[]) => unknown).apply(target, given);
      };
    },
  });
  return { deps: { ...deps, threads }, calls: () => calls };
}

const title = async (text: string) => {
  const [page] = await house.owner.pages(site);
  expect((await house.owner.decide(site, { kind: 'title', page: page?.id ?? '', title: text })).status).toBe(201);
};

describe('while threads work', () => {
  it('a touch of the whole site keeps nobody waiting, and is looked for once', async () => {
    const { deps, calls } = watched(() => title('Meanwhile'));
    const touch = { ...everywhere, to: 'Other words' };
    const { version } = await decide(deps, site, by, { version: 0, decision: { kind: 'touch', touch } });
    expect([version, calls()]).toEqual([2, 1]);
    expect(await placesKept()).toBe(9);
  });

  it('a touch is looked for again where there are other pages by then', async () => {
    const copied = async () => {
      const page = await house.owner.page(site, '/p1/');
      expect((await house.owner.decide(site, { kind: 'duplicate', page: page.id, title: 'Copy' })).status).toBe(201);
    };
    const { deps, calls } = watched(copied);
    const touch = { ...everywhere, to: 'Other words' };
    const { version } = await decide(deps, site, by, { version: 0, decision: { kind: 'touch', touch } });
    expect([version, calls()]).toEqual([2, 2]);
    expect(await placesKept()).toBe(10);
  });

  const placesKept = async () =>
    (
      await house.server.deps.db.one<{ count: number }>(
        'select count(*) as count from touch_place t join site s on s.current_import = t.import_id where s.id = $1',
        [site],
      )
    ).count;

  it('a newer export finds the places of touches before it holds the site', async () => {
    const touch = { ...everywhere, to: 'Other words' };
    expect((await house.owner.decide(site, { kind: 'touch', touch })).status).toBe(201);
    await house.owner.bringIn(site, await zip({ ...files(), 'new/index.html': pageOf(20) }), 'newer.zip', false);
    await settled(house, site);
    const { id } = await house.server.deps.db.one<{ id: string }>(
      `select id from import where site_id = $1 and state = 'reviewing'`,
      [site],
    );
    const { deps, calls } = watched();
    expect(await applyImport(deps, site, id, { by, import: id, version: 1, choices: {} })).toBe(2);
    expect(calls()).toBeGreaterThan(0);
    expect(await placesKept()).toBe(10);
  });

  it('a newer export is not applied over what was decided while its touches were looked for', async () => {
    const touch = { ...everywhere, to: 'Other words' };
    expect((await house.owner.decide(site, { kind: 'touch', touch })).status).toBe(201);
    await house.owner.bringIn(site, await zip(files('Same words everywhere and more')), 'newer.zip', false);
    await settled(house, site);
    const { id } = await house.server.deps.db.one<{ id: string }>(
      `select id from import where site_id = $1 and state = 'reviewing'`,
      [site],
    );
    const { deps } = watched(() => title('Meanwhile'));
    await expect(applyImport(deps, site, id, { by, import: id, version: 1, choices: {} })).rejects.toMatchObject({
      code: 'draft-stale',
    });
    expect((await house.owner.overview(site)).version).toBe(2);
    // It waits to be looked at, as it did.
    expect((await house.owner.get<{ import: string }>(`/api/sites/${site}/imports/review`)).body.import).toBe(id);
  });

  it('a check reads pages before it holds anything, and what another one has checked meanwhile is checked again', async () => {
    await house.server.deps.db.run('delete from check_state where site_id = $1', [site]);
    const { deps, calls } = watched();
    const checked = await checkDraft(deps, site);
    expect(checked.pagesRead).toBe(9);
    expect(calls()).toBeGreaterThan(0);

    const { db } = house.server.deps;
    const state = await db.one('select * from check_state where site_id = $1', [site]);
    await db.run('delete from check_state where site_id = $1', [site]);
    // As if another process had come first: what this one was about to keep is kept already.
    const other = watched(() =>
      db.run('insert into check_state select * from jsonb_populate_record(null::check_state, $1)', [
        JSON.stringify(state),
      ]),
    );
    expect((await checkDraft(other.deps, site)).pagesRead).toBe(0);
    expect(other.calls()).toBeGreaterThan(0);
  });
});
