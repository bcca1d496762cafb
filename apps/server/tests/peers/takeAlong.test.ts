/**
 * A release taken along: read by Info-ZIP's unzip and by Python's zipfile, served by a real nginx and a real Apache
 * (Debian's packages), and brought in again. Every path is asked of each: status, type, caching, bytes.
 */
import type { HistoryRow } from '@fastigium/contracts/api/draft';
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ManifestEntry } from '@fastigium/core/release';
import { letBe, openHouse, SMALL_SITE, zip, type House } from '../harness.ts';
import { temporaryFolder } from './processes.ts';
import { startApache, startNginx, type WebServer } from './webServers.ts';

// A page in another encoding, a name with letters beyond ASCII, a type of its own, and a file without an ending.
const SITE = {
  ...SMALL_SITE,
  'caf\u00e9/index.html': SMALL_SITE['visit/index.html'] ?? '',
  'feed.xml': '<rss version="2.0"><channel></channel></rss>',
  'app.js': 'let a = 1;',
  LICENSE: 'of nobody',
  'latin/index.html': Buffer.from(
    '<!DOCTYPE html><html lang="cy"><head><meta charset="windows-1252"><title>T\u0177</title></head><body><p>\u00e2 caf\u00e9</p></body></html>'.replace(
      '\u0177',
      'y',
    ),
    'latin1',
  ),
};
let house: House;
let site: string;
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
let manifest: { files: ManifestEntry[]; redirects: { from: string; status: number }[] };
const running: WebServer[] = [];

beforeAll(async () => {
  house = await openHouse();
  site = await house.owner.newSite('Moor');
  await house.owner.bringIn(site, await zip(SITE));
  const visit = (await house.owner.page(site, '/visit/')).id;
  await house.owner.decide(site, {
    kind: 'redirect',
    from: '/old.php?id=3',
    to: { status: 301, target: { kind: 'page', page: visit } },
  });
  await house.owner.decide(site, { kind: 'redirect', from: '/gone.html', to: { status: 410 } });
  await letBe(house, site);
  await house.owner.publish(site);
  folder = await temporaryFolder('take-along');
  const answer = await fetch(`${house.owner.base}/api/sites/${site}/releases/1/release.zip`, {
    headers: { cookie: house.owner.cookie },
  });
  expect(answer.headers.get('content-disposition')).toBe('attachment; filename=release-1.zip');
  await writeFile(join(folder.path, 'release-1.zip'), Buffer.from(await answer.arrayBuffer()));
  execFileSync('unzip', ['-q', 'release-1.zip'], { cwd: folder.path });
  manifest = JSON.parse(await readFile(join(folder.path, 'release.json'), 'utf8')) as typeof manifest;
});
afterAll(async () => {
  for (const server of running) await server.stop();
  await house.stop();
  await folder.remove();
});

describe('the archive', () => {
  it('is whole to unzip and to Python, which find the same files as the release says', () => {
    expect(execFileSync('unzip', ['-tq', 'release-1.zip'], { cwd: folder.path, encoding: 'utf8' })).toContain(
      'No errors detected',
    );
    const script =
      'import hashlib,json,sys,zipfile\nz=zipfile.ZipFile(sys.argv[1])\nassert z.testzip() is None\nprint(json.dumps({n[5:]:hashlib.sha256(z.read(n)).hexdigest() for n in z.namelist() if n.startswith("site/")}))';
    const found = JSON.parse(
      execFileSync('/usr/bin/python3', ['-c', script, 'release-1.zip'], { cwd: folder.path, encoding: 'utf8' }),
    ) as Record<string, string>;
    expect(found).toEqual(Object.fromEntries(manifest.files.map(({ path, hash }) => [path, hash])));
    expect(Object.keys(found)).toContain('caf\u00e9/index.html');
    expect(manifest.redirects.map(({ from, status }) => `${from} ${status}`)).toContain('/old.php?id=3 301');
  });

  it('brought in again it is the site, byte for byte, and what is for servers stays outside', async () => {
    const again = await house.owner.newSite('Moor again');
    expect((await house.owner.bringIn(again, await readFile(join(folder.path, 'release-1.zip')))).state).toBe('done');
    await letBe(house, again);
    await house.owner.publish(again);
    const rows = await house.server.deps.db.many<{ path: string; hash: string }>(
      'select f.path, f.hash from source_file f join site s on s.current_import = f.import_id where s.id = $1 order by f.path',
      [again],
    );
    expect(Object.fromEntries(rows.map(({ path, hash }) => [path, hash]))).toEqual(
      Object.fromEntries(manifest.files.map(({ path, hash }) => [path, hash])),
    );
  });

  it('its redirects come back in with it, as one step that can be taken back', async () => {
    expect(await house.visit('moor-again.localhost', '/old.php?id=3')).toMatchObject({
      status: 301,
      location: '/visit/',
    });
    expect((await house.visit('moor-again.localhost', '/gone.html')).status).toBe(410);
    const sites = (await house.owner.get<{ id: string; name: string }[]>('/api/sites')).body;
    const again = sites.find(({ name }) => name === 'Moor again')?.id ?? '';
    const history = (await house.owner.get<{ rows: HistoryRow[] }>(`/api/sites/${again}/history`)).body.rows;
    expect(history).toMatchObject([
      { message: { code: 'decision.redirects-came', parameters: { count: 2 } }, isStep: true },
    ]);
    // A page is meant by what it is.
    await house.owner.decide(again, {
      kind: 'rename',
      page: (await house.owner.page(again, '/visit/')).id,
      address: '/come/',
    });
    await house.owner.publish(again);
    expect((await house.visit('moor-again.localhost', '/old.php?id=3')).location).toBe('/come/');
  });

  it('a release that is not kept is said', async () => {
    expect(await house.owner.get(`/api/sites/${site}/releases/9/release.zip`)).toMatchObject({
      status: 404,
      body: { error: { code: 'release-not-kept' } },
    });
  });
});

describe('served', () => {
  const servers: [string, () => Promise<WebServer>][] = [
    ['nginx', () => startNginx(folder.path, [], ['headers-server.conf'])],
    ['Apache', () => startApache(folder.path, 'apache', [], false, ['headers.conf'])],
  ];

  it.each(servers)('by %s each path gives the same as at the host stand-in', async (_, start) => {
    const server = await start();
    running.push(server);
    const asked = manifest.files
      .filter(({ path }) => path !== '404.html')
      .flatMap(({ path }) => [
        `/${path}`,
        ...(path.endsWith('index.html') ? [`/${path.slice(0, -'index.html'.length)}`] : []),
      ])
      .map(encodeURI);
    const problems: string[] = [];
    for (const address of asked) {
      const entry = manifest.files.find(({ path }) =>
        [`/${path}`, `/${path.replace(/index\.html$/, '')}`].map(encodeURI).includes(address),
      );
      const { status, headers, body } = await server.whole(address);
      const type = (text: string | undefined) => (text ?? '').toLowerCase().replace(/\s|"/g, '');
      if (status !== 200) problems.push(`${address}: ${status}`);
      else if (createHash('sha256').update(body).digest('hex') !== entry?.hash)
        problems.push(`${address}: other bytes`);
      else if (type(headers['content-type']) !== type(entry.headers['content-type']))
        problems.push(
          `${address}: ${headers['content-type'] ?? 'no type'}, not ${entry.headers['content-type'] ?? ''}`,
        );
      else if (headers['cache-control'] !== entry.headers['cache-control'])
        problems.push(`${address}: cached by ${headers['cache-control'] ?? 'nothing'}`);
    }
    expect(problems).toEqual([]);
    for (const [address, expected] of [
      ['/old.php?id=3', '301 /visit/'],
      ['/gone.html', '410 '],
      ['/nowhere/', '404 '],
      ['/visit', '301 /visit/'],
    ] as const) {
      const own = await server.ask(address);
      const live = await house.visit('moor.localhost', address);
      expect(`${own.status} ${own.location ?? ''}`).toBe(expected);
      expect(`${live.status} ${live.location ?? ''}`).toBe(expected);
    }
    expect((await server.whole('/nowhere/')).body.toString()).toBe(SMALL_SITE['404.html']);
  });
});
