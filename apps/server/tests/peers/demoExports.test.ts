/**
 * The demo's old addresses, settled, published and exported: a real nginx and a real Apache answer every one of
 * them as the host stand-in does, and as the core decides.
 */
import type { RedirectProof } from '@fastigium/contracts/api/redirectProof';
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import type { ExportedRules } from '@fastigium/contracts/api/ruleFiles';
import { cp, readFile } from 'node:fs/promises';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { oldSiteSeed } from '../../../standins/src/oldSite/seed.ts';
import { worldSeed } from '../../../standins/src/registrar/registry.ts';
import { importFolder } from '../../src/features/imports/upload.ts';
import { letBe, openHouse, type House } from '../harness.ts';
import { temporaryFolder } from './processes.ts';
import { startApache, startNginx, type WebServer } from './webServers.ts';

const demo = (name: string) => new URL(`../../../../demo/lanternmoor/${name}`, import.meta.url);
const read = async (name: string): Promise<unknown> => JSON.parse(await readFile(demo(name), 'utf8'));

let house: House;
let site: string;
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
const running: WebServer[] = [];
const api = (path: string) => `/api/sites/${site}/${path}`;

beforeAll(async () => {
  folder = await temporaryFolder('demo-exports');
  await cp(demo('site'), `${folder.path}/site`, { recursive: true });
  house = await openHouse({
    seed: worldSeed.parse(await read('world.json')),
    oldSite: oldSiteSeed.parse(await read('old-site.json')),
  });
  site = await house.owner.newSite('Lanternmoor');
  const { id } = await house.server.deps.db.one<{ id: string }>('select id from person limit 1');
  const job = await importFolder(house.server.deps, { site, by: id, folder: demo('site').pathname, fileName: 'site' });
  await house.owner.ended(job);
}, 60_000);
afterAll(async () => {
  for (const server of running) await server.stop();
  await house.stop();
  await folder.remove();
});

it('nginx, Apache, the host stand-in and the core agree on every old address of the demo', async () => {
  const lines = (await readFile(demo('old-addresses.csv'), 'utf8')).trim().split('\n').slice(1);
  await house.owner.post(api('old-addresses'), {
    addresses: lines.map((line) => {
      const at = line.lastIndexOf(',');
      return { address: line.slice(0, at).replace(/^"|"$/g, ''), visits: Number(line.slice(at + 1)) || null };
    }),
  });
  while (
    await house.server.deps.db.maybeOne(
      `select 1 from job where site_id = $1 and state in ('waiting', 'running') limit 1`,
      [site],
    )
  )
    await new Promise((resolve) => setTimeout(resolve, 50));
  const open = (await house.owner.get<{ rows: RedirectRow[] }>(api('redirects'))).body.rows.filter(
    ({ origin }) => origin === 'open',
  );
  expect(open.length).toBeGreaterThan(50);
  // A third by suggestion, a third gone, the rest as they come: lost, or caught by a pattern.
  const settle = open.flatMap(({ from, suggestion }, n) =>
    n % 3 === 0 && suggestion?.page
      ? [{ from, to: { status: n % 2 === 0 ? 301 : 308, target: { kind: 'page', page: suggestion.page } } }]
      : n % 3 === 1
        ? [{ from, to: { status: 410 } }]
        : [],
  );
  const patterns = [
    {
      text: '/news/:year/:month/:slug.html',
      status: 301,
      target: '/journal/:slug/',
      ignoreCase: false,
      dropsQuery: false,
    },
    { text: '/visit.php?id=:id(\\d+)', status: 302, target: '/visit/?was=:id', ignoreCase: false, dropsQuery: false },
    { text: '/gallery/*', status: 307, target: '/pictures/:0', ignoreCase: true, dropsQuery: true },
  ];
  expect((await house.owner.decide(site, { kind: 'redirects', settle, remove: [], patterns })).status).toBe(201);
  await letBe(house, site);
  expect(await house.owner.publish(site)).toMatchObject({ state: 'done' });

  const { rows } = (await house.owner.get<RedirectProof>(api('redirects/proof'))).body;
  const asked = [...new Set(rows.flatMap(({ from }) => (from.includes('?') ? [from] : [from, `${from}?campaign=1`])))];
  const name = new URL((await house.owner.overview(site)).liveUrl ?? '').hostname;
  const form = async (which: string) =>
    (await house.owner.get<ExportedRules>(api(`redirects/files?form=${which}`))).body;
  const [nginx, apache] = [await form('nginx'), await form('apache-map')];
  expect([nginx.leftOut, apache.leftOut]).toEqual([[], []]);
  running.push(
    await startNginx(folder.path, nginx.files),
    await startApache(folder.path, 'apache', apache.files, false),
  );
  const counted = new Map<number, number>();
  for (const address of asked) {
    const host = await house.visit(name, address);
    counted.set(host.status, (counted.get(host.status) ?? 0) + 1);
    const [first, second] = await Promise.all(running.map((server) => server.ask(address)));
    const meant = { status: host.status, location: host.location ?? undefined };
    expect([address, first, second]).toEqual([address, meant, meant]);
    const proof = rows.find(({ from }) => from === address);
    if (proof) expect([address, proof.draft.hops[0]?.status]).toEqual([address, host.status]);
  }
  // All of it was met, or the check would say nothing.
  for (const status of [200, 301, 302, 308, 404, 410])
    expect([status, counted.get(status) ?? 0]).not.toEqual([status, 0]);
}, 120_000);
