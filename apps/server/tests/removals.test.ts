/** Removing and putting back through the API, as two designers do it; what visitors get is read at the host. */
import { parsePage, sections } from '@fastigium/core/html';
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import type { PageInside, MenuRow } from '@fastigium/contracts/api/pages';
import type { PutBackPreview, RemovalDetail, RemovalList, RemovePreview } from '@fastigium/contracts/api/removals';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { compileDraft } from '../src/features/draft/compileDraft.ts';
import { contentBytes } from '../src/features/contents.ts';
import { entriesOf } from '../src/features/manifests.ts';
import type { Client } from './client.ts';
import { letBe, openHouse, zip, type House } from './harness.ts';
import { demoFiles as wholeDemo } from './pages.files.ts';

/** The demo's English half without its pictures: many sites are made of it. */
const demoFiles = () => Object.fromEntries(Object.entries(wholeDemo()).filter(([path]) => !/^(cy|pictures|observatory|sky-tonight)\//.test(path)));

let house: House;
let site: string;
let files: Awaited<ReturnType<typeof zip>>;
let sites = 0;
beforeAll(async () => {
  house = await openHouse();
  files = await zip(demoFiles());
}, 120_000);
afterAll(() => house.stop());
beforeEach(async () => {
  site = await house.owner.newSite(`Site ${(sites += 1)}`);
  await house.owner.bringIn(site, files);
});

const decide = async (decision: object) => {
  const answer = await house.owner.decide(site, decision);
  return { status: answer.status, words: answer.body.words, code: answer.body.error?.code, message: answer.body.error?.message };
};
const tree = async () => (await house.owner.get<{ pages: PageRow[]; removed: RemovedRow[] }>(`/api/sites/${site}/pages`)).body;
const at = async (address: string): Promise<PageRow> => house.owner.page(site, address);
const list = async () => (await house.owner.get<RemovalList>(`/api/sites/${site}/removals`)).body;
const last = async (): Promise<number> => (await list()).rows[0]?.of ?? 0;
const remove = (node: string, more: object = {}) => decide({ kind: 'remove', thing: { kind: 'node', node }, ...more });
const putBack = (of: number, more: object = {}) => decide({ kind: 'put-back', things: [{ of }], ...more });
const compiled = async () => {
  const { shards, rules, files: count } = await compileDraft(house.server.deps, site);
  return { shards: [...shards], rules: rules.rules, count };
};
const inside = async (page: string) => (await house.owner.get<PageInside>(`/api/sites/${site}/pages/${page}/inside`)).body;
const addresses = async () => (await tree()).pages.map(({ address, depth }) => `${'  '.repeat(depth)}${address}`);

describe('a branch', () => {
  it('goes with all it holds and comes back as it was, byte for byte', async () => {
    const visit = await at('/visit/');
    await decide({ kind: 'title', page: visit.id, title: 'Come and see' });
    await decide({ kind: 'in-menus', page: (await at('/visit/groups/')).id, shown: false });
    await decide({ kind: 'redirect', from: '/old-visit', to: { status: 301, target: { kind: 'page', page: visit.id } } });
    const [before, order] = [await compiled(), await addresses()];
    const answer = await remove(visit.id, { standIn: { kind: 'home' }, links: 'unlinked', why: 'Closed for the winter' });
    expect(answer).toMatchObject({ status: 201, words: '“Come and see” removed, with 5 below it; its address leads to the home page' });
    const { pages, removed } = await tree();
    expect(pages.filter(({ address }) => address.startsWith('/visit/'))).toEqual([]);
    expect(removed.map(({ address, depth }) => `${'  '.repeat(depth)}${address}`)).toEqual(order.filter((row) => row.trim().startsWith('/visit/')));
    expect(removed[0]).toMatchObject({ removal: await last(), nth: 2 + order.filter((row) => !row.startsWith(' ')).indexOf('/visit/') - 1, menus: ['Main menu'], by: { initials: 'AS' } });
    const away = await compiled();
    expect(away.rules).toContainEqual({ from: '/visit/groups/', status: 301, to: '/' });
    // What landed there has nowhere to land; the list of redirects says so.
    expect(away.rules.some(({ from }) => from === '/old-visit')).toBe(false);
    expect(await putBack(await last())).toMatchObject({ status: 201, words: '“Come and see” put back, with 5 more' });
    expect(await addresses()).toEqual(order);
    expect(await compiled()).toEqual(before);
    expect((await list()).rows).toEqual([]);
    await decide({ kind: 'step', direction: 'back' });
    expect((await list()).rows).toMatchObject([{ label: 'Come and see', kind: 'branch', size: 6, left: 6, why: 'Closed for the winter', standsIn: 'home page', by: { name: 'Ada Stone' } }]);
    expect((await compiled()).shards).toEqual(away.shards);
  });

  it('says before it goes what leads there, and what visitors would lose', async () => {
    const visit = await at('/visit/');
    await decide({ kind: 'redirect', from: '/old-visit', to: { status: 301, target: { kind: 'page', page: visit.id } } });
    await house.owner.post(`/api/sites/${site}/old-addresses`, { text: '/visit/ 40\n/visit/groups/ 2', domain: null });
    const { body } = await house.owner.post<RemovePreview>(`/api/sites/${site}/removals/preview`, { thing: { kind: 'node', node: visit.id } });
    expect(body).toMatchObject({ label: 'Visit', goesInAll: 6, redirects: ['/old-visit'], roles: [], parent: null, hasAddress: true });
    expect(body.menus).toEqual(expect.arrayContaining([expect.stringMatching(/^Main menu.*“Visit”/)]));
    expect(body.linkedFrom.some(({ address }) => address.startsWith('/visit/'))).toBe(false);
    expect(body.linkedFromInAll).toBeGreaterThan(10);
  });

  it('keeps its place whatever happens around it', async () => {
    const journal = await at('/journal/');
    const names = (await tree()).pages.filter(({ parent }) => parent === journal.id);
    const [a, b, c, d] = names.map(({ id }) => id) as [string, string, string, string];
    // Two neighbours go, one after the other; the others change places; they come back the other way round.
    await remove(b);
    const first = await last();
    await remove(c);
    const second = await last();
    await decide({ kind: 'place', node: d, parent: journal.id, after: null });
    await putBack(first);
    await putBack(second);
    const order = (await tree()).pages.filter(({ parent }) => parent === journal.id).map(({ id }) => id).slice(0, 4);
    expect(order).toEqual([d, a, b, c]);
  });

  it('goes along where the page above it is renamed', async () => {
    const [visit, groups] = [await at('/visit/'), await at('/visit/groups/')];
    await remove(groups.id);
    await decide({ kind: 'rename', page: visit.id, address: '/come/' });
    await putBack(await last());
    expect(await at('/come/groups/')).toMatchObject({ id: groups.id, parent: visit.id });
  });

  it('comes back in part: one child below whatever stands above, then the rest around it', async () => {
    const visit = await at('/visit/');
    const order = await addresses();
    const groups = await at('/visit/groups/');
    await remove(visit.id);
    const of = await last();
    const preview = (await house.owner.post<PutBackPreview>(`/api/sites/${site}/removals/put-back-preview`, { things: [{ of, nodes: [groups.id] }] })).body;
    expect(preview).toMatchObject({ parentOut: { label: 'Visit' }, under: 'at the top', taken: [] });
    expect(await decide({ kind: 'put-back', things: [{ of, nodes: [groups.id] }] })).toMatchObject({ status: 201, words: '“Groups and schools” put back' });
    expect(await at('/visit/groups/')).toMatchObject({ depth: 0, parent: null });
    expect((await house.owner.get<RemovalDetail>(`/api/sites/${site}/removals/${of}`)).body.bundle.find(({ id }) => id === groups.id)).toMatchObject({ isOut: false });
    expect((await list()).rows).toMatchObject([{ size: 6, left: 5 }]);
    await putBack(of);
    expect(await addresses()).toEqual(order);
    // With the page above, without its other children.
    await remove(visit.id);
    await decide({ kind: 'put-back', things: [{ of: await last(), nodes: [groups.id] }], where: 'with-parents' });
    expect((await addresses()).filter((row) => row.trim().startsWith('/visit/'))).toEqual(['/visit/', '  /visit/groups/']);
    // Or at the top, where it stays although the page above comes back.
    await decide({ kind: 'step', direction: 'back' });
    await decide({ kind: 'put-back', things: [{ of: await last(), nodes: [groups.id] }], where: 'top' });
    expect((await addresses()).at(-1)).toBe('/visit/groups/');
  });

  it('alone leaves what it holds, which moves up in its place and back', async () => {
    const [visit, order] = [await at('/visit/'), await addresses()];
    await remove(visit.id, { thing: { kind: 'node', node: visit.id, alone: true } });
    expect(await addresses()).toEqual(order.filter((row) => row !== '/visit/').map((row) => (row.startsWith('  /visit/') ? row.slice(2) : row)));
    await putBack(await last());
    expect(await addresses()).toEqual(order);
  });
});

describe('an address that somebody else has by now', () => {
  it('is never written over: both stay, or they change places', async () => {
    const [groups, learn] = [await at('/visit/groups/'), await at('/learn/')];
    await remove(groups.id, { standIn: { kind: 'parent' } });
    const of = await last();
    await decide({ kind: 'rename', page: learn.id, address: '/visit/groups/' });
    const preview = (await house.owner.post<PutBackPreview>(`/api/sites/${site}/removals/put-back-preview`, { things: [{ of }] })).body;
    expect(preview.taken).toEqual([{ label: 'Groups and schools', address: '/visit/groups/', by: 'Learn', isFile: false, free: '/visit/groups-2/' }]);
    expect(await putBack(of)).toMatchObject({ status: 409, code: 'put-back-taken' });
    expect(await putBack(of, { taken: 'keep-both' })).toMatchObject({ status: 201, words: '“Groups and schools” put back; /visit/groups-2/ is a new address' });
    expect(await at('/visit/groups/')).toMatchObject({ id: learn.id });
    expect(await at('/visit/groups-2/')).toMatchObject({ id: groups.id });
    await decide({ kind: 'step', direction: 'back' });
    expect(await putBack(of, { taken: 'swap' })).toMatchObject({ status: 201 });
    expect(await at('/visit/groups/')).toMatchObject({ id: groups.id });
    expect(await at('/visit/groups-2/')).toMatchObject({ id: learn.id });
  });

  it('is answered by the page again where it was settled as an old address', async () => {
    const groups = await at('/visit/groups/');
    await remove(groups.id);
    await decide({ kind: 'redirect', from: '/visit/groups/', to: { status: 301, target: { kind: 'page', page: (await at('/learn/')).id } } });
    expect((await compiled()).rules).toContainEqual({ from: '/visit/groups/', status: 301, to: '/learn/' });
    await putBack(await last());
    expect((await compiled()).rules.some(({ from }) => from === '/visit/groups/')).toBe(false);
  });
});

describe('the home page', () => {
  it('goes only where another one takes over, and is home again when it comes back', async () => {
    const [front, learn, before] = [await at('/'), await at('/learn/'), await compiled()];
    expect(await remove(front.id)).toMatchObject({ code: 'removal-needs-home' });
    expect(await remove(front.id, { newHome: learn.id })).toMatchObject({ status: 201, words: expect.stringMatching(/“Learn” becomes the home page$/) });
    expect(await at('/')).toMatchObject({ id: learn.id, isHome: true });
    await putBack(await last());
    expect(await at('/')).toMatchObject({ id: front.id, isHome: true });
    expect(await compiled()).toEqual(before);
  });

  it('stays with whoever was chosen meanwhile', async () => {
    const [front, learn, visit] = [await at('/'), await at('/learn/'), await at('/visit/')];
    await remove(front.id, { newHome: learn.id });
    await decide({ kind: 'home', page: visit.id });
    await putBack(await last());
    expect(await at('/')).toMatchObject({ id: visit.id });
    expect((await tree()).pages.find(({ id }) => id === front.id)?.address).toMatch(/^\/.+/);
  });
});

describe('parts', () => {
  it('a section goes and comes back in its place, alone', async () => {
    const visit = await at('/visit/getting-here/');
    const [before, own] = [await compiled(), await inside(visit.id)];
    const section = own.sections[1];
    expect(section).toBeDefined();
    const thing = { kind: 'section', page: visit.id, section: { name: section?.name, nth: section?.nth } };
    expect(await decide({ kind: 'remove', thing })).toMatchObject({ status: 201 });
    const of = await last();
    expect((await inside(visit.id)).sections[1]).toMatchObject({ name: section?.name, out: true, removal: { of, by: { initials: 'AS' } } });
    expect((await compiled()).shards).not.toEqual(before.shards);
    expect((await house.owner.get<RemovalDetail>(`/api/sites/${site}/removals/${of}`)).body.text).toContain(section?.name);
    await putBack(of);
    expect(await compiled()).toEqual(before);
    // Its page away, it cannot stand anywhere.
    await decide({ kind: 'remove', thing });
    const again = await last();
    await remove(visit.id);
    expect(await putBack(again)).toMatchObject({ code: 'removed-with-page' });
  });

  it('a menu item keeps its place while others come, go and change places', async () => {
    const menus = async () => (await house.owner.get<{ menus: MenuRow[] }>(`/api/sites/${site}/menus`)).body.menus;
    const [menu] = await menus();
    if (!menu) throw new Error('the demo has menus');
    const before = await compiled();
    await decide({ kind: 'remove', thing: { kind: 'menu-item', menu: menu.id, path: [1] } });
    const of = await last();
    const items = (await menus())[0]?.items ?? [];
    expect(items[1]).toMatchObject({ label: menu.items[1]?.label, removed: of });
    await putBack(of);
    expect(await compiled()).toEqual(before);
    expect((await menus())[0]).toMatchObject({ isEdited: false });
    await decide({ kind: 'step', direction: 'back' });
    // Somebody who does not know of it writes the menu anew, the last item first.
    const known = items.filter(({ removed }) => removed === undefined);
    await decide({ kind: 'menu', menu: menu.id, items: [...known.slice(-1), ...known.slice(0, -1)], whereItDiffers: false });
    await putBack(of);
    const labels = ((await menus())[0]?.items ?? []).map(({ label }) => label);
    expect(labels).toEqual([known.at(-1)?.label, known[0]?.label, menu.items[1]?.label, ...known.slice(1, -1).map(({ label }) => label)]);
  });

  it('a file goes with where its address leads, and comes back', async () => {
    const before = await compiled();
    const { rows } = await house.server.deps.db.one<{ rows: string }>(`select min(address) as rows from source_file f join site s on s.current_import = f.import_id where s.id = $1 and page_id is null and path like '%.pdf'`, [site]);
    expect(await decide({ kind: 'remove', thing: { kind: 'file', address: rows }, standIn: { kind: 'gone' } })).toMatchObject({ status: 201 });
    const away = await compiled();
    expect(away.count).toBe(before.count - 1);
    expect(away.rules).toContainEqual({ from: rows, status: 410 });
    await putBack(await last());
    expect(await compiled()).toEqual(before);
  });

  it('a set of redirects comes back as it was, but what was settled otherwise meanwhile stays', async () => {
    const to = async (address: string) => ({ status: 301, target: { kind: 'page', page: (await at(address)).id } });
    for (const from of ['/one', '/two', '/three']) await decide({ kind: 'redirect', from, to: await to('/learn/') });
    await decide({ kind: 'pattern', id: null, text: '/shop/*', status: 410, target: null, ignoreCase: false, dropsQuery: false });
    await decide({ kind: 'pattern', id: null, text: '/store/*', status: 410, target: null, ignoreCase: false, dropsQuery: false });
    const before = await compiled();
    const patterns = (await house.owner.get<{ id: string; text: string }[]>(`/api/sites/${site}/patterns`)).body;
    await decide({ kind: 'remove', thing: { kind: 'redirects', froms: ['/one', '/two'], patterns: [patterns.find(({ text }) => text === '/shop/*')?.id] } });
    expect((await compiled()).rules.map(({ from }) => from).filter((from) => /one|two|shop/.test(from))).toEqual([]);
    await putBack(await last());
    expect(await compiled()).toEqual(before);
    await decide({ kind: 'step', direction: 'back' });
    await decide({ kind: 'redirect', from: '/two', to: await to('/visit/') });
    await putBack(await last());
    expect((await compiled()).rules).toContainEqual({ from: '/two', status: 301, to: '/visit/' });
    expect((await compiled()).rules).toContainEqual({ from: '/one', status: 301, to: '/learn/' });
  });
});

describe('links to what is removed', () => {
  it('stay, lead straight on, or become words, and are links again', async () => {
    const groups = await at('/visit/groups/');
    const source = async () => {
      const { deps } = house.server;
      const path = 'visit/index.html';
      const entry = (await entriesOf(deps.db, (await compileDraft(deps, site)).shards, [path])).get(path);
      return (await contentBytes(deps.db, entry?.hash ?? '')).toString('utf8');
    };
    const before = await source();
    expect(before).toContain('href="groups/"');
    await remove(groups.id, { standIn: { kind: 'home' } });
    expect(await source()).toBe(before);
    await decide({ kind: 'step', direction: 'back' });
    await remove(groups.id, { standIn: { kind: 'home' }, links: 'lead-on' });
    expect(await source()).toContain('href="../"');
    await decide({ kind: 'step', direction: 'back' });
    await remove(groups.id, { links: 'unlinked' });
    const unlinked = await source();
    expect(unlinked).not.toContain('href="groups/"');
    expect(unlinked.replace(/<[^>]*>/g, '')).toBe(before.replace(/<[^>]*>/g, ''));
    await putBack(await last());
    expect(await source()).toBe(before);
  });
});

/** Somebody else of the team. */
async function colleague(role: string, email: string): Promise<Client> {
  const { body } = await house.owner.post<{ token: string }>('/api/invitations', { role });
  const client = house.client();
  await client.start();
  await client.post(`/api/join/${body.token}`, { name: email.split('@')[0], email, password: 'a long enough one' });
  return client;
}
const forGood = async (of: readonly number[], confirmed: string, client = house.owner) => {
  const { version } = await house.owner.overview(site);
  const { status, body } = await client.post<{ words?: string; error?: { code: string; message: string } }>(`/api/sites/${site}/removals/for-good`, { version, of, confirmed });
  return { status, words: body.words, code: body.error?.code, message: body.error?.message };
};
const DAY_MS = 86_400_000;
const runOn = (days: number) => house.owner.post('/api/stand-ins/clock', { byMs: days * DAY_MS });
const until = async <T>(read: () => Promise<T>, isRight: (value: T) => boolean): Promise<T> => {
  for (let turn = 0; turn < 400; turn += 1) {
    const value = await read();
    if (isRight(value)) return value;
    await pause(25);
  }
  return read();
};
const words = async () => (await house.owner.get<{ words: string; by: { name: string } | null; isStep: boolean }[]>(`/api/sites/${site}/history`)).body;

describe('removing for good', () => {
  it('is an owner’s, names what goes, and leaves where its addresses lead', async () => {
    const [groups, editor] = [await at('/visit/groups/'), await colleague('editor', 'dai@sweep.example')];
    const { version } = await house.owner.overview(site);
    expect((await editor.post(`/api/sites/${site}/decisions`, { version, decision: { kind: 'remove', thing: { kind: 'node', node: groups.id }, standIn: { kind: 'parent' } } })).status).toBe(201);
    const of = await last();
    expect(await forGood([of], 'Groups and schools', editor)).toMatchObject({ status: 403 });
    expect(await forGood([of], 'Groups')).toMatchObject({ code: 'confirmation-differs', message: expect.stringContaining('type Groups and schools') });
    expect(await forGood([of], 'Groups and schools')).toMatchObject({ status: 200, words: '“Groups and schools” removed for good' });
    // What it led to goes on as a redirect of its own, and whoever had removed it is told.
    expect((await compiled()).rules).toContainEqual({ from: '/visit/groups/', status: 301, to: '/visit/' });
    const notices = (await editor.get<{ id: string; words: string }[]>(`/api/sites/${site}/notices`)).body;
    expect(notices).toMatchObject([{ words: 'Ada Stone removed for good “Groups and schools”, which you had removed.' }]);
    expect((await house.owner.get(`/api/sites/${site}/notices`)).body).toEqual([]);
    await editor.post(`/api/sites/${site}/notices/${notices[0]?.id ?? ''}/seen`);
    expect((await editor.get(`/api/sites/${site}/notices`)).body).toEqual([]);
    expect(await putBack(of)).toMatchObject({ status: 410, code: 'removal-swept' });
    expect(await decide({ kind: 'undo', of })).toMatchObject({ status: 410, code: 'removal-swept' });
    expect((await words())[0]).toMatchObject({ isStep: false });
  });

  it('stops at what somebody holds, and takes nothing then', async () => {
    const [groups, access, editor] = [await at('/visit/groups/'), await at('/visit/access/'), await colleague('editor', 'eli@sweep.example')];
    await remove(groups.id);
    await remove(access.id);
    const [second, first] = (await list()).rows.map(({ of }) => of) as [number, number];
    const { version } = await house.owner.overview(site);
    await editor.post(`/api/sites/${site}/decisions`, { version, decision: { kind: 'hold-removals', of: [first], reason: 'The client decides on Monday' } });
    expect((await list()).rows[1]).toMatchObject({ held: { reason: 'The client decides on Monday', by: { name: 'eli' } }, keptUntil: null });
    expect(await forGood([first, second], '2')).toMatchObject({ status: 409, code: 'removal-held', message: expect.stringContaining('held by eli: The client decides on Monday') });
    expect((await list()).rows).toHaveLength(2);
    expect(await decide({ kind: 'free-removals', of: [first] })).toMatchObject({ status: 201 });
    expect(await decide({ kind: 'free-removals', of: [first] })).toMatchObject({ code: 'not-held' });
    expect(await forGood([first, second], '2')).toMatchObject({ status: 200 });
    expect((await list()).rows).toEqual([]);
  });

  it('deletes what nothing else needs, keeps what a release has, and leaves neighbours where they are', async () => {
    const { db } = house.server.deps;
    const journal = await at('/journal/');
    const entries = (await tree()).pages.filter(({ parent }) => parent === journal.id);
    const [one, two] = [entries[1], entries[2]] as [PageRow, PageRow];
    await decide({ kind: 'place', node: two.id, parent: journal.id, after: one.id });
    const order = (await tree()).pages.map(({ id }) => id).filter((id) => id !== one.id);
    const hashOf = (id: string) => db.one<{ hash: string }>('select f.hash from source_file f join site s on s.current_import = f.import_id where s.id = $1 and page_id = $2', [site, id]);
    const { hash } = await hashOf(one.id);
    const contents = async (of: string) => (await db.one<{ n: number }>('select count(*)::int as n from content where hash = $1', [of])).n;
    const jobs = async () => (await db.one<{ n: number }>(`select count(*)::int as n from job where site_id = $1 and state in ('waiting', 'running')`, [site])).n;
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    await remove(one.id);
    await forGood([await last()], one.label);
    await until(jobs, (n) => n === 0);
    expect((await tree()).pages.map(({ id }) => id)).toEqual(order);
    expect((await tree()).removed).toEqual([]);
    expect(await db.maybeOne('select 1 from source_file f join import i on i.id = f.import_id where i.site_id = $1 and page_id = $2', [site, one.id])).toBeUndefined();
    // Its bytes went live unchanged in release 1, which is kept.
    expect(await contents(hash)).toBe(1);
    // A page that was in no release and no other site goes with its bytes.
    await decide({ kind: 'add-page', title: 'Never published', text: 'Not for long', like: journal.id, parent: null, after: null });
    const added = (await tree()).pages.find(({ label }) => label === 'Never published');
    const node = (await db.one<{ hash: string }>(`select body->'node'->>'hash' as hash from decision where site_id = $1 and body->'node'->>'id' = $2`, [site, added?.id])).hash;
    await remove(added?.id ?? '');
    await forGood([await last()], 'Never published');
    await until(jobs, (n) => n === 0);
    expect(await contents(node)).toBe(0);
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
    const name = (await house.owner.overview(site)).hostName;
    expect((await house.visit(`${name}.localhost`, one.address)).status).toBe(404);
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases/1/rollback`);
    expect((await house.owner.ended(body.job)).state).toBe('done');
    expect((await house.visit(`${name}.localhost`, one.address)).status).toBe(200);
  });
});

describe('a time limit', () => {
  it('takes what it reaches, tells whoever removed it, and is written to the history', async () => {
    await remove((await at('/visit/groups/')).id);
    await runOn(10);
    await remove((await at('/visit/access/')).id);
    await decide({ kind: 'hold-removals', of: [await last()], reason: 'Asked for' });
    await remove((await at('/visit/getting-here/')).id);
    expect((await list()).sweptSoon).toBe(0);
    await runOn(15);
    expect(await list()).toMatchObject({ keptDays: 30, sweptSoon: 1 });
    expect((await house.owner.overview(site)).removals).toMatchObject({ all: 3, sweptSoon: 1 });
    await runOn(6);
    expect((await until(list, ({ rows }) => rows.length === 2)).rows.map(({ label }) => label)).toEqual(['Getting here', 'Access']);
    expect((await words())[0]).toMatchObject({ words: '“Groups and schools” removed for good: the time they were kept is over', by: null, isStep: false });
    expect((await house.owner.get<{ words: string }[]>(`/api/sites/${site}/notices`)).body[0]?.words).toContain('went for good');
    await runOn(40);
    expect((await until(list, ({ rows }) => rows.length === 1)).rows).toMatchObject([{ label: 'Access', held: { reason: 'Asked for' } }]);
  });

  it('that is made shorter takes nothing before a week of notice', async () => {
    await remove((await at('/visit/groups/')).id);
    await runOn(20);
    const { body } = await house.owner.post<{ keptDays: number; reached: number; notBefore: string }>(`/api/sites/${site}/removals/kept-days`, { days: 14 });
    expect(body).toMatchObject({ keptDays: 14, reached: 1 });
    const [row] = (await list()).rows;
    expect(row?.keptUntil).toBe(body.notBefore);
    expect(new Date(body.notBefore).getTime() - house.server.deps.world.clock.nowMs()).toBeGreaterThan(6.9 * DAY_MS);
    await house.owner.post(`/api/sites/${site}/removals/kept-days`, { days: 0 });
    await runOn(300);
    await pause(2500);
    expect((await list()).rows).toMatchObject([{ keptUntil: null }]);
  });
});

describe('a newer export', () => {
  it('leaves removed what was removed, and what it has not can be put back all the same', async () => {
    const [groups, access] = [await at('/visit/groups/'), await at('/visit/access/')];
    await decide({ kind: 'title', page: groups.id, title: 'Parties' });
    await remove(groups.id);
    await remove(access.id);
    const [second, first] = (await list()).rows.map(({ of }) => of) as [number, number];
    const files = Object.entries(demoFiles());
    await house.owner.bringIn(site, await zip(Object.fromEntries(files.filter(([path]) => path !== 'visit/groups/index.html'))));
    expect((await tree()).pages.some(({ id }) => id === groups.id || id === access.id)).toBe(false);
    expect((await list()).rows.map(({ label }) => label)).toEqual(['Access', 'Parties']);
    await putBack(first);
    await putBack(second);
    expect(await at('/visit/groups/')).toMatchObject({ id: groups.id, title: 'Parties', depth: 1 });
    expect(await at('/visit/access/')).toMatchObject({ id: access.id });
    // An export that has it again has it once.
    await remove(groups.id);
    await house.owner.bringIn(site, await zip(Object.fromEntries(files)));
    await putBack(await last());
    expect((await tree()).pages.filter(({ address }) => address === '/visit/groups/')).toMatchObject([{ id: groups.id, isAdded: false }]);
  });
});

describe('any mixture of moves, renames, removals and put-backs', () => {
  it('leaves addresses of their own, a whole tree, and the same release step by step as from nothing', async () => {
    const { deps } = house.server;
    const small = await house.owner.newSite(`Mixture ${sites}`);
    const names = ['a', 'a/b', 'a/c', 'a/c/d', 'e', 'e/f', 'g', 'g/h', 'i'];
    await house.owner.bringIn(small, await zip({ 'index.html': '<title>Home</title><a href="/a/">A</a><a href="/e/f/">F</a>', ...Object.fromEntries(names.map((name, n) => [`${name}/index.html`, `<title>P${n}</title><a href="/${names[(n + 2) % names.length]}/">next</a>`])) }));
    // The same walk every time (a linear congruential generator; constants of Numerical Recipes).
    let state = 7;
    const pick = <T>(list: readonly T[]): T | undefined => { state = (Math.imul(state, 1664525) + 1013904223) >>> 0; return list[state % (list.length || 1)]; };
    let [done, refused] = [0, 0];
    for (let turn = 0; turn < 50; turn += 1) {
      const { pages } = (await house.owner.get<{ pages: PageRow[] }>(`/api/sites/${small}/pages`)).body;
      const { rows } = (await house.owner.get<RemovalList>(`/api/sites/${small}/removals`)).body;
      const page = pick(pages.filter(({ isHome }) => !isHome))?.id ?? '';
      const other = pick(pages)?.id ?? null;
      const acts = ['place', 'rename', 'remove', 'alone', ...(rows.length > 0 ? (['back', 'back', 'part'] as const) : []), 'step'] as const;
      const act = pick(acts);
      const of = pick(rows)?.of ?? 1;
      const decision = act === 'place' ? { kind: 'place', node: page, parent: pick([other, null]) ?? null, after: null }
        : act === 'rename' ? { kind: 'rename', page, address: `/${pick(names) ?? 'x'}/` }
        : act === 'remove' || act === 'alone' ? { kind: 'remove', thing: { kind: 'node', node: page, alone: act === 'alone' }, standIn: pick([{ kind: 'home' }, { kind: 'parent' }, { kind: 'none' }]), links: pick(['kept', 'lead-on', 'unlinked']), newHome: null }
        : act === 'back' ? { kind: 'put-back', things: [{ of }], taken: pick(['keep-both', 'swap']), where: pick(['in-place', 'with-parents', 'top']) }
        : act === 'part' ? { kind: 'put-back', things: [{ of, nodes: [pick(rows)?.page ?? page] }], taken: 'keep-both' }
        : { kind: 'step', direction: pick(['back', 'forward']) };
      const { status, body } = await house.owner.decide(small, decision);
      expect(status, JSON.stringify([decision, body])).not.toBe(500);
      if (status !== 201) { refused += 1; continue; }
      done += 1;
      const { pages: now, removed } = (await house.owner.get<{ pages: PageRow[]; removed: RemovedRow[] }>(`/api/sites/${small}/pages`)).body;
      const taken = now.map(({ address }) => address);
      expect(new Set(taken).size, JSON.stringify([decision, taken])).toBe(taken.length);
      expect([...now, ...removed].map(({ title }) => title).sort()).toEqual(['Home', ...names.map((_, n) => `P${n}`)].sort());
      now.forEach(({ parent, depth }, index) => { expect(parent === null ? depth : now.slice(0, index).find(({ id }) => id === parent)?.depth).toBe(parent === null ? 0 : depth - 1); });
    }
    expect(done).toBeGreaterThan(15);
    expect(refused).toBeGreaterThan(0);
    const step = await compileDraft(deps, small);
    await deps.db.run('delete from draft where site_id = $1', [small]);
    expect((await compileDraft(deps, small)).shards).toEqual(step.shards);
  });
});

describe('two people at the same moment', () => {
  it('who put back, remove and sweep the same end in one state, and everybody else is told', async () => {
    const groups = await at('/visit/groups/');
    await remove(groups.id);
    const of = await last();
    const { version } = await house.owner.overview(site);
    const attempts = await Promise.all([
      ...Array.from({ length: 4 }, () => house.owner.post<{ error?: { code: string } }>(`/api/sites/${site}/decisions`, { version, decision: { kind: 'put-back', things: [{ of }] } })),
      ...Array.from({ length: 2 }, () => house.owner.post<{ error?: { code: string } }>(`/api/sites/${site}/removals/for-good`, { version, of: [of], confirmed: 'Groups and schools' })),
    ]);
    expect(attempts.filter(({ status }) => status < 300)).toHaveLength(1);
    expect(new Set(attempts.filter(({ status }) => status >= 300).map(({ body }) => body.error?.code))).toEqual(new Set(['draft-stale']));
    const isBack = (await tree()).pages.some(({ id }) => id === groups.id);
    expect(await putBack(of)).toMatchObject(isBack ? { code: 'not-removed' } : { code: 'removal-swept' });
  });
});

describe('what cannot be', () => {
  it('is said plainly, and changes nothing', async () => {
    const before = await compiled();
    const [visit, groups] = [await at('/visit/'), await at('/visit/groups/')];
    expect(await putBack(1)).toMatchObject({ code: 'not-removed' });
    expect(await remove('00000000-0000-4000-8000-000000000000')).toMatchObject({ code: 'not-found' });
    expect(await remove(groups.id, { standIn: { kind: 'page', page: groups.id } })).toMatchObject({ code: 'stand-in-missing' });
    expect(await remove(visit.id, { standIn: { kind: 'page', page: groups.id } })).toMatchObject({ code: 'stand-in-missing' });
    expect(await compiled()).toEqual(before);
    await remove(groups.id);
    expect(await remove(groups.id)).toMatchObject({ code: 'already-removed' });
    expect(await decide({ kind: 'place', node: (await at('/learn/')).id, parent: groups.id, after: null })).toMatchObject({ code: 'not-found' });
    expect(await decide({ kind: 'put-back', things: [{ of: await last(), nodes: [visit.id] }] })).toMatchObject({ code: 'not-removed' });
    expect(await decide({ kind: 'home', page: groups.id })).toMatchObject({ code: 'not-found' });
    const alone = await house.owner.newSite(`Alone ${sites}`);
    await house.owner.bringIn(alone, await zip({ 'only.html': '<title>Only</title>', 'a.css': '' }));
    const [only] = await house.owner.pages(alone);
    const answer = await house.owner.decide(alone, { kind: 'remove', thing: { kind: 'node', node: only?.id }, newHome: null });
    expect(answer.body.error?.code).toBe('last-page');
  });
});

describe('from a kept release', () => {
  interface Thing { path: string; address: string; kind: string; today: string; label: string }
  const things = async (release: number) => (await house.owner.get<Thing[]>(`/api/sites/${site}/releases/${release}/things`)).body;
  const thing = async (release: number, path: string) => (await house.owner.get<{ page: string | null; addressToday: string | null; removal: number | null; sections: { name: string; nth: number; today: boolean; removal: number | null }[]; lines: unknown[] }>(`/api/sites/${site}/releases/${release}/thing?path=${encodeURIComponent(path)}`)).body;
  const source = async (path: string) => {
    const { deps } = house.server;
    const entry = (await entriesOf(deps.db, (await compileDraft(deps, site)).shards, [path])).get(path);
    return entry ? (await contentBytes(deps.db, entry.hash)).toString('utf8') : undefined;
  };
  const publish = async () => {
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
  };

  it('comes a page that a newer export dropped, between the neighbours it had, as it was', async () => {
    await publish();
    const groups = await at('/visit/groups/');
    const then = await source('visit/groups/index.html');
    const siblings = (await tree()).pages.filter(({ parent }) => parent === groups.parent).map(({ address }) => address);
    const files = Object.fromEntries(Object.entries(demoFiles()).filter(([path]) => path !== 'visit/groups/index.html'));
    await house.owner.bringIn(site, await zip(files));
    expect((await tree()).pages.some(({ address }) => address === '/visit/groups/')).toBe(false);
    expect(await things(1)).toContainEqual({ path: 'visit/groups/index.html', address: '/visit/groups/', kind: 'page', label: 'Groups and schools', today: 'missing' });
    const answer = await decide({ kind: 'take-from-release', release: 1, path: 'visit/groups/index.html', take: { kind: 'beside' } });
    expect(answer).toMatchObject({ status: 201, words: expect.stringMatching(/as in release 1, at \/visit\/groups\/$/) });
    expect(await source('visit/groups/index.html')).toBe(then);
    const back = await at('/visit/groups/');
    expect((await tree()).pages.filter(({ parent }) => parent === back.parent).map(({ address }) => address)).toEqual(siblings);
  });

  it('comes a page that was removed for good and deleted', async () => {
    await publish();
    const groups = await at('/visit/groups/');
    const then = await source('visit/groups/index.html');
    await remove(groups.id, { standIn: { kind: 'home' } });
    expect(await thing(1, 'visit/groups/index.html')).toMatchObject({ page: null, removal: await last() });
    await forGood([await last()], 'Groups and schools');
    await until(async () => (await house.server.deps.db.one<{ n: number }>(`select count(*)::int as n from job where site_id = $1 and state in ('waiting', 'running')`, [site])).n, (n) => n === 0);
    expect(await decide({ kind: 'take-from-release', release: 1, path: 'visit/groups/index.html', take: { kind: 'beside' } })).toMatchObject({ status: 201 });
    expect(await source('visit/groups/index.html')).toBe(then);
    // The redirect its removal left retires.
    expect((await compiled()).rules.some(({ from }) => from === '/visit/groups/')).toBe(false);
  });

  it('comes the text of a page in place of today’s, with its address, menus and metadata of today', async () => {
    const here = await at('/visit/getting-here/');
    await publish();
    const then = await source('visit/getting-here/index.html');
    const [section] = (await inside(here.id)).sections.slice(1);
    await decide({ kind: 'remove', thing: { kind: 'section', page: here.id, section: { name: section?.name, nth: section?.nth } } });
    const text = demoFiles()['visit/getting-here/index.html'] as Uint8Array;
    const newer = { ...demoFiles(), 'visit/getting-here/index.html': Buffer.from(Buffer.from(text).toString('utf8').replace('</main>', '<p>Written later</p></main>')) };
    await house.owner.bringIn(site, await zip(newer));
    await decide({ kind: 'rename', page: here.id, address: '/visit/arrive/' });
    expect(await thing(1, 'visit/getting-here/index.html')).toMatchObject({ page: here.id, addressToday: '/visit/arrive/' });
    expect(await source('visit/arrive/index.html')).toContain('Written later');
    expect(await decide({ kind: 'take-from-release', release: 1, path: 'visit/getting-here/index.html', take: { kind: 'instead' } })).toMatchObject({ status: 201, words: '“Getting here” has its text of release 1' });
    expect(await source('visit/arrive/index.html')).not.toContain('Written later');
    expect((await tree()).pages.find(({ id }) => id === here.id)).toMatchObject({ textOf: 1, address: '/visit/arrive/' });
    // The section removed since stays removed; put back, the page is as it was published, but for its new place.
    await putBack(await last());
    await decide({ kind: 'rename', page: here.id, address: '/visit/getting-here/' });
    expect(await source('visit/getting-here/index.html')).toBe(then);
    expect(await decide({ kind: 'take-from-release', release: 1, path: 'visit/getting-here/index.html', take: { kind: 'instead' } })).toMatchObject({ code: 'same-as-release' });
    await decide({ kind: 'text-of-file', page: here.id });
    expect(await source('visit/getting-here/index.html')).toContain('Written later');
  });

  it('comes one section that today’s export has not, where it stood', async () => {
    const here = await at('/visit/getting-here/');
    const all = (await inside(here.id)).sections;
    await publish();
    const old = Buffer.from(demoFiles()['visit/getting-here/index.html'] as Uint8Array).toString('utf8');
    const shorter = old.replace(/<h2[^>]*>By bus[^]*?(?=<h2)/, '');
    expect(shorter.length).toBeLessThan(old.length);
    await house.owner.bringIn(site, await zip({ ...demoFiles(), 'visit/getting-here/index.html': shorter }));
    const { sections } = await thing(1, 'visit/getting-here/index.html');
    const lost = sections.find(({ today }) => !today);
    expect(lost).toMatchObject({ name: expect.stringMatching(/^By bus/), removal: null });
    expect(await decide({ kind: 'take-from-release', release: 1, path: 'visit/getting-here/index.html', take: { kind: 'section', section: { name: lost?.name, nth: 0 } } })).toMatchObject({ status: 201 });
    const names = sectionsOf(Buffer.from((await source('visit/getting-here/index.html')) ?? ''));
    expect(names).toEqual(all.map(({ name }) => name));
  });

  it('comes a file that is gone, or in place of today’s', async () => {
    await publish();
    const { style } = await house.server.deps.db.one<{ style: string }>(`select min(path) as style from source_file f join site s on s.current_import = f.import_id where s.id = $1 and path like '%.css'`, [site]);
    const then = await source(style);
    await house.owner.bringIn(site, await zip({ ...demoFiles(), [style]: 'body { color: red }' }));
    expect(await things(1)).toContainEqual(expect.objectContaining({ path: style, kind: 'file', today: 'different' }));
    expect(await decide({ kind: 'take-from-release', release: 1, path: style, take: { kind: 'instead' } })).toMatchObject({ status: 201 });
    expect(await source(style)).toBe(then);
    await decide({ kind: 'step', direction: 'back' });
    expect(await source(style)).toBe('body { color: red }');
    expect(await decide({ kind: 'take-from-release', release: 9, path: style, take: { kind: 'instead' } })).toMatchObject({ code: 'release-not-kept' });
    expect(await decide({ kind: 'take-from-release', release: 1, path: 'nothing.css', take: { kind: 'instead' } })).toMatchObject({ code: 'not-in-release' });
  });
});

const sectionsOf = (bytes: Uint8Array): string[] => sections(parsePage(bytes)).map(({ name }) => name);
