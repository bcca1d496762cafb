/**
 * The host stand-in: what a host port must keep to, through the real adapter, and what visitors get,
 * asked by curl as any client would. Sources are named beside each check.
 */
import { execFile } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  applyDelta,
  emptyManifest,
  findFileHeaders,
  computeRoot,
  type ManifestEntry,
  type ShardHashes,
} from '@fastigium/core/release';
import { serialiseRules } from '@fastigium/core/redirects';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createHttpHost } from '../../../server/src/adapters/host/httpHost.ts';
import { startHost, type RunningHost } from './host.ts';

const sha256 = (data: Uint8Array | string) => createHash('sha256').update(data).digest('hex');
const folder = mkdtempSync(join(tmpdir(), 'fastigium-host-'));
const TOKEN = 'token-of-the-test-host';
let host: RunningHost;
let port: ReturnType<typeof createHttpHost>;

const FILES: Readonly<Record<string, string>> = {
  'index.html': `<title>Front</title>${'<p>long enough to be compressed</p>'.repeat(60)}`,
  'caf\u00e9/index.html': '<title>Café</title>',
  'data.bin': '0123456789',
  'style.css': 'p{}',
  '404.html': '<title>Nothing</title>',
  'picture.svg': `<svg>${' '.repeat(2000)}</svg>`,
};
const RULES = serialiseRules([
  { from: '/old', status: 301, to: '/caf%C3%A9/' },
  { from: '/moved', status: 308, to: '/' },
  { from: '/gone', status: 410 },
]);

function manifest(files: Readonly<Record<string, string>>): {
  put: ManifestEntry[];
  shards: ShardHashes;
  root: string;
} {
  const put = Object.entries(files).map(([path, content]) => ({
    path,
    hash: sha256(content),
    sizeBytes: Buffer.byteLength(content),
    headers: findFileHeaders(path, 'utf-8'),
  }));
  const { shards } = applyDelta(emptyManifest, () => '', { put, remove: [] }, sha256);
  return { put, shards, root: computeRoot(shards, sha256) };
}

async function publish(
  site: string,
  files: Readonly<Record<string, string>>,
  rules: string | null = null,
): Promise<string> {
  const id = randomUUID();
  const { put, root } = manifest(files);
  for (const content of [...Object.values(files), ...(rules === null ? [] : [rules])])
    await port.put(site, sha256(content), Buffer.from(content));
  await port.stage(site, { id, base: null, put, remove: [], rules: rules === null ? null : sha256(rules), root });
  await port.switchTo(site, id, await port.current(site));
  return id;
}

// The host runs in this process, so curl must not block it.
const run = promisify(execFile);
const MOST_SECONDS = '10';

/** Status, headers and body, as curl sees them. */
async function curl(
  path: string,
  ...options: string[]
): Promise<{ status: number; headers: Record<string, string>; body: Buffer }> {
  const hostHeader = options.some((option) => option.startsWith('Host:')) ? [] : ['-H', 'Host: front.localhost'];
  const { stdout: out } = await run(
    'curl',
    [
      '-s',
      '-i',
      '--path-as-is',
      '-m',
      MOST_SECONDS,
      ...hostHeader,
      ...options,
      `http://127.0.0.1:${host.publicPort}${path}`,
    ],
    { encoding: 'buffer' },
  );
  const end = out.indexOf('\r\n\r\n');
  const [statusLine = '', ...lines] = out.subarray(0, end).toString().split('\r\n');
  const headers = Object.fromEntries(
    lines.map((line) => [line.slice(0, line.indexOf(':')).toLowerCase(), line.slice(line.indexOf(':') + 1).trim()]),
  );
  return { status: Number(statusLine.split(' ')[1]), headers, body: out.subarray(end + 4) };
}

beforeAll(async () => {
  host = await startHost({ folder, token: TOKEN, controlPort: 0, publicPort: 0 });
  port = createHttpHost({
    controlUrl: `http://127.0.0.1:${host.controlPort}`,
    token: TOKEN,
    urlOf: (site) => `http://${site}.localhost/`,
  });
  await publish('front', FILES, RULES);
});
afterAll(async () => {
  port.close();
  await host.stop();
  rmSync(folder, { recursive: true });
});

describe('what visitors get (RFC 9110)', () => {
  it('types, and a charset for text (8.3)', async () => {
    expect((await curl('/')).headers['content-type']).toBe('text/html; charset=utf-8');
    expect((await curl('/style.css')).headers['content-type']).toBe('text/css; charset=utf-8');
    expect((await curl('/data.bin')).headers['content-type']).toBe('application/octet-stream');
  });

  it('the bytes that were sent, HEAD without them (9.3.2)', async () => {
    expect((await curl('/data.bin')).body.toString()).toBe('0123456789');
    const head = await curl('/data.bin', '--head');
    expect(head).toMatchObject({ status: 200, headers: { 'content-length': '10' } });
    expect(head.body.length).toBe(0);
  });

  it('304 for what a client has already (13.1.2, 13.1.3)', async () => {
    const { headers } = await curl('/data.bin');
    expect((await curl('/data.bin', '-H', `If-None-Match: ${headers.etag}`)).status).toBe(304);
    expect((await curl('/data.bin', '-H', `If-None-Match: "other", ${headers.etag}`)).status).toBe(304);
    expect((await curl('/data.bin', '-H', `If-Modified-Since: ${headers['last-modified']}`)).status).toBe(304);
    expect(
      (await curl('/data.bin', '-H', 'If-None-Match: "other"', '-H', `If-Modified-Since: ${headers['last-modified']}`))
        .status,
    ).toBe(200);
    expect((await curl('/data.bin', '-H', 'If-Modified-Since: Mon, 01 Jan 2001 00:00:00 GMT')).status).toBe(200);
  });

  it('412 when a precondition fails (13.1.1, 13.1.4)', async () => {
    expect((await curl('/data.bin', '-H', 'If-Match: "other"')).status).toBe(412);
    expect((await curl('/data.bin', '-H', 'If-Unmodified-Since: Mon, 01 Jan 2001 00:00:00 GMT')).status).toBe(412);
  });

  it('ranges (14.2), none where If-Range no longer holds (13.1.5), 416 beyond the end (15.5.17)', async () => {
    const { etag } = (await curl('/data.bin')).headers;
    const part = await curl('/data.bin', '-H', 'Range: bytes=2-4');
    expect([part.status, part.body.toString(), part.headers['content-range']]).toEqual([206, '234', 'bytes 2-4/10']);
    expect((await curl('/data.bin', '-H', 'Range: bytes=-3')).body.toString()).toBe('789');
    expect((await curl('/data.bin', '-H', 'Range: bytes=2-4', '-H', `If-Range: ${etag}`)).status).toBe(206);
    expect((await curl('/data.bin', '-H', 'Range: bytes=2-4', '-H', 'If-Range: "other"')).status).toBe(200);
    expect(await curl('/data.bin', '-H', 'Range: bytes=20-30')).toMatchObject({
      status: 416,
      headers: { 'content-range': 'bytes */10' },
    });
  });

  it('compression by agreement, each form with a tag of its own (8.8.3.3, 12.5.3)', async () => {
    const plain = await curl('/');
    const packed = await curl('/', '-H', 'Accept-Encoding: gzip');
    const smaller = await curl('/', '-H', 'Accept-Encoding: br, gzip');
    expect([plain, packed, smaller].map(({ headers }) => headers['content-encoding'])).toEqual([
      undefined,
      'gzip',
      'br',
    ]);
    expect(new Set([plain, packed, smaller].map(({ headers }) => headers.etag)).size).toBe(3);
    expect(plain.headers.vary).toBe('accept-encoding');
    expect(
      (
        await run('curl', [
          '-m',
          MOST_SECONDS,
          '-s',
          '--compressed',
          '-H',
          'Host: front.localhost',
          `http://127.0.0.1:${host.publicPort}/`,
        ])
      ).stdout,
    ).toBe(FILES['index.html']);
    expect((await curl('/', '-H', 'Accept-Encoding: gzip;q=0')).headers['content-encoding']).toBeUndefined();
    expect((await curl('/data.bin', '-H', 'Accept-Encoding: gzip')).headers.vary).toBeUndefined();
  });

  it('redirects, gone, folders without slash, the site’s own page for nothing', async () => {
    expect(await curl('/old?q=1')).toMatchObject({ status: 301, headers: { location: '/caf%C3%A9/?q=1' } });
    expect((await curl('/moved', '-X', 'POST')).status).toBe(405);
    expect(await curl('/moved')).toMatchObject({ status: 308, headers: { location: '/' } });
    expect((await curl('/gone')).status).toBe(410);
    expect(await curl('/caf%c3%a9')).toMatchObject({ status: 301, headers: { location: '/caf%C3%A9/' } });
    expect((await curl('/caf%C3%A9/')).body.toString()).toContain('Café');
    const nothing = await curl('/none');
    expect([nothing.status, nothing.body.toString(), nothing.headers['content-type']]).toEqual([
      404,
      '<title>Nothing</title>',
      'text/html; charset=utf-8',
    ]);
  });

  it('of an old domain its own rules first, then the same address of the main one', async () => {
    const rules = serialiseRules([
      { from: '//old.example/shop.php', status: 301, to: '/caf%C3%A9/' },
      { from: '//old.example/gone', status: 410 },
      { from: '//old.example/out', status: 302, to: 'https://elsewhere.example/' },
      { from: '//old.example/news/:slug', status: 308, to: '/:slug/', isPattern: true },
      { from: '/shop.php', status: 301, to: '/' },
    ]);
    await publish('old-and-new', FILES, rules);
    await port.naming?.setNames('old-and-new', {
      main: 'new.example',
      others: [
        { name: 'old.example', status: 308 },
        { name: 'older.example', status: 301 },
      ],
      forceHttps: false,
      hstsSeconds: null,
    });
    const ask = async (name: string, path: string) => {
      const { status, headers } = await curl(path, '-H', `Host: ${name}`);
      return [status, headers.location];
    };
    expect(await ask('old.example', '/shop.php?x=1')).toEqual([301, 'http://new.example/caf%C3%A9/?x=1']);
    expect(await ask('old.example', '/gone')).toEqual([410, undefined]);
    expect(await ask('old.example', '/out')).toEqual([302, 'https://elsewhere.example/']);
    expect(await ask('old.example', '/news/moon')).toEqual([308, 'http://new.example/moon/']);
    expect(await ask('old.example', '/anything?y')).toEqual([308, 'http://new.example/anything?y']);
    expect(await ask('older.example', '/shop.php')).toEqual([301, 'http://new.example/shop.php']);
    expect(await ask('new.example', '/shop.php')).toEqual([301, '/']);
  });

  it('405 with the list for what it cannot do (15.5.6)', async () => {
    expect(await curl('/', '-X', 'DELETE')).toMatchObject({ status: 405, headers: { allow: 'GET, HEAD' } });
  });

  it('nothing of other folders, however it is asked for', async () => {
    for (const path of [
      '/../../etc/passwd',
      '/%2e%2e/%2e%2e/etc/passwd',
      '/..%2f..%2fetc%2fpasswd',
      '/contents/',
      '/%00',
    ])
      expect((await curl(path)).status).toBe(404);
  });

  it('nothing under a name that has no site', async () => {
    expect((await curl('/', '-H', 'Host: nobody.localhost')).status).toBe(404);
    expect((await curl('/', '-H', 'Host: 127.0.0.1')).status).toBe(404);
  });

  it('writes an access log in the combined format', async () => {
    await curl('/data.bin', '-A', 'Test/1.0', '-e', 'http://from.example/');
    // Apache HTTP server documentation, "Combined Log Format".
    const line =
      readFileSync(join(folder, 'logs', 'front.access.log'), 'utf8')
        .trim()
        .split('\n')
        .at(-1) ?? '';
    expect(line).toMatch(
      /^\S+ - - \[\d\d\/\w{3}\/\d{4}:\d\d:\d\d:\d\d [+-]\d{4}\] "GET \/data\.bin HTTP\/1\.1" 200 10 "http:\/\/from\.example\/" "Test\/1\.0"$/,
    );
  });
});

describe('what a host port must keep to', () => {
  const refused = (work: Promise<unknown>) =>
    work.then(
      () => 'taken',
      (error: Error) => error.message,
    );

  it('keeps a content under its own hash only', async () => {
    expect(await refused(port.put('front', sha256('one'), Buffer.from('two')))).toContain('do not have the hash');
    expect(
      await port.missing(
        'front',
        new Map([
          [sha256('one'), 3],
          [sha256('0123456789'), 10],
        ]),
      ),
    ).toEqual([sha256('one')]);
  });

  it('stages only what adds up, and has all it needs', async () => {
    const { put, root } = manifest({ 'index.html': 'never sent' });
    expect(
      await refused(port.stage('front', { id: randomUUID(), base: null, put, remove: [], rules: null, root })),
    ).toContain('1 contents are missing');
    await port.put('front', sha256('never sent'), Buffer.from('never sent'));
    expect(
      await refused(
        port.stage('front', { id: randomUUID(), base: null, put, remove: [], rules: null, root: sha256('else') }),
      ),
    ).toContain('does not add up');
    expect(
      await refused(port.stage('front', { id: randomUUID(), base: randomUUID(), put, remove: [], rules: null, root })),
    ).toContain('release it is based on');
    for (const path of ['../climb', '/rooted', 'a//b', 'a/./b', 'back\\slash']) {
      expect(
        await refused(
          port.stage('front', {
            id: randomUUID(),
            base: null,
            put: [{ ...(put[0] as ManifestEntry), path }],
            remove: [],
            rules: null,
            root,
          }),
        ),
      ).toContain('not a release description');
    }
  });

  it('switches only from the release that is expected, and twice is once', async () => {
    const first = await publish('switch', { 'index.html': 'first' });
    const second = await publish('switch', { 'index.html': 'second' });
    expect(await refused(port.switchTo('switch', first, randomUUID()))).toContain('another release became current');
    await port.switchTo('switch', second, first);
    expect(await port.current('switch')).toBe(second);
    expect(await refused(port.switchTo('switch', randomUUID(), second))).toContain('never staged');
  });

  it('keeps the date of a file whose content stays, and moves it when it changes', async () => {
    const id = await publish('dates', { 'a.html': 'a', 'b.html': 'b' });
    const date = async (path: string) =>
      (await curl(path, '-H', 'Host: dates.localhost')).headers['last-modified'] ?? '';
    const [a, b] = [await date('/a.html'), await date('/b.html')];
    await new Promise((resolve) => setTimeout(resolve, 1100));
    const changed = { ...(manifest({ 'a.html': 'other' }).put[0] as ManifestEntry) };
    await port.put('dates', changed.hash, Buffer.from('other'));
    const next = randomUUID();
    await port.stage('dates', {
      id: next,
      base: id,
      put: [changed],
      remove: [],
      rules: null,
      root: manifest({ 'a.html': 'other', 'b.html': 'b' }).root,
    });
    await port.switchTo('dates', next, id);
    expect(await date('/b.html')).toBe(b);
    expect(Date.parse(await date('/a.html'))).toBeGreaterThan(Date.parse(a));
  });

  it('lets nobody in without the token', async () => {
    const answer = await fetch(`http://127.0.0.1:${host.controlPort}/sites/front/current`, {
      headers: { authorization: 'Bearer nonsense' },
    });
    expect(answer.status).toBe(401);
  });

  it('says that it is simulated', async () => {
    expect(await (await fetch(`http://127.0.0.1:${host.controlPort}/healthz`)).json()).toMatchObject({
      simulated: true,
    });
    expect((await curl('/')).headers.server).toContain('simulated');
  });
});
