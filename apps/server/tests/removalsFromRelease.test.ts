/** What a kept release had, taken from there. */
import { parsePage, findSections } from '@fastigium/core/html';
import { describe, expect, it } from 'vitest';
import { compileDraft } from '../src/features/draft/compileDraft.ts';
import { readContent } from '../src/features/shared/contents.ts';
import { readEntries } from '../src/features/shared/manifests.ts';
import { letBe, zip } from './harness.ts';
import {
  house,
  site,
  decide,
  tree,
  at,
  last,
  remove,
  putBack,
  compiled,
  inside,
  forGood,
  until,
  demoFiles,
  useRemovals,
} from './removals.house.ts';

useRemovals();

describe('from a kept release', () => {
  interface Thing {
    path: string;
    address: string;
    kind: string;
    today: string;
    label: string;
  }
  const things = async (release: number) =>
    (await house.owner.get<Thing[]>(`/api/sites/${site}/releases/${release}/things`)).body;
  const thing = async (release: number, path: string) =>
    (
      await house.owner.get<{
        page: string | null;
        addressToday: string | null;
        removal: number | null;
        sections: { name: string; nth: number; today: boolean; removal: number | null }[];
        lines: unknown[];
      }>(`/api/sites/${site}/releases/${release}/thing?path=${encodeURIComponent(path)}`)
    ).body;
  const source = async (path: string) => {
    const { deps } = house.server;
    const entry = (await readEntries(deps.db, (await compileDraft(deps, site)).shards, [path])).get(path);
    return entry ? (await readContent(deps.db, entry.hash)).toString('utf8') : undefined;
  };
  const publish = async () => {
    await letBe(house, site);
    expect((await house.owner.publish(site)).state).toBe('done');
  };

  it('comes a page that a newer export dropped, between the neighbours it had, as it was', async () => {
    await publish();
    const groups = await at('/visit/groups/');
    const then = await source('visit/groups/index.html');
    const siblings = (await tree()).pages
      .filter(({ parent }) => parent === groups.parent)
      .map(({ address }) => address);
    const files = Object.fromEntries(
      Object.entries(demoFiles()).filter(([path]) => path !== 'visit/groups/index.html'),
    );
    await house.owner.bringIn(site, await zip(files));
    expect((await tree()).pages.some(({ address }) => address === '/visit/groups/')).toBe(false);
    expect(await things(1)).toContainEqual({
      path: 'visit/groups/index.html',
      address: '/visit/groups/',
      kind: 'page',
      label: 'Groups and schools',
      today: 'missing',
    });
    const answer = await decide({
      kind: 'take-from-release',
      release: 1,
      path: 'visit/groups/index.html',
      take: { kind: 'beside' },
    });
    expect(answer).toMatchObject({
      status: 201,
      words: expect.stringMatching(/as in release 1, at \/visit\/groups\/$/),
    });
    expect(await source('visit/groups/index.html')).toBe(then);
    const back = await at('/visit/groups/');
    expect((await tree()).pages.filter(({ parent }) => parent === back.parent).map(({ address }) => address)).toEqual(
      siblings,
    );
  });

  it('comes a page that was removed for good and deleted', async () => {
    await publish();
    const groups = await at('/visit/groups/');
    const then = await source('visit/groups/index.html');
    await remove(groups.id, { standIn: { kind: 'home' } });
    expect(await thing(1, 'visit/groups/index.html')).toMatchObject({ page: null, removal: await last() });
    await forGood([await last()], 'Groups and schools');
    await until(
      async () =>
        (
          await house.server.deps.db.one<{ n: number }>(
            `select count(*)::int as n from job where site_id = $1 and state in ('waiting', 'running')`,
            [site],
          )
        ).n,
      (n) => n === 0,
    );
    expect(
      await decide({
        kind: 'take-from-release',
        release: 1,
        path: 'visit/groups/index.html',
        take: { kind: 'beside' },
      }),
    ).toMatchObject({ status: 201 });
    expect(await source('visit/groups/index.html')).toBe(then);
    // The redirect its removal left retires.
    expect((await compiled()).rules.some(({ from }) => from === '/visit/groups/')).toBe(false);
  });

  it('comes the text of a page in place of today’s, with its address, menus and metadata of today', async () => {
    const here = await at('/visit/getting-here/');
    await publish();
    const then = await source('visit/getting-here/index.html');
    const [section] = (await inside(here.id)).sections.slice(1);
    await decide({
      kind: 'remove',
      thing: { kind: 'section', page: here.id, section: { name: section?.name, nth: section?.nth } },
    });
    const text = demoFiles()['visit/getting-here/index.html'] as Uint8Array;
    const newer = {
      ...demoFiles(),
      'visit/getting-here/index.html': Buffer.from(
        Buffer.from(text).toString('utf8').replace('</main>', '<p>Written later</p></main>'),
      ),
    };
    await house.owner.bringIn(site, await zip(newer));
    await decide({ kind: 'rename', page: here.id, address: '/visit/arrive/' });
    expect(await thing(1, 'visit/getting-here/index.html')).toMatchObject({
      page: here.id,
      addressToday: '/visit/arrive/',
    });
    expect(await source('visit/arrive/index.html')).toContain('Written later');
    expect(
      await decide({
        kind: 'take-from-release',
        release: 1,
        path: 'visit/getting-here/index.html',
        take: { kind: 'instead' },
      }),
    ).toMatchObject({ status: 201, words: '“Getting here” has its text of release 1' });
    expect(await source('visit/arrive/index.html')).not.toContain('Written later');
    expect((await tree()).pages.find(({ id }) => id === here.id)).toMatchObject({
      textOf: 1,
      address: '/visit/arrive/',
    });
    // The section removed since stays removed; put back, the page is as it was published, but for its new place.
    await putBack(await last());
    await decide({ kind: 'rename', page: here.id, address: '/visit/getting-here/' });
    expect(await source('visit/getting-here/index.html')).toBe(then);
    expect(
      await decide({
        kind: 'take-from-release',
        release: 1,
        path: 'visit/getting-here/index.html',
        take: { kind: 'instead' },
      }),
    ).toMatchObject({ code: 'same-as-release' });
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
    expect(
      await decide({
        kind: 'take-from-release',
        release: 1,
        path: 'visit/getting-here/index.html',
        take: { kind: 'section', section: { name: lost?.name, nth: 0 } },
      }),
    ).toMatchObject({ status: 201 });
    const names = sectionsOf(Buffer.from((await source('visit/getting-here/index.html')) ?? ''));
    expect(names).toEqual(all.map(({ name }) => name));
  });

  it('comes a file that is gone, or in place of today’s', async () => {
    await publish();
    const { style } = await house.server.deps.db.one<{ style: string }>(
      `select min(path) as style from source_file f join site s on s.current_import = f.import_id where s.id = $1 and path like '%.css'`,
      [site],
    );
    const then = await source(style);
    await house.owner.bringIn(site, await zip({ ...demoFiles(), [style]: 'body { color: red }' }));
    expect(await things(1)).toContainEqual(expect.objectContaining({ path: style, kind: 'file', today: 'different' }));
    expect(
      await decide({ kind: 'take-from-release', release: 1, path: style, take: { kind: 'instead' } }),
    ).toMatchObject({ status: 201 });
    expect(await source(style)).toBe(then);
    await decide({ kind: 'step', direction: 'back' });
    expect(await source(style)).toBe('body { color: red }');
    expect(
      await decide({ kind: 'take-from-release', release: 9, path: style, take: { kind: 'instead' } }),
    ).toMatchObject({ code: 'release-not-kept' });
    expect(
      await decide({ kind: 'take-from-release', release: 1, path: 'nothing.css', take: { kind: 'instead' } }),
    ).toMatchObject({ code: 'not-in-release' });
  });
});

const sectionsOf = (bytes: Uint8Array): string[] => findSections(parsePage(bytes)).map(({ name }) => name);
