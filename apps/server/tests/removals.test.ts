/** Removing and putting back through the API, as two designers do it; what visitors get is read at the host. */
import type { PutBackPreview, RemovalDetail, RemovePreview } from '@fastigium/contracts/api/removals';
import { standIn, stood } from '@fastigium/contracts/messages/removal';
import { ENGLISH, speakerFor } from '@fastigium/words';
import { describe, expect, it } from 'vitest';
import { zip } from './harness.ts';
import {
  house,
  site,
  decide,
  tree,
  at,
  list,
  last,
  remove,
  putBack,
  compiled,
  addresses,
  demoFiles,
  sites,
  useRemovals,
} from './removals.house.ts';

useRemovals();

describe('a branch', () => {
  it('goes with all it holds and comes back as it was, byte for byte', async () => {
    const visit = await at('/visit/');
    await decide({ kind: 'title', page: visit.id, title: 'Come and see' });
    await decide({ kind: 'in-menus', page: (await at('/visit/groups/')).id, shown: false });
    await decide({
      kind: 'redirect',
      from: '/old-visit',
      to: { status: 301, target: { kind: 'page', page: visit.id } },
    });
    const [before, order] = [await compiled(), await addresses()];
    const answer = await remove(visit.id, {
      standIn: { kind: 'home' },
      links: 'unlinked',
      why: 'Closed for the winter',
    });
    expect(answer).toMatchObject({
      status: 201,
      words: '“Come and see” removed, with 5 below it; its address leads to the home page',
    });
    const { pages, removed } = await tree();
    expect(pages.filter(({ address }) => address.startsWith('/visit/'))).toEqual([]);
    expect(removed.map(({ address, depth }) => `${'  '.repeat(depth)}${address}`)).toEqual(
      order.filter((row) => row.trim().startsWith('/visit/')),
    );
    expect(removed[0]).toMatchObject({
      removal: await last(),
      nth: 2 + order.filter((row) => !row.startsWith(' ')).indexOf('/visit/') - 1,
      menus: [{ code: 'menu.main' }],
      by: { initials: 'AS' },
    });
    const away = await compiled();
    expect(away.rules).toContainEqual({ from: '/visit/groups/', status: 301, to: '/' });
    // What landed there has nowhere to land; the list of redirects says so.
    expect(away.rules.some(({ from }) => from === '/old-visit')).toBe(false);
    expect(await putBack(await last())).toMatchObject({ status: 201, words: '“Come and see” put back, with 5 more' });
    expect(await addresses()).toEqual(order);
    expect(await compiled()).toEqual(before);
    expect((await list()).rows).toEqual([]);
    await decide({ kind: 'step', direction: 'back' });
    expect((await list()).rows).toMatchObject([
      {
        label: 'Come and see',
        kind: 'branch',
        size: 6,
        left: 6,
        why: 'Closed for the winter',
        standsIn: standIn('home'),
        by: { name: 'Ada Stone' },
      },
    ]);
    expect((await compiled()).shards).toEqual(away.shards);
  });

  it('says before it goes what leads there, and what visitors would lose', async () => {
    const visit = await at('/visit/');
    await decide({
      kind: 'redirect',
      from: '/old-visit',
      to: { status: 301, target: { kind: 'page', page: visit.id } },
    });
    await house.owner.post(`/api/sites/${site}/old-addresses`, { text: '/visit/ 40\n/visit/groups/ 2', domain: null });
    const { body } = await house.owner.post<RemovePreview>(`/api/sites/${site}/removals/preview`, {
      thing: { kind: 'node', node: visit.id },
    });
    expect(body).toMatchObject({
      label: 'Visit',
      goesInAll: 6,
      redirects: ['/old-visit'],
      roles: [],
      parent: null,
      hasAddress: true,
    });
    expect(body.menus.map(speakerFor(ENGLISH))).toEqual(
      expect.arrayContaining([expect.stringMatching(/^Main menu.*“Visit”/)]),
    );
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
    const order = (await tree()).pages
      .filter(({ parent }) => parent === journal.id)
      .map(({ id }) => id)
      .slice(0, 4);
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
    const preview = (
      await house.owner.post<PutBackPreview>(`/api/sites/${site}/removals/put-back-preview`, {
        things: [{ of, nodes: [groups.id] }],
      })
    ).body;
    expect(preview).toMatchObject({ parentOut: { label: 'Visit' }, under: stood('at-top'), taken: [] });
    expect(await decide({ kind: 'put-back', things: [{ of, nodes: [groups.id] }] })).toMatchObject({
      status: 201,
      words: '“Groups and schools” put back',
    });
    expect(await at('/visit/groups/')).toMatchObject({ depth: 0, parent: null });
    expect(
      (await house.owner.get<RemovalDetail>(`/api/sites/${site}/removals/${of}`)).body.bundle.find(
        ({ id }) => id === groups.id,
      ),
    ).toMatchObject({ isOut: false });
    expect((await list()).rows).toMatchObject([{ size: 6, left: 5 }]);
    await putBack(of);
    expect(await addresses()).toEqual(order);
    // With the page above, without its other children.
    await remove(visit.id);
    await decide({ kind: 'put-back', things: [{ of: await last(), nodes: [groups.id] }], where: 'with-parents' });
    expect((await addresses()).filter((row) => row.trim().startsWith('/visit/'))).toEqual([
      '/visit/',
      '  /visit/groups/',
    ]);
    // Or at the top, where it stays although the page above comes back.
    await decide({ kind: 'step', direction: 'back' });
    await decide({ kind: 'put-back', things: [{ of: await last(), nodes: [groups.id] }], where: 'top' });
    expect((await addresses()).at(-1)).toBe('/visit/groups/');
  });

  it('alone leaves what it holds, which moves up in its place and back', async () => {
    const [visit, order] = [await at('/visit/'), await addresses()];
    await remove(visit.id, { thing: { kind: 'node', node: visit.id, alone: true } });
    expect(await addresses()).toEqual(
      order.filter((row) => row !== '/visit/').map((row) => (row.startsWith('  /visit/') ? row.slice(2) : row)),
    );
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
    const preview = (
      await house.owner.post<PutBackPreview>(`/api/sites/${site}/removals/put-back-preview`, { things: [{ of }] })
    ).body;
    expect(preview.taken).toEqual([
      { label: 'Groups and schools', address: '/visit/groups/', by: 'Learn', isFile: false, free: '/visit/groups-2/' },
    ]);
    expect(await putBack(of)).toMatchObject({ status: 409, code: 'put-back-taken' });
    expect(await putBack(of, { taken: 'keep-both' })).toMatchObject({
      status: 201,
      words: '“Groups and schools” put back; /visit/groups-2/ is a new address',
    });
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
    await decide({
      kind: 'redirect',
      from: '/visit/groups/',
      to: { status: 301, target: { kind: 'page', page: (await at('/learn/')).id } },
    });
    expect((await compiled()).rules).toContainEqual({ from: '/visit/groups/', status: 301, to: '/learn/' });
    await putBack(await last());
    expect((await compiled()).rules.some(({ from }) => from === '/visit/groups/')).toBe(false);
  });
});

describe('the home page', () => {
  it('goes only where another one takes over, and is home again when it comes back', async () => {
    const [front, learn, before] = [await at('/'), await at('/learn/'), await compiled()];
    expect(await remove(front.id)).toMatchObject({ code: 'removal-needs-home' });
    expect(await remove(front.id, { newHome: learn.id })).toMatchObject({
      status: 201,
      words: expect.stringMatching(/“Learn” becomes the home page$/),
    });
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

describe('a newer export', () => {
  it('leaves removed what was removed, and what it has not can be put back all the same', async () => {
    const [groups, access] = [await at('/visit/groups/'), await at('/visit/access/')];
    await decide({ kind: 'title', page: groups.id, title: 'Parties' });
    await remove(groups.id);
    await remove(access.id);
    const [second, first] = (await list()).rows.map(({ of }) => of) as [number, number];
    const files = Object.entries(demoFiles());
    await house.owner.bringIn(
      site,
      await zip(Object.fromEntries(files.filter(([path]) => path !== 'visit/groups/index.html'))),
    );
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
    expect((await tree()).pages.filter(({ address }) => address === '/visit/groups/')).toMatchObject([
      { id: groups.id, isAdded: false },
    ]);
  });
});

describe('what cannot be', () => {
  it('is said plainly, and changes nothing', async () => {
    const before = await compiled();
    const [visit, groups] = [await at('/visit/'), await at('/visit/groups/')];
    expect(await putBack(1)).toMatchObject({ code: 'not-removed' });
    expect(await remove('00000000-0000-4000-8000-000000000000')).toMatchObject({ code: 'not-found' });
    expect(await remove(groups.id, { standIn: { kind: 'page', page: groups.id } })).toMatchObject({
      code: 'stand-in-missing',
    });
    expect(await remove(visit.id, { standIn: { kind: 'page', page: groups.id } })).toMatchObject({
      code: 'stand-in-missing',
    });
    expect(await compiled()).toEqual(before);
    await remove(groups.id);
    expect(await remove(groups.id)).toMatchObject({ code: 'already-removed' });
    expect(
      await decide({ kind: 'place', node: (await at('/learn/')).id, parent: groups.id, after: null }),
    ).toMatchObject({ code: 'not-found' });
    expect(await decide({ kind: 'put-back', things: [{ of: await last(), nodes: [visit.id] }] })).toMatchObject({
      code: 'not-removed',
    });
    expect(await decide({ kind: 'home', page: groups.id })).toMatchObject({ code: 'not-found' });
    const alone = await house.owner.newSite(`Alone ${sites}`);
    await house.owner.bringIn(alone, await zip({ 'only.html': '<title>Only</title>', 'a.css': '' }));
    const [only] = await house.owner.pages(alone);
    const answer = await house.owner.decide(alone, {
      kind: 'remove',
      thing: { kind: 'node', node: only?.id },
      newHome: null,
    });
    expect(answer.body.error?.code).toBe('last-page');
  });
});
