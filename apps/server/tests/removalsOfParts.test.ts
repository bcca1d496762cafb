/** Sections, menu items, files and redirects that go and come back, and links to what is removed; read as visitors get it. */
import type { MenuRow, Pointed } from '@fastigium/contracts/api/pages';
import type { RemovalDetail, RemovalList, RemovePreview } from '@fastigium/contracts/api/removals';
import { describe, expect, it } from 'vitest';
import { compileDraft } from '../src/features/draft/compileDraft.ts';
import { readContent } from '../src/features/shared/contents.ts';
import { readEntries } from '../src/features/shared/manifests.ts';
import { zip } from './harness.ts';
import { house, site, decide, at, last, remove, putBack, compiled, inside, useRemovals } from './removals.house.ts';

useRemovals();

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
      const entry = (await readEntries(deps.db, (await compileDraft(deps, site)).shards, [path])).get(path);
      return (await readContent(deps.db, entry?.hash ?? '')).toString('utf8');
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
