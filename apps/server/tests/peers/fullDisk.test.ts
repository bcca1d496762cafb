/**
 * A disk that runs full at the host: Debian's OpenSSH server over a small tmpfs, by an account that speaks SFTP alone
 * and by one that may run commands, and a folder of this machine. No release is live before every file of it is whole,
 * and a host that was spoiled is whole again after the next publish.
 */
import { errorFrom } from '@fastigium/contracts/errors';
import { speak } from '../../src/words.ts';
import { execFile } from 'node:child_process';
import { chmod, mkdir, readdir, readFile, stat, truncate, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, zip, type House } from '../harness.ts';
import { temporaryFolder } from './processes.ts';
import { makeKeys, SFTP_ALONE, startSshServer, type SshKeys } from './sshServer.ts';

const run = promisify(execFile);
let house: House;
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
let keys: SshKeys;
const ends: (() => Promise<unknown>)[] = [];

beforeAll(async () => {
  folder = await temporaryFolder('full-disk');
  await chmod(folder.path, 0o755);
  house = await openHouse({ env: { FASTIGIUM_OPEN_NETWORKS: '127.0.0.0/8', FASTIGIUM_HOST_FOLDERS: folder.path } });
  keys = await makeKeys(folder.path);
});
afterAll(async () => {
  for (const end of ends.reverse()) await end();
  await house.stop();
  await folder.remove();
});

const PAGES = 102;
/** 102 pages of 40 kB, which is more than 3 MB. */
const pageOf = (n: number, more = '') =>
  `<!DOCTYPE html><title>Page ${n}</title><p>${`page ${n} `.repeat(5000).slice(0, 40_000)}${more}</p>`;
const siteOf = (more = ''): Record<string, string> => ({
  'index.html': '<!DOCTYPE html><title>Front</title><p>Front</p>',
  ...Object.fromEntries(Array.from({ length: PAGES - 1 }, (_, n) => [`page-${n}/index.html`, pageOf(n, more)])),
});

async function smallDisk(name: string, size: string): Promise<{ path: string; resize(to: string): Promise<unknown> }> {
  const path = join(folder.path, name);
  await mkdir(path);
  await run('mount', ['-t', 'tmpfs', '-o', `size=${size},mode=755`, 'tmpfs', path]);
  ends.push(() => run('umount', ['-l', path]));
  return { path, resize: (to) => run('mount', ['-o', `remount,size=${to}`, path]) };
}

async function sshSite(name: string, own: string, more: readonly string[]): Promise<string> {
  const server = await startSshServer(keys, { more });
  ends.push(() => server.stop());
  const site = await house.owner.newSite(name);
  await house.owner.bringIn(site, await zip(siteOf()));
  const { status } = await house.owner.put(`/api/sites/${site}/hosting/account`, {
    kind: 'sftp',
    server: '127.0.0.1',
    port: server.port,
    user: keys.user,
    folder: own,
    key: keys.clientKey,
    fingerprint: keys.fingerprint,
    url: 'http://127.0.0.1:1/',
  });
  expect(status).toBe(200);
  return site;
}

async function folderSite(name: string, own: string): Promise<string> {
  const site = await house.owner.newSite(name);
  await house.owner.bringIn(site, await zip(siteOf()));
  expect((await house.owner.put(`/api/sites/${site}/hosting/account`, { kind: 'folder', folder: own })).status).toBe(
    200,
  );
  return site;
}

/** Files of the release that visitors get, which are not as they were brought in. */
async function wrongFiles(own: string, files: Readonly<Record<string, string>>): Promise<string[]> {
  const wrong: string[] = [];
  for (const [path, text] of Object.entries(files)) {
    const there = await readFile(join(own, 'current', path), 'utf8').catch(() => undefined);
    if (there !== text) wrong.push(`${path}: ${there?.length ?? 'not there'}`);
  }
  return wrong;
}

/** What a server that unpacks archives did not keep of a whole one is not there at all. */
async function contentsAt(own: string): Promise<string[]> {
  const names = await readdir(join(own, 'contents'), { recursive: true }).catch(() => []);
  return names.filter((name) => /^..\/[0-9a-f]{64}$/.test(name)).sort();
}

const kinds = [
  ['an account that speaks SFTP alone', (name: string, own: string) => sshSite(name, own, SFTP_ALONE)],
  ['an account that may run commands', (name: string, own: string) => sshSite(name, own, [])],
  ['a folder of this machine', folderSite],
] as const;

describe.each(kinds)('%s, on a disk of 3 MB', (kind, connect) => {
  it('is told that the disk is full, with nothing live; with room made, the same site goes out whole', async () => {
    const disk = await smallDisk(`small ${kind}`, '3m');
    const site = await connect(`Small for ${kind}`, disk.path);
    const job = await house.owner.publish(site);
    expect(job).toMatchObject({ state: 'failed', error: { code: 'host-full' } });
    expect(job.error && speak(errorFrom(job.error).told)).toContain('live site is as it was');
    expect(await readdir(disk.path)).not.toContain('current');
    // What bears a content's name is whole.
    for (const path of await contentsAt(disk.path))
      expect([path, (await stat(join(disk.path, 'contents', path))).size]).not.toEqual([path, 0]);
    await disk.resize('30m');
    expect(await house.owner.publish(site)).toMatchObject({ state: 'done', error: null });
    expect(await wrongFiles(disk.path, siteOf())).toEqual([]);
  });
});

describe.each(kinds)('%s that was spoiled', (kind, connect) => {
  it('is whole again after the next publish, its empty files and its unreadable note as well', async () => {
    const own = join(folder.path, `spoiled ${kind}`);
    await mkdir(own);
    const site = await connect(`Spoiled for ${kind}`, own);
    await house.owner.publish(site);
    const contents = await contentsAt(own);
    expect(contents).toHaveLength(PAGES);
    for (const path of contents.slice(0, 39)) await truncate(join(own, 'contents', path), 0);
    expect(await wrongFiles(own, siteOf())).toHaveLength(39);
    const setTitle = async (title: string) => {
      const { id } = await house.owner.page(site, '/page-0/');
      await house.owner.decide(site, { kind: 'title', page: id, title });
    };
    const withTitle = (title: string) => {
      const { 'page-0/index.html': page = '', ...others } = siteOf();
      return { ...others, 'page-0/index.html': page.replace('<title>Page 0</title>', `<title>${title}</title>`) };
    };
    await setTitle('After the empty files');
    expect(await house.owner.publish(site)).toMatchObject({ state: 'done', error: null });
    expect(await wrongFiles(own, withTitle('After the empty files'))).toEqual([]);
    // The note of the live release, which the next one is told against.
    const notes = (await readdir(join(own, 'releases'))).filter((name) => name.endsWith('.json'));
    for (const note of notes) await writeFile(join(own, 'releases', note), '');
    await setTitle('After the empty note');
    expect(await house.owner.publish(site)).toMatchObject({ state: 'done', error: null });
    expect(await wrongFiles(own, withTitle('After the empty note'))).toEqual([]);
    // Letting old releases go reads every note that is there.
    await house.owner.put(`/api/sites/${site}/releases/keeping`, { count: 2 });
    await setTitle('After keeping two');
    expect(await house.owner.publish(site)).toMatchObject({ state: 'done', error: null });
    expect(await wrongFiles(own, withTitle('After keeping two'))).toEqual([]);
  });
});
