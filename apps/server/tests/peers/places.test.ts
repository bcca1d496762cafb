/**
 * Publishing to a folder and over SFTP: Debian's OpenSSH server takes the files, a real nginx serves
 * them, and visitors never meet half a release while one is switched.
 */
import { execFile } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import {
  chmod,
  lstat,
  mkdir,
  readdir,
  readFile,
  readlink,
  rename,
  symlink,
  truncate,
  writeFile,
} from 'node:fs/promises';
import { request } from 'node:http';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import type { HostingView } from '@fastigium/contracts/api/hosting';
import { Client } from 'ssh2';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { openSshPacks, type SshPacks } from '../../src/adapters/host/sshPacks.ts';
import { openHouse, SMALL_SITE, zip, type House } from '../harness.ts';
import { freePort, listens, startPeer, temporaryFolder, type Peer } from './processes.ts';
import { makeKeys, startSshServer, type SshKeys } from './sshServer.ts';
import { startNginx } from './webServers.ts';

const run = promisify(execFile);
let house: House;
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
const peers: Pick<Peer, 'stop'>[] = [];
const ports = { ssh: 0, web: 0 };
let keys: SshKeys;
let clientKey: string;
let fingerprint: string;
let user: string;

const startSsh = (hostKey: string, port = ports.ssh, more: readonly string[] = []) =>
  startSshServer(keys, { hostKey, port, more });

beforeAll(async () => {
  folder = await temporaryFolder('places');
  await chmod(folder.path, 0o755);
  house = await openHouse({
    env: {
      FASTIGIUM_OPEN_NETWORKS: '127.0.0.0/8',
      FASTIGIUM_HOST_FOLDERS: folder.path,
      FASTIGIUM_HOST_LOGS: folder.path,
    },
  });
  ports.ssh = await freePort();
  ports.web = await freePort();
  keys = await makeKeys(folder.path);
  ({ clientKey, fingerprint, user } = keys);
  await mkdir(join(folder.path, 'site'));
  await mkdir(join(folder.path, 'plain'));
  peers.push(await startSsh('host'));
  const config = join(folder.path, 'nginx.conf');
  await writeFile(
    config,
    `daemon off; pid ${folder.path}/nginx.pid; error_log stderr; ${user === 'root' ? 'user root;' : ''} events {} http { access_log ${folder.path}/access.log combined; client_body_temp_path ${folder.path}/b; proxy_temp_path ${folder.path}/p; fastcgi_temp_path ${folder.path}/f; uwsgi_temp_path ${folder.path}/u; scgi_temp_path ${folder.path}/s;
    server { listen 127.0.0.1:${ports.web}; root ${folder.path}/site/current; index index.html; } }`,
  );
  peers.push(await startPeer('/usr/sbin/nginx', ['-p', folder.path, '-c', config], () => listens(ports.web)));
});
afterAll(async () => {
  for (const peer of peers) await peer.stop();
  await house.stop();
  await folder.remove();
});

const get = (path: string) =>
  new Promise<{ status: number; body: string }>((resolve, reject) => {
    request({ host: '127.0.0.1', port: ports.web, path, agent: false }, (answer) => {
      let body = '';
      answer.on('data', (piece: Buffer) => (body += piece.toString()));
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, body }));
    })
      .on('error', reject)
      .end();
  });

type Refusal = { error: { code: string; message: string } };
async function newSite(name: string): Promise<string> {
  const site = await house.owner.newSite(name);
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  return site;
}

describe('a server over SFTP', () => {
  let site: string;
  const account = () => ({
    server: '127.0.0.1',
    port: ports.ssh,
    user,
    folder: join(folder.path, 'site'),
    key: clientKey,
    fingerprint,
    url: `http://127.0.0.1:${ports.web}/`,
  });
  const connect = (more: object = {}) =>
    house.owner.put<HostingView & Refusal>(`/api/sites/${site}/hosting/account`, {
      kind: 'sftp',
      ...account(),
      ...more,
    });

  it('shows its key first, the one ssh-keygen knows', async () => {
    site = await newSite('Over SFTP');
    const { body } = await house.owner.post<{ fingerprint: string }>(`/api/sites/${site}/hosting/host-key`, {
      server: '127.0.0.1',
      port: ports.ssh,
    });
    expect(body.fingerprint).toBe(fingerprint);
  });

  it('is not spoken to before its key is agreed to, nor with a wrong key of ours, nor where nobody may write', async () => {
    expect((await connect({ fingerprint: undefined })).body.error.code).toBe('host-key-changed');
    await run('ssh-keygen', ['-q', '-t', 'ed25519', '-N', '', '-f', join(folder.path, 'stranger')]);
    expect((await connect({ key: await readFile(join(folder.path, 'stranger'), 'utf8') })).body.error.code).toBe(
      'host-login-refused',
    );
    expect((await connect({ folder: '/nowhere/at/all' })).body.error.code).toBe('host-folder-unusable');
    expect((await connect({ folder: '/proc' })).status).toBeGreaterThanOrEqual(400);
    expect((await house.owner.get<HostingView>(`/api/sites/${site}/hosting`)).body.account.kind).toBe('stand-in');
  });

  it('is tried with a probe, leaves none of it behind, and keeps the key sealed', async () => {
    const { body, status } = await connect();
    expect([status, body.account.kind, body.account.pinnedKey, body.account.hasSecret]).toEqual([
      200,
      'sftp',
      fingerprint,
      true,
    ]);
    expect((await run('ls', [join(folder.path, 'site')])).stdout).toBe('');
    expect(JSON.stringify(body)).not.toContain('PRIVATE KEY');
    const { secret } = await house.server.deps.db.one<{ secret: Buffer }>(
      'select secret from host_account where site_id = $1',
      [site],
    );
    expect(secret.includes('PRIVATE KEY')).toBe(false);
  });

  it('gets the release whole, served by nginx; then only what changed', async () => {
    expect(await house.owner.publish(site)).toMatchObject({ state: 'done', error: null });
    expect(await get('/')).toMatchObject({ status: 200, body: SMALL_SITE['index.html'] });
    expect((await get('/visit/')).body).toBe(SMALL_SITE['visit/index.html']);
    const { id } = await house.owner.page(site, '/visit/');
    await house.owner.decide(site, { kind: 'title', page: id, title: 'Come and see' });
    expect((await house.owner.publish(site)).state).toBe('done');
    expect((await get('/visit/')).body).toContain('<title>Come and see</title>');
    expect((await house.owner.releases(site))[0]).toMatchObject({ filesSent: 1 });
    // Unchanged files are the same file on the server's disk, under two names or more.
    expect((await lstat(join(folder.path, 'site/current/style.css'))).nlink).toBeGreaterThanOrEqual(3);
  });

  it('switches all at once: visitors who read all the while miss nothing', async () => {
    let stop = false;
    let reads = 0;
    const wrong: string[] = [];
    const visitor = (async () => {
      while (!stop) {
        const { status, body } = await get('/visit/');
        reads += 1;
        if (status !== 200 || !/<title>(Come and see|Round \d)<\/title>/.test(body))
          wrong.push(`${status} ${body.slice(0, 80)}`);
      }
    })();
    const { id } = await house.owner.page(site, '/visit/');
    for (let round = 0; round < 4; round += 1) {
      await house.owner.decide(site, { kind: 'title', page: id, title: `Round ${round}` });
      expect((await house.owner.publish(site)).state).toBe('done');
    }
    stop = true;
    await visitor;
    expect(wrong).toEqual([]);
    expect(reads).toBeGreaterThan(50);
    expect((await get('/visit/')).body).toContain('Round 3');
  });

  it('its web server’s own log is read over SFTP as it grows, and what was not found is listed', async () => {
    const answer = await connect({ log: join(folder.path, 'access.log') });
    expect(answer.status).toBe(200);
    const log = join(folder.path, 'access.log');
    // nginx writes its line after the answer.
    const visit = async (path: string) => {
      const texts = () => Promise.all([log, `${log}.1`].map((name) => readFile(name, 'utf8').catch(() => '')));
      const lines = async () => (await texts()).join('').split(path).length;
      const before = await lines();
      await run('curl', [
        '-s',
        '-o',
        '/dev/null',
        '-A',
        'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0',
        '-e',
        'https://school.example/',
        `http://127.0.0.1:${ports.web}${path}`,
      ]);
      await vi.waitFor(
        async () => {
          expect(await lines()).toBe(before + 1);
        },
        { timeout: 30_000 },
      );
    };
    // It is read by itself as well, now and then: what counts is what is listed, not how much a reading brought.
    const read = () => house.owner.post(`/api/sites/${site}/watch/read`);
    const lost = async () => {
      await read();
      const { body } = await house.owner.get<{ lost: { address: string; visits: number; referrer: string }[] }>(
        `/api/sites/${site}/watch`,
      );
      return body.lost.map(({ address, visits, referrer }) => `${address} ${visits} ${referrer}`).sort();
    };
    await visit('/lost.html');
    expect(await lost()).toEqual(['/lost.html 1 https://school.example/']);
    await visit('/lost.html');
    expect(await lost()).toEqual(['/lost.html 2 https://school.example/']);
    // Rotated as logrotate does it: renamed, and nginx told to begin another (its documented USR1); what came in between counts once.
    await visit('/between.html');
    await rename(log, `${log}.1`);
    await run('kill', ['-USR1', (await readFile(join(folder.path, 'nginx.pid'), 'utf8')).trim()]);
    await vi.waitFor(() => lstat(log));
    await visit('/after.html');
    const rotated = [
      '/after.html 1 https://school.example/',
      '/between.html 1 https://school.example/',
      '/lost.html 2 https://school.example/',
    ];
    expect(await lost()).toEqual(rotated);
    expect(await lost()).toEqual(rotated);
    // Emptied in place, as others do.
    await truncate(log);
    await visit('/other.html');
    expect(await lost()).toEqual([...rotated, '/other.html 1 https://school.example/']);
    await connect({ log: '/nowhere/access.log' });
    expect((await read()).body).toMatchObject({
      error: { message: expect.stringContaining('/nowhere/access.log') as string },
    });
    await connect();
  });

  it('whose key has changed is refused, and the live release stays', async () => {
    await peers[0]?.stop();
    peers[0] = await startSsh('other-host');
    // The connection of the publish before is kept a while and is still the right server's.
    await pause(5500);
    const { id } = await house.owner.page(site, '/visit/');
    await house.owner.decide(site, { kind: 'title', page: id, title: 'Never sent' });
    const job = await house.owner.publish(site);
    expect(job.error?.code).toBe('host-key-changed');
    expect((await get('/visit/')).body).toContain('Round 3');
    await peers[0].stop();
    peers[0] = await startSsh('host');
    expect((await house.owner.publish(site)).state).toBe('done');
    expect((await get('/visit/')).body).toContain('Never sent');
  });
});

describe('many files at once', () => {
  const many = Object.fromEntries(
    Array.from({ length: 120 }, (_, n) => [
      `page ${n}/it's/index.html`,
      `<title>Page ${n}</title>${'words '.repeat(n * 20)}`,
    ]),
  );

  it.each([
    ['unpacked by a server that runs commands', []],
    ['one by one to an account that speaks SFTP alone', ['ForceCommand internal-sftp']],
  ] as const)('are %s, and each is whole', async (_, more) => {
    const port = await freePort();
    const own = join(folder.path, `many it's ${port}`);
    await mkdir(own);
    peers.push(await startSsh('host', port, more));
    const site = await house.owner.newSite(`Many ${port}`);
    await house.owner.bringIn(site, await zip({ ...SMALL_SITE, ...many }));
    expect(
      (
        await house.owner.put(`/api/sites/${site}/hosting/account`, {
          kind: 'sftp',
          server: '127.0.0.1',
          port,
          user,
          folder: own,
          key: clientKey,
          fingerprint,
          url: 'http://127.0.0.1:1/',
        })
      ).status,
    ).toBe(200);
    expect((await house.owner.publish(site)).state).toBe('done');
    for (const [path, text] of Object.entries(many))
      expect(await readFile(join(own, 'current', path), 'utf8')).toBe(text);
    expect((await readdir(own)).sort()).toEqual(['contents', 'current', 'releases']);
    expect((await house.owner.releases(site))[0]).toMatchObject({ filesSent: 120 + Object.keys(SMALL_SITE).length });
    // Again as many, into folders that are there by now; what has not changed gets its name in the new release all the same.
    const changed = Object.fromEntries(Object.entries(many).map(([path, text]) => [path, `${text} more`]));
    await house.owner.bringIn(site, await zip({ ...SMALL_SITE, ...changed }), 'again.zip');
    expect(await house.owner.publish(site)).toMatchObject({ state: 'done', error: null });
    for (const [path, text] of Object.entries({ ...changed, 'style.css': SMALL_SITE['style.css'] }))
      expect(await readFile(join(own, 'current', path), 'utf8')).toBe(text);
    expect((await readdir(own)).sort()).toEqual(['contents', 'current', 'releases']);
  });

  const hashed = (text: string) => ({
    hash: createHash('sha256').update(text).digest('hex'),
    bytes: Buffer.from(text),
  });
  const nameOf = ({ hash }: { hash: string }, path: string) => ({ path, to: `contents/${hash.slice(0, 2)}/${hash}` });
  async function onPacks(port: number, own: string, work: (packs: SshPacks) => Promise<void>): Promise<void> {
    await mkdir(own);
    const client = new Client();
    await new Promise((resolve, reject) => {
      client
        .on('ready', () => {
          resolve(undefined);
        })
        .on('error', reject)
        .connect({ host: '127.0.0.1', port, username: user, privateKey: clientKey });
    });
    try {
      const packs = await openSshPacks(client, own);
      if (!packs) throw new Error('this server runs no commands');
      await work(packs);
    } finally {
      client.end();
    }
  }

  it('are refused by the server where one arrives as something else, and none of that archive is kept', async () => {
    const own = join(folder.path, 'refusing');
    await onPacks(ports.ssh, own, async (packs) => {
      const right = hashed('right');
      const wrong = { ...hashed('as it was'), bytes: Buffer.from('as it came') };
      await expect(packs.contents([right, wrong], [])).rejects.toThrow(wrong.hash);
      expect(await readdir(join(own, 'contents'))).toEqual([]);
      // The next one is taken as if nothing had been.
      await packs.contents([right], [nameOf(right, 'releases/one/index.html')]);
      expect(await readFile(join(own, 'releases/one/index.html'), 'utf8')).toBe('right');
      await expect(packs.links([{ path: 'releases/one/lost.html', to: 'contents/00/nowhere' }])).rejects.toThrow(
        'nowhere',
      );
      expect((await readdir(own)).sort()).toEqual(['contents', 'releases']);
    });
  });

  it('a large one by itself is written whole in place of what was there, and a line that breaks leaves what was there', async () => {
    const own = join(folder.path, 'one-large');
    await onPacks(ports.ssh, own, async (packs) => {
      const bytes = randomBytes(3_000_000);
      await packs.file('note.json', Buffer.from('before'));
      await packs.file('note.json', bytes);
      expect((await readFile(join(own, 'note.json'))).equals(bytes)).toBe(true);
      await expect(packs.file('no-such-folder/note.json', bytes)).rejects.toThrow('no-such-folder');
    });
    const cut = new Client();
    await new Promise((resolve, reject) => {
      cut
        .on('ready', () => {
          resolve(undefined);
        })
        .on('error', reject)
        .connect({ host: '127.0.0.1', port: ports.ssh, username: user, privateKey: clientKey });
    });
    const packs = await openSshPacks(cut, own);
    const before = await readFile(join(own, 'note.json'));
    const sending = packs?.file('note.json', randomBytes(40_000_000));
    await vi.waitFor(async () => {
      expect((await readdir(own)).some((name) => name.startsWith('arriving-'))).toBe(true);
    });
    cut.destroy();
    await expect(sending).rejects.toThrow();
    // What came of it was put away by the server's own shell.
    await vi.waitFor(
      async () => {
        expect(await readdir(own)).toEqual(['note.json']);
      },
      { timeout: 5000 },
    );
    expect((await readFile(join(own, 'note.json'))).equals(before)).toBe(true);
  });

  it('several at once, go through one shell where a server lets a connection have no more, and fail together', async () => {
    const port = await freePort();
    peers.push(await startSsh('host', port, ['MaxSessions 1']));
    const own = join(folder.path, 'one-shell');
    await onPacks(port, own, async (packs) => {
      const texts = ['one', 'two', 'three', 'four'];
      await Promise.all(
        texts.map((text) => packs.contents([hashed(text)], [nameOf(hashed(text), `releases/a/${text}`)])),
      );
      for (const text of texts) expect(await readFile(join(own, 'releases/a', text), 'utf8')).toBe(text);
      const lost = [1, 2, 3].map((n) => packs.links([{ path: `releases/a/lost-${n}`, to: 'contents/00/nowhere' }]));
      expect((await Promise.allSettled(lost)).map(({ status }) => status)).toEqual([
        'rejected',
        'rejected',
        'rejected',
      ]);
    });
  });
});

describe('a large document with a kilobyte put into its middle', () => {
  it.each([
    ['goes as what is new in it to a server that runs commands', [], 1000, 20_000],
    ['goes whole to an account that speaks SFTP alone', ['ForceCommand internal-sftp'], 1_000_000, 1_100_000],
  ] as const)('%s, and is the same there', async (_, more, leastBytes, mostBytes) => {
    const port = await freePort();
    const own = join(folder.path, `large-${more.length}`);
    await mkdir(own);
    peers.push(await startSsh('host', port, more));
    const site = await house.owner.newSite(`Large ${more.length}`);
    const before = randomBytes(1_000_000);
    const after = Buffer.concat([before.subarray(0, 500_000), randomBytes(1000), before.subarray(500_000)]);
    await house.owner.bringIn(site, await zip({ ...SMALL_SITE, 'plan.pdf': before }));
    await house.owner.put(`/api/sites/${site}/hosting/account`, {
      kind: 'sftp',
      server: '127.0.0.1',
      port,
      user,
      folder: own,
      key: clientKey,
      fingerprint,
      url: 'http://127.0.0.1:1/',
    });
    await house.owner.publish(site);
    await house.owner.bringIn(site, await zip({ ...SMALL_SITE, 'plan.pdf': after }), 'again.zip');
    expect(await house.owner.publish(site)).toMatchObject({ state: 'done', error: null });
    expect((await readFile(join(own, 'current/plan.pdf'))).equals(after)).toBe(true);
    const { bytesSent } = (await house.owner.releases(site))[0] ?? { bytesSent: 0 };
    expect(bytesSent).toBeGreaterThan(leastBytes);
    expect(bytesSent).toBeLessThan(mostBytes);
    expect((await readdir(own)).sort()).toEqual(['contents', 'current', 'releases']);
  });
});

describe('a folder', () => {
  it('is tried, takes releases, and goes back at once', async () => {
    const site = await newSite('Into a folder');
    const at = join(folder.path, 'plain');
    expect(
      (await house.owner.put<Refusal>(`/api/sites/${site}/hosting/account`, { kind: 'folder', folder: 'srv/www' })).body
        .error.code,
    ).toBe('host-folder-unusable');
    expect(
      (
        await house.owner.put<Refusal>(`/api/sites/${site}/hosting/account`, {
          kind: 'folder',
          folder: join(at, 'not-there'),
        })
      ).body.error.message,
    ).toContain('not there');
    expect(
      (await house.owner.put<HostingView>(`/api/sites/${site}/hosting/account`, { kind: 'folder', folder: at })).body
        .account,
    ).toMatchObject({ kind: 'folder', words: { code: 'host.folder', parameters: { folder: at } } });
    expect((await house.owner.publish(site)).state).toBe('done');
    const first = await readlink(join(at, 'current'));
    expect(await readFile(join(at, 'current/welcome/index.html'), 'utf8')).toBe(SMALL_SITE['welcome/index.html']);
    const { id } = await house.owner.page(site, '/welcome/');
    await house.owner.decide(site, { kind: 'title', page: id, title: 'Other' });
    await house.owner.publish(site);
    expect(await readlink(join(at, 'current'))).not.toBe(first);
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/releases/1/rollback`);
    await house.owner.ended(body.job);
    expect(await readFile(join(at, 'current/welcome/index.html'), 'utf8')).toBe(SMALL_SITE['welcome/index.html']);
    // The earlier release's own folder is untouched by all that.
    expect(await readFile(join(at, first, 'welcome/index.html'), 'utf8')).toBe(SMALL_SITE['welcome/index.html']);
  });

  it('keeps the last releases alone, where it is told so: the others’ folders and contents go', async () => {
    const site = await newSite('Into a folder that fills');
    const at = join(folder.path, 'few');
    await mkdir(at);
    await house.owner.put(`/api/sites/${site}/hosting/account`, { kind: 'folder', folder: at });
    await house.owner.publish(site);
    const first = await readlink(join(at, 'current'));
    await house.owner.put(`/api/sites/${site}/releases/keeping`, { count: 2 });
    const { id } = await house.owner.page(site, '/welcome/');
    for (const title of ['One', 'Two', 'Three']) {
      await house.owner.decide(site, { kind: 'title', page: id, title });
      await house.owner.publish(site);
    }
    expect((await readdir(join(at, 'releases'))).filter((name) => name.endsWith('.json'))).toHaveLength(2);
    await expect(lstat(join(at, first))).rejects.toThrow('ENOENT');
    const held = (await run('grep', ['-rlE', '<title>(Welcome|One|Two|Three)<', join(at, 'contents')])).stdout
      .trim()
      .split('\n');
    expect(held).toHaveLength(2);
    expect(await readFile(join(at, 'current/welcome/index.html'), 'utf8')).toContain('<title>Three</title>');
  });
});

describe('the same release in all three places', () => {
  it('is answered alike, path by path: status, type, caching, where redirects lead, bytes', async () => {
    const sites: Record<'stand-in' | 'sftp' | 'folder', string> = {
      'stand-in': await newSite('Alike'),
      sftp: await newSite('Alike over SFTP'),
      folder: await newSite('Alike in a folder'),
    };
    for (const name of ['alike-sftp', 'alike-folder']) await mkdir(join(folder.path, name));
    await house.owner.put(`/api/sites/${sites.sftp}/hosting/account`, {
      kind: 'sftp',
      server: '127.0.0.1',
      port: ports.ssh,
      user,
      folder: join(folder.path, 'alike-sftp'),
      key: clientKey,
      fingerprint,
      url: 'http://127.0.0.1:1/',
    });
    await house.owner.put(`/api/sites/${sites.folder}/hosting/account`, {
      kind: 'folder',
      folder: join(folder.path, 'alike-folder'),
    });
    for (const site of Object.values(sites)) {
      const { id } = await house.owner.page(site, '/visit/');
      await house.owner.decide(site, {
        kind: 'redirect',
        from: '/old.php?id=3',
        to: { status: 301, target: { kind: 'page', page: id } },
      });
      await house.owner.decide(site, { kind: 'redirect', from: '/gone.html', to: { status: 410 } });
      expect((await house.owner.publish(site)).state).toBe('done');
    }
    const archive = Buffer.from(
      await (
        await fetch(`${house.owner.base}/api/sites/${sites['stand-in']}/releases/1/release.zip`, {
          headers: { cookie: house.owner.cookie },
        })
      ).arrayBuffer(),
    );
    const addresses = [
      ...Object.keys(SMALL_SITE)
        .filter((path) => path !== '404.html')
        .flatMap((path) => [`/${path}`, `/${path.replace(/index\.html$/, '')}`]),
      '/old.php?id=3',
      '/gone.html',
      '/visit',
      '/nowhere/',
      '/nowhere.css',
    ];
    for (const kind of ['sftp', 'folder'] as const) {
      const own = join(folder.path, `served-${kind}`);
      await mkdir(own);
      await writeFile(join(own, 'release.zip'), archive);
      await run('unzip', ['-q', 'release.zip', '-x', 'site/*'], { cwd: own });
      await symlink(join(folder.path, `alike-${kind}`, 'current'), join(own, 'site'));
      const server = await startNginx(own, [], ['headers-server.conf']);
      peers.push(server);
      for (const address of addresses) {
        const live = await house.visit('alike.localhost', address);
        const { status, headers, body } = await server.whole(address);
        const there = headers.location?.replace(/^http:\/\/[^/]+/, '');
        expect([kind, address, status, there, status === 200 ? headers['cache-control'] : '', body.toString()]).toEqual(
          [
            kind,
            address,
            live.status,
            live.location,
            status === 200 ? live.headers['cache-control'] : '',
            status === 301 ? body.toString() : live.body,
          ],
        );
        if (status === 200)
          expect([address, (headers['content-type'] ?? '').toLowerCase()]).toEqual([
            address,
            live.headers['content-type'],
          ]);
      }
    }
  });
});
