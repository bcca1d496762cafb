/** Removing and putting back through the API, as two designers do it; what visitors get is read at the host. */
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import type { MenuRow, Pointed } from '@fastigium/contracts/api/pages';
import type { PutBackPreview, RemovalDetail, RemovalList, RemovePreview } from '@fastigium/contracts/api/removals';
import { describe, expect, it } from 'vitest';
import { compileDraft } from '../src/features/draft/compileDraft.ts';
import { contentBytes } from '../src/features/contents.ts';
import { entriesOf } from '../src/features/manifests.ts';
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
  inside,
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
      menus: ['Main menu'],
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
        standsIn: 'home page',
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
    expect(preview).toMatchObject({ parentOut: { label: 'Visit' }, under: 'at the top', taken: [] });
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

describe('parts', () => {
  it('a section goes and comes back in its place, alone', async () => {
    const visit = await at('/visit/getting-here/');
    const [before, own] = [await compiled(), await inside(visit.id)];
    const section = own.sections[1];
    expect(section).toBeDefined();
    const thing = { kind: 'section', page: visit.id, section: { name: section?.name, nth: section?.nth } };
    expect(await decide({ kind: 'remove', thing })).toMatchObject({ status: 201 });
    const of = await last();
    expect((await inside(visit.id)).sections[1]).toMatchObject({
      name: section?.name,
      out: true,
      removal: { of, by: { initials: 'AS' } },
    });
    expect((await compiled()).shards).not.toEqual(before.shards);
    expect((await house.owner.get<RemovalDetail>(`/api/sites/${site}/removals/${of}`)).body.text).toContain(
      section?.name,
    );
    await putBack(of);
    expect(await compiled()).toEqual(before);
    // Its page away, it cannot stand anywhere.
    await decide({ kind: 'remove', thing });
    const again = await last();
    await remove(visit.id);
    expect(await putBack(again)).toMatchObject({ code: 'removed-with-page' });
  });

  it('a section says what is in it as the page will have it, and which pages nothing else leads to', async () => {
    const other = await house.owner.newSite('Yard');
    const file = (body: string) =>
      `<!DOCTYPE html><html lang="en"><head><title>Yard</title></head><body><main>${body}</main></body></html>`;
    await house.owner.bringIn(
      other,
      await zip({
        'index.html': file(
          '<h1>Yard</h1><section><h2>By car</h2><p>Cars &amp; bikes</p><script>let inPage = 1 < 2;</script><p>See <a href="parking.html#night">where to park</a> or <a href="visit.html">visit</a>.</p><img src="gate.png" alt="The gate"><img src="yard.png" alt=""></section><section><h2>On foot</h2><p><a href="./visit.html">Walk</a></p></section>',
        ),
        'visit.html': file('<h1>Visit</h1>'),
        'parking.html': file('<h1>Parking</h1><a href="#top">Up</a><a href="parking.html">Here</a>'),
        'gate.png': 'g',
        'yard.png': 'y',
      }),
    );
    const home = await house.owner.page(other, '/');
    const ask = async () =>
      (
        await house.owner.post<RemovePreview>(`/api/sites/${other}/removals/preview`, {
          thing: { kind: 'section', page: home.id, section: { name: 'By car', nth: 0 } },
        })
      ).body;
    const parking = await house.owner.page(other, '/parking.html');
    expect(await ask()).toMatchObject({
      label: 'By car',
      hasAddress: false,
      inside: {
        links: [
          { label: 'where to park', to: '/parking.html#night' },
          { label: 'visit', to: '/visit.html' },
        ],
        linksInAll: 2,
        pictures: [
          { words: 'The gate', address: '/gate.png' },
          { words: '', address: '/yard.png' },
        ],
        picturesInAll: 2,
        lost: [{ id: parking.id, address: '/parking.html' }],
      },
    });
    // Corrected and moved since: it speaks of what will be published.
    await house.owner.decide(other, { kind: 'rename', page: parking.id, address: '/cars/' });
    const { body: pointed } = await house.owner.post<Pointed>(`/api/sites/${other}/pages/${home.id}/pointed`, {
      start: file('<h1>Yard</h1><section>').indexOf('<section>') + '<section>'.length,
      child: 0,
    });
    await house.owner.decide(other, {
      kind: 'touch',
      touch: { kind: 'text', scope: { kind: 'page', page: home.id }, place: pointed.anchor, to: 'By motor car' },
    });
    const now = await ask();
    expect(now.label).toBe('By motor car');
    expect(now.inside?.words).toContain('By motor car');
    expect(now.inside?.links[0]?.to).toBe('/cars.html#night');
    expect(now.inside?.lost.map(({ address }) => address)).toEqual(['/cars.html']);
    // Removed, it is shown as visitors read it, without what only machines read.
    const removed = await house.owner.decide(other, {
      kind: 'remove',
      thing: { kind: 'section', page: home.id, section: { name: 'By car', nth: 0 } },
      standIn: { kind: 'none' },
      links: 'kept',
      why: '',
      newHome: null,
    });
    expect(removed.status).toBe(201);
    const [row] = (await house.owner.get<RemovalList>(`/api/sites/${other}/removals`)).body.rows;
    const detail = (await house.owner.get<RemovalDetail>(`/api/sites/${other}/removals/${row?.of}`)).body;
    expect(detail.text).toContain('Cars & bikes');
    expect(detail.text).not.toMatch(/&amp;|let inPage/);
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
    await decide({
      kind: 'menu',
      menu: menu.id,
      items: [...known.slice(-1), ...known.slice(0, -1)],
      whereItDiffers: false,
    });
    await putBack(of);
    const labels = ((await menus())[0]?.items ?? []).map(({ label }) => label);
    expect(labels).toEqual([
      known.at(-1)?.label,
      known[0]?.label,
      menu.items[1]?.label,
      ...known.slice(1, -1).map(({ label }) => label),
    ]);
  });

  it('a file goes with where its address leads, and comes back', async () => {
    const before = await compiled();
    const { rows } = await house.server.deps.db.one<{ rows: string }>(
      `select min(address) as rows from source_file f join site s on s.current_import = f.import_id where s.id = $1 and page_id is null and path like '%.pdf'`,
      [site],
    );
    expect(
      await decide({ kind: 'remove', thing: { kind: 'file', address: rows }, standIn: { kind: 'gone' } }),
    ).toMatchObject({ status: 201 });
    const away = await compiled();
    expect(away.count).toBe(before.count - 1);
    expect(away.rules).toContainEqual({ from: rows, status: 410 });
    await putBack(await last());
    expect(await compiled()).toEqual(before);
  });

  it('a set of redirects comes back as it was, but what was settled otherwise meanwhile stays', async () => {
    const to = async (address: string) => ({ status: 301, target: { kind: 'page', page: (await at(address)).id } });
    for (const from of ['/one', '/two', '/three']) await decide({ kind: 'redirect', from, to: await to('/learn/') });
    await decide({
      kind: 'pattern',
      id: null,
      text: '/shop/*',
      status: 410,
      target: null,
      ignoreCase: false,
      dropsQuery: false,
    });
    await decide({
      kind: 'pattern',
      id: null,
      text: '/store/*',
      status: 410,
      target: null,
      ignoreCase: false,
      dropsQuery: false,
    });
    const before = await compiled();
    const patterns = (await house.owner.get<{ id: string; text: string }[]>(`/api/sites/${site}/patterns`)).body;
    await decide({
      kind: 'remove',
      thing: {
        kind: 'redirects',
        froms: ['/one', '/two'],
        patterns: [patterns.find(({ text }) => text === '/shop/*')?.id],
      },
    });
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

describe('any mixture of moves, renames, removals and put-backs', () => {
  it('leaves addresses of their own, a whole tree, and the same release step by step as from nothing', async () => {
    const { deps } = house.server;
    const small = await house.owner.newSite(`Mixture ${sites}`);
    const names = ['a', 'a/b', 'a/c', 'a/c/d', 'e', 'e/f', 'g', 'g/h', 'i'];
    await house.owner.bringIn(
      small,
      await zip({
        'index.html': '<title>Home</title><a href="/a/">A</a><a href="/e/f/">F</a>',
        ...Object.fromEntries(
          names.map((name, n) => [
            `${name}/index.html`,
            `<title>P${n}</title><a href="/${names[(n + 2) % names.length]}/">next</a>`,
          ]),
        ),
      }),
    );
    // The same walk every time (a linear congruential generator; constants of Numerical Recipes).
    let state = 7;
    const pick = <T>(list: readonly T[]): T | undefined => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return list[state % (list.length || 1)];
    };
    let [done, refused] = [0, 0];
    for (let turn = 0; turn < 50; turn += 1) {
      const { pages } = (await house.owner.get<{ pages: PageRow[] }>(`/api/sites/${small}/pages`)).body;
      const { rows } = (await house.owner.get<RemovalList>(`/api/sites/${small}/removals`)).body;
      const page = pick(pages.filter(({ isHome }) => !isHome))?.id ?? '';
      const other = pick(pages)?.id ?? null;
      const acts = [
        'place',
        'rename',
        'remove',
        'alone',
        ...(rows.length > 0 ? (['back', 'back', 'part'] as const) : []),
        'step',
      ] as const;
      const act = pick(acts);
      const of = pick(rows)?.of ?? 1;
      const decision =
        act === 'place'
          ? { kind: 'place', node: page, parent: pick([other, null]) ?? null, after: null }
          : act === 'rename'
            ? { kind: 'rename', page, address: `/${pick(names) ?? 'x'}/` }
            : act === 'remove' || act === 'alone'
              ? {
                  kind: 'remove',
                  thing: { kind: 'node', node: page, alone: act === 'alone' },
                  standIn: pick([{ kind: 'home' }, { kind: 'parent' }, { kind: 'none' }]),
                  links: pick(['kept', 'lead-on', 'unlinked']),
                  newHome: null,
                }
              : act === 'back'
                ? {
                    kind: 'put-back',
                    things: [{ of }],
                    taken: pick(['keep-both', 'swap']),
                    where: pick(['in-place', 'with-parents', 'top']),
                  }
                : act === 'part'
                  ? { kind: 'put-back', things: [{ of, nodes: [pick(rows)?.page ?? page] }], taken: 'keep-both' }
                  : { kind: 'step', direction: pick(['back', 'forward']) };
      const { status, body } = await house.owner.decide(small, decision);
      expect(status, JSON.stringify([decision, body])).not.toBe(500);
      if (status !== 201) {
        refused += 1;
        continue;
      }
      done += 1;
      const { pages: now, removed } = (
        await house.owner.get<{ pages: PageRow[]; removed: RemovedRow[] }>(`/api/sites/${small}/pages`)
      ).body;
      const taken = now.map(({ address }) => address);
      expect(new Set(taken).size, JSON.stringify([decision, taken])).toBe(taken.length);
      expect([...now, ...removed].map(({ title }) => title).sort()).toEqual(
        ['Home', ...names.map((_, n) => `P${n}`)].sort(),
      );
      now.forEach(({ parent, depth }, index) => {
        expect(parent === null ? depth : now.slice(0, index).find(({ id }) => id === parent)?.depth).toBe(
          parent === null ? 0 : depth - 1,
        );
      });
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
      ...Array.from({ length: 4 }, () =>
        house.owner.post<{ error?: { code: string } }>(`/api/sites/${site}/decisions`, {
          version,
          decision: { kind: 'put-back', things: [{ of }] },
        }),
      ),
      ...Array.from({ length: 2 }, () =>
        house.owner.post<{ error?: { code: string } }>(`/api/sites/${site}/removals/for-good`, {
          version,
          of: [of],
          confirmed: 'Groups and schools',
        }),
      ),
    ]);
    expect(attempts.filter(({ status }) => status < 300)).toHaveLength(1);
    expect(new Set(attempts.filter(({ status }) => status >= 300).map(({ body }) => body.error?.code))).toEqual(
      new Set(['draft-stale', 'not-removed']),
    );
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
