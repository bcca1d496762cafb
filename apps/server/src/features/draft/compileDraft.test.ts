/** Compiling what changed must come to the same as compiling everything. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, settled, zip } from '../../../tests/harness.ts';
import { areKept } from '../shared/contents.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { compileDraft } from './compileDraft.ts';

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.stop());

it('comes to the same step by step as from nothing, forward and back', async () => {
  const { deps } = house.server;
  const site = await house.owner.newSite('Twelve');
  const link = (n: number) => `<a href="${n % 2 === 0 ? `/page-${n}/` : `../page-${n}/index.html`}">${n}</a>`;
  await house.owner.bringIn(
    site,
    await zip(
      Object.fromEntries([
        ['s.css', 'a{background:url(/p.png)}'],
        ['p.png', 'x'],
        ['404.html', '<a href="/">home</a>'],
        ['index.html', `<title>Front</title>${[1, 2, 3].map(link).join('').replaceAll('../', '')}`],
        ...Array.from({ length: 12 }, (_, n) => [
          `page-${n}/index.html`,
          `<link rel=stylesheet href=/s.css><title>Page ${n}</title>${link((n + 1) % 12)}${link((n + 5) % 12)}<a href="/">home</a>`,
        ]),
      ]) as Record<string, string>,
    ),
  );
  const pages = await house.owner.pages(site);
  const at = (address: string) => pages.find((page) => page.address === address)?.id ?? '';
  const decisions = [
    { kind: 'title', page: at('/page-3/'), title: 'Three' },
    { kind: 'home', page: at('/page-1/') },
    { kind: 'title', page: at('/page-1/'), title: 'One' },
    { kind: 'home', page: at('/page-2/') },
    { kind: 'step', direction: 'back' },
    { kind: 'redirect', from: '/old', to: { status: 301, target: { kind: 'page', page: at('/page-1/') } } },
    { kind: 'title', page: at('/page-3/'), title: 'Drei' },
    { kind: 'step', direction: 'back' },
    { kind: 'step', direction: 'forward' },
    { kind: 'home', page: at('/') },
    { kind: 'base-path', path: '/under' },
    { kind: 'title', page: at('/page-5/'), title: 'Five' },
    { kind: 'home', page: at('/page-4/') },
    { kind: 'base-path', path: '/under/two' },
    { kind: 'step', direction: 'back' },
    { kind: 'home', page: at('/page-6/') },
    { kind: 'base-path', path: '' },
  ];
  const roots: string[][] = [];
  for (const decision of decisions) {
    expect((await house.owner.decide(site, decision)).status).toBe(201);
    const step = await compileDraft(deps, site);
    await deps.db.run('delete from draft where site_id = $1', [site]);
    const whole = await compileDraft(deps, site);
    expect(whole.shards).toEqual(step.shards);
    expect([whole.files, whole.bytes]).toEqual([step.files, step.bytes]);
    roots.push([...step.shards]);
  }
  // An earlier version, asked for later, is what it was.
  for (const [index, shards] of roots.entries())
    expect((await compileDraft(deps, site, { version: index + 1 })).shards).toEqual(shards);
  // Home went to page 1 and back to the front page: nothing but the titles differs from the import.
  expect(new Set(roots.map((shards) => shards.join())).size).toBeGreaterThan(5);
});

describe('a compile of many pages', () => {
  let site = '';
  beforeAll(async () => {
    site = await house.owner.newSite('Held');
    const page = (n: number) => [
      n === 0 ? 'index.html' : `p${n}/index.html`,
      `<title>${n}</title><a href="/p1/">1</a>`,
    ];
    await house.owner.bringIn(site, await zip(Object.fromEntries(Array.from({ length: 9 }, (_, n) => page(n)))));
    expect((await house.owner.decide(site, { kind: 'base-path', path: '/one' })).status).toBe(201);
  });

  it('holds nothing of the database while threads work, and nobody who decides waits for it', async () => {
    const { deps } = house.server;
    const [page] = await house.owner.pages(site);
    let calls = 0;
    const compile: typeof deps.threads.compile = async (...given) => {
      // Within a transaction the database refuses whatever does not go through it.
      await deps.db.one('select 1 as one');
      calls += 1;
      const decided = await house.owner.decide(site, { kind: 'title', page: page?.id ?? '', title: 'New' });
      expect(decided.status).toBe(201);
      return deps.threads.compile(...given);
    };
    await settled(house, site);
    await deps.db.run('delete from draft where site_id = $1', [site]);
    const compiled = await compileDraft({ ...deps, threads: { ...deps.threads, size: 1, compile } }, site);
    expect([compiled.version, calls]).toEqual([1, 1]);
    // What was decided meanwhile is not taken back by what was compiled before it.
    expect((await compileDraft(deps, site)).version).toBe(2);
    expect((await compileDraft(deps, site, { version: 1 })).version).toBe(1);
    expect(await deps.db.one('select version from draft where site_id = $1', [site])).toEqual({ version: 2 });
  });

  it('begins again where a sweep took what it had made', async () => {
    const { deps } = house.server;
    const hashes = async () =>
      (await deps.db.many<{ hash: string }>('select hash from content')).map(({ hash }) => hash);
    await settled(house, site);
    const known = await hashes();
    expect((await house.owner.decide(site, { kind: 'base-path', path: '/two' })).status).toBe(201);
    await settled(house, site);
    await deps.db.run('delete from draft where site_id = $1', [site]);
    let sweeps = 0;
    const db = Object.create(deps.db, {
      transaction: {
        value: async (work: Parameters<typeof deps.db.transaction>[0]) => {
          const made = (await hashes()).filter((hash) => !known.includes(hash));
          if ((sweeps += 1) === 1) await deps.db.run('delete from content where hash = any($1)', [made]);
          return deps.db.transaction(work);
        },
      },
    }) as typeof deps.db;
    const { shards } = await compileDraft({ ...deps, db }, site);
    expect(sweeps).toBe(2);
    const entries = await readAllEntries(deps.db, shards);
    expect(await areKept(deps.db, new Set([...entries.values()].map(({ hash }) => hash)))).toBe(true);
  });
});

it('comes to the same for everything that can be decided about pages', async () => {
  const { deps } = house.server;
  const site = await house.owner.newSite('Everything');
  const nav =
    '<header><nav><ul><li><a href="/a/">A</a></li><li><a href="/b/">B</a></li><li><a href="/">Home</a></li></ul></nav></header>';
  const body = (n: string) =>
    `<main><h1>${n}</h1><h2>One</h2><p>First of ${n}</p><h2>Two</h2><p>Same words everywhere</p><img src="/logo.png" width="10" height="10"></main>`;
  await house.owner.bringIn(
    site,
    await zip({
      'logo.png': 'x',
      'other.png': 'y',
      's.css': 'a{background:url(logo.png)}',
      ...Object.fromEntries(
        ['index', 'a/index', 'b/index', 'a/one/index', 'a/two/index', 'c/index'].map((path, n) => [
          `${path}.html`,
          `<html lang="en"><head><title>P${n}</title><link rel=stylesheet href="/s.css"></head><body>${nav}${body(path)}<time datetime="202${n}-01-01">d</time></body></html>`,
        ]),
      ),
    }),
  );
  const pages = await house.owner.pages(site);
  const at = (address: string) => pages.find((page) => page.address === address)?.id ?? '';
  const everywhere = { kind: 'everywhere' };
  const text = { tag: 'p', what: 'text', mark: 'Same words everywhere', nth: 0, under: 'Two', way: '' };
  const item = (page: string, label: string) => ({
    target: { kind: 'page', page },
    label,
    newWindow: false,
    children: [],
  });
  const decisions = [
    { kind: 'rename', page: at('/a/'), address: '/alpha/' },
    { kind: 'place', node: at('/c/'), parent: at('/a/'), after: null },
    { kind: 'touch', touch: { kind: 'text', scope: everywhere, place: text, to: 'Other words' } },
    { kind: 'touch', touch: { kind: 'picture', scope: everywhere, from: '/logo.png', to: '/other.png', alt: 'Logo' } },
    { kind: 'in-menus', page: at('/b/'), shown: false },
    { kind: 'listing', page: at('/a/'), perPage: 1 },
    {
      kind: 'menu',
      menu: 'header > nav > ul /a/',
      items: [item(at('/c/'), 'C'), item(at('/a/'), 'A')],
      whereItDiffers: true,
    },
    { kind: 'duplicate', page: at('/a/one/'), title: 'Copy' },
    { kind: 'ready', page: at('/a/two/'), ready: false },
    { kind: 'touch', touch: { kind: 'css', scope: { kind: 'branch', page: at('/a/') }, css: 'p { color: red }' } },
    {
      kind: 'touch',
      touch: {
        kind: 'sections',
        scope: { kind: 'page', page: at('/b/') },
        order: [
          { name: 'Two', nth: 0 },
          { name: 'One', nth: 0, out: true },
        ],
      },
    },
    { kind: 'rename', page: at('/b/'), address: '/beta/' },
    { kind: 'step', direction: 'back' },
    { kind: 'step', direction: 'back' },
    { kind: 'step', direction: 'forward' },
    { kind: 'home', page: at('/c/') },
    { kind: 'address-style', style: 'bare' },
    { kind: 'ready', page: at('/a/two/'), ready: true },
    { kind: 'base-path', path: '/under' },
    { kind: 'listing-removed', page: at('/a/') },
    { kind: 'address-style', style: 'imported' },
    { kind: 'menu-removed', menu: 'header > nav > ul /a/' },
    {
      kind: 'head',
      settings: [
        { scope: everywhere, name: 'meta:author', text: 'Ada', own: null },
        { scope: everywhere, name: 'pattern', text: '{page} / {site}', own: null },
      ],
    },
    {
      kind: 'head',
      settings: [
        { scope: { kind: 'branch', page: at('/a/') }, name: 'meta:author', text: false, own: null },
        { scope: { kind: 'page', page: at('/b/') }, name: 'title', text: 'Bee', own: null },
      ],
    },
    {
      kind: 'head',
      settings: ['breadcrumb', 'article', 'sitemap'].map((name) => ({
        scope: everywhere,
        name,
        text: 'on',
        own: null,
      })),
    },
    {
      kind: 'head',
      settings: [{ scope: everywhere, name: 'robots.txt', text: 'User-agent: *\nDisallow: /x', own: null }],
    },
    { kind: 'step', direction: 'back' },
    { kind: 'head', settings: [{ scope: everywhere, name: 'pattern', text: null, own: null }] },
    {
      kind: 'remove',
      thing: { kind: 'node', node: at('/a/') },
      standIn: { kind: 'page', page: at('/b/') },
      links: 'lead-on',
      newHome: at('/'),
    },
    { kind: 'rename', page: at('/b/'), address: '/bee/' },
    { kind: 'remove', thing: { kind: 'file', address: '/s.css' }, standIn: { kind: 'gone' } },
    { kind: 'put-back', things: [{ of: 29 }] },
    { kind: 'remove', thing: { kind: 'node', node: at('/a/'), alone: true }, links: 'unlinked' },
    { kind: 'step', direction: 'back' },
    { kind: 'remove', thing: { kind: 'section', page: at('/b/'), section: { name: 'Two', nth: 0 } } },
    { kind: 'base-path', path: '/museum' },
    { kind: 'remove', thing: { kind: 'node', node: at('/b/') }, standIn: { kind: 'home' } },
    { kind: 'put-back', things: [{ of: 31 }] },
    { kind: 'base-path', path: '' },
    { kind: 'put-back', things: [{ of: 37 }] },
    { kind: 'step', direction: 'back' },
    { kind: 'remove', thing: { kind: 'menu-item', menu: 'header > nav > ul /a/', path: [0] } },
    { kind: 'put-back', things: [{ of: 35 }, { of: 37 }] },
    // Touched and swapped while it is away, a page has it when it is back, and loses it again.
    { kind: 'remove', thing: { kind: 'node', node: at('/a/two/') } },
    { kind: 'touch', touch: { kind: 'text', scope: everywhere, place: text, to: 'While away' } },
    { kind: 'touch', touch: { kind: 'picture', scope: everywhere, from: '/logo.png', to: '/other.png' } },
    { kind: 'put-back', things: [{ of: 44 }] },
    { kind: 'touch-removed', of: 46 },
    { kind: 'touch-removed', of: 45 },
  ];
  for (const decision of decisions) {
    const answer = await house.owner.decide(site, decision);
    expect(answer.status, `${JSON.stringify(decision)} ${JSON.stringify(answer.body)}`).toBe(201);
    const step = await compileDraft(deps, site);
    await deps.db.run('delete from draft where site_id = $1', [site]);
    const whole = await compileDraft(deps, site);
    expect(whole.shards, JSON.stringify(decision)).toEqual(step.shards);
    expect([whole.files, whole.bytes], JSON.stringify(decision)).toEqual([step.files, step.bytes]);
  }
});
