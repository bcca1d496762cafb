/** Compiling what changed must come to the same as compiling everything. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openHouse, zip, type House } from '../../../tests/harness.ts';
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
  await house.owner.bringIn(site, await zip(Object.fromEntries([
    ['s.css', 'a{background:url(/p.png)}'], ['p.png', 'x'], ['404.html', '<a href="/">home</a>'],
    ['index.html', `<title>Front</title>${[1, 2, 3].map(link).join('').replaceAll('../', '')}`],
    ...Array.from({ length: 12 }, (_, n) => [`page-${n}/index.html`, `<link rel=stylesheet href=/s.css><title>Page ${n}</title>${link((n + 1) % 12)}${link((n + 5) % 12)}<a href="/">home</a>`]),
  ]) as Record<string, string>));
  const pages = await house.owner.pages(site);
  const at = (address: string) => pages.find((page) => page.address === address)?.id ?? '';
  const decisions = [
    { kind: 'title', page: at('/page-3/'), title: 'Three' }, { kind: 'home', page: at('/page-1/') }, { kind: 'title', page: at('/page-1/'), title: 'One' },
    { kind: 'home', page: at('/page-2/') }, { kind: 'step', direction: 'back' }, { kind: 'redirect', from: '/old', to: { status: 301, target: { kind: 'page', page: at('/page-1/') } } },
    { kind: 'title', page: at('/page-3/'), title: 'Drei' }, { kind: 'step', direction: 'back' }, { kind: 'step', direction: 'forward' }, { kind: 'home', page: at('/') },
    { kind: 'base-path', path: '/under' }, { kind: 'title', page: at('/page-5/'), title: 'Five' }, { kind: 'home', page: at('/page-4/') }, { kind: 'base-path', path: '/under/two' }, { kind: 'step', direction: 'back' }, { kind: 'home', page: at('/page-6/') }, { kind: 'base-path', path: '' },
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
  for (const [index, shards] of roots.entries()) expect((await compileDraft(deps, site, { version: index + 1 })).shards).toEqual(shards);
  // Home went to page 1 and back to the front page: nothing but the titles differs from the import.
  expect(new Set(roots.map((shards) => shards.join())).size).toBeGreaterThan(5);
});
