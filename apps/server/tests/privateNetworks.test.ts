/**
 * What leads into the machine's own networks: every way by which somebody can name what is connected to, with a server
 * there that has to hear nothing. Source of the addresses: IANA's special-purpose address registries (RFC 6890), and
 * RFC 4291, section 2.5.5.1, for IPv4 in IPv6.
 */
import { execFileSync } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { createServer, type Server } from 'node:net';
import { mkdir, symlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mayConnectTo } from '../src/adapters/web/addresses.ts';
import { openHouse, SMALL_SITE, zip, type House } from './harness.ts';
import { temporaryFolder } from './peers/processes.ts';

let house: House;
let site: string;
let inner: Server;
let innerPort: number;
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
const heard: string[] = [];
const packets = createSocket('udp4');

beforeAll(async () => {
  folder = await temporaryFolder('private');
  await mkdir(join(folder.path, 'open'));
  house = await openHouse({
    env: { FASTIGIUM_HOST_FOLDERS: join(folder.path, 'open'), FASTIGIUM_HOST_LOGS: join(folder.path, 'open') },
  });
  site = await house.owner.newSite('Inside');
  await house.owner.bringIn(site, await zip(SMALL_SITE));
  // Speaks like ssh, like HTTP and like nobody: whoever connects has been let through.
  inner = createServer((socket) => {
    heard.push('connected');
    socket.end('SSH-2.0-inner\r\n');
    socket.on('error', () => {});
  });
  await new Promise<void>((resolve) => inner.listen(0, '127.0.0.1', resolve));
  innerPort = (inner.address() as { port: number }).port;
  packets.on('message', () => heard.push('packet'));
  await new Promise<void>((resolve) => packets.bind(innerPort, '127.0.0.1', resolve));
});
afterAll(async () => {
  inner.close();
  packets.close();
  await house.stop();
  await folder.remove();
});

type Refusal = { error: { code: string; message: string } };

const PRIVATE = [
  '127.0.0.1',
  '127.8.9.1',
  '0.0.0.0',
  '10.0.0.7',
  '100.64.0.1',
  '169.254.169.254',
  '172.16.0.1',
  '192.168.1.1',
  '192.0.0.8',
  '198.18.0.1',
  '224.0.0.1',
  '255.255.255.255',
  '::',
  '::1',
  '::127.0.0.1',
  '::7f00:1',
  '::a9fe:a9fe',
  '::ffff:127.0.0.1',
  '::ffff:0:127.0.0.1',
  '64:ff9b::7f00:1',
  '64:ff9b:1::7f00:1',
  '2002:7f00:1::',
  'fd00::1',
  'fe80::1',
  'ff02::1',
  '100::1',
  '2001:db8::1',
  '5f00::1',
  '4000::1',
];

describe('an address', () => {
  const may = mayConnectTo((address, port) => ({ address, port }), []);

  it.each(PRIVATE)('that is nobody’s or only some people’s may not be connected to: %s', (address) => {
    expect(may(address, 443)).toBe(false);
  });

  it.each(['93.184.215.14', '1.1.1.1', '2606:4700:4700::1111', '2001:4860:4860::8888'])(
    'that is public may: %s',
    (address) => {
      expect(may(address, 443)).toBe(true);
    },
  );

  it('with IPv4 of this machine hidden in it, at whatever place, may not (property)', () => {
    const prefixes = ['::', '::ffff:', '::ffff:0:', '64:ff9b::', '64:ff9b:1::', 'fe80::', 'fd00::'];
    fc.assert(
      fc.property(fc.constantFrom(...prefixes), fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)), (prefix, rest) => {
        expect(may(`${prefix}127.${rest.join('.')}`, 80)).toBe(false);
      }),
    );
  });

  it('in a network that the operator opened may, and its neighbours may not', () => {
    const opened = mayConnectTo((address, port) => ({ address, port }), ['10.1.0.0/16', 'fd00:1::/32']);
    expect(['10.1.2.3', 'fd00:1::5', '::ffff:10.1.2.3'].map((address) => opened(address, 22))).toEqual([
      true,
      true,
      true,
    ]);
    expect(['10.2.0.1', 'fd00:2::1', '127.0.0.1'].map((address) => opened(address, 22))).toEqual([false, false, false]);
  });
});

describe('what people name', () => {
  const names = ['127.0.0.1', 'localhost', '::127.0.0.1', '::1'];

  it.each(names)('is not asked for its host key there: %s', async (server) => {
    const { status, body } = await house.owner.post<Refusal>(`/api/sites/${site}/hosting/host-key`, {
      server,
      port: innerPort,
    });
    expect([status, body.error.code]).toEqual([422, 'network-private']);
    expect(body.error.message).toContain('FASTIGIUM_OPEN_NETWORKS');
  });

  it('is not signed in to there', async () => {
    const { status, body } = await house.owner.put<Refusal>(`/api/sites/${site}/hosting/account`, {
      kind: 'sftp',
      server: '127.0.0.1',
      port: innerPort,
      user: 'x',
      folder: '/',
      password: 'p',
      fingerprint: 'SHA256:x',
      url: 'http://127.0.0.1/',
    });
    expect([status, body.error.code]).toEqual([422, 'network-private']);
  });

  it('is not asked as a resolver, nor as a name server that takes updates', async () => {
    await house.owner.put(`/api/sites/${site}/domain`, { name: 'inside.example' });
    await house.owner.post(`/api/sites/${site}/resolvers`, { name: 'Inner', address: `127.0.0.1:${innerPort}` });
    await house.owner.post(`/api/sites/${site}/address/lookups`);
    await house.owner.put(`/api/sites/${site}/address/update-key`, {
      server: `127.0.0.1:${innerPort}`,
      keyName: 'k',
      algorithm: 'hmac-sha256',
      secret: Buffer.from('secret').toString('base64'),
    });
    await house.owner.post(`/api/sites/${site}/address/update`, { changes: [] });
  });

  it('is not inspected there: a folder’s address is a person’s word', async () => {
    const own = join(folder.path, 'open', 'site');
    await mkdir(own);
    const connected = await house.owner.put(`/api/sites/${site}/hosting/account`, {
      kind: 'folder',
      folder: own,
      url: `http://127.0.0.1:${innerPort}/`,
    });
    expect(connected.status).toBe(200);
    expect((await house.owner.publish(site)).state).toBe('done');
    const { body } = await house.owner.post<{ job: string }>(`/api/sites/${site}/inspection`);
    if (body.job) await house.owner.ended(body.job);
    await house.owner.post(`/api/sites/${site}/watch/drift`);
  });

  it('none of it was connected to', () => expect(heard).toEqual([]));
});

describe('a folder of this machine', () => {
  const connect = (path: string, log?: string) =>
    house.owner.put<Refusal>(`/api/sites/${site}/hosting/account`, {
      kind: 'folder',
      folder: path,
      ...(log ? { log } : {}),
    });

  it.each([
    ['/etc', 'another one'],
    ['/', 'all of it'],
    ['/proc/self', 'what is no disk'],
  ])('that the operator has not opened is refused: %s (%s)', async (path) => {
    const { status, body } = await connect(path);
    expect([status, body.error.code]).toEqual([422, 'host-place-shut']);
    expect(body.error.message).toContain('FASTIGIUM_HOST_FOLDERS');
  });

  it('is not left by climbing, by a link, or by a name that only begins alike', async () => {
    const open = join(folder.path, 'open');
    await mkdir(join(folder.path, 'open-not'));
    await mkdir(join(folder.path, 'shut'));
    await symlink(join(folder.path, 'shut'), join(open, 'link'));
    for (const path of [`${open}/../shut`, join(open, 'link'), `${open}-not`])
      expect([path, (await connect(path)).body.error.code]).toEqual([path, 'host-place-shut']);
  });

  it('has its log read only where logs may be', async () => {
    const secret = join(folder.path, 'secret.txt');
    await writeFile(secret, 'root:x:0:0\n');
    const own = join(folder.path, 'open', 'second');
    await mkdir(own);
    for (const log of [secret, '/etc/passwd', `${own}/../../secret.txt`]) {
      const { body } = await connect(own, log);
      expect([log, body.error.code]).toEqual([log, 'host-place-shut']);
    }
    execFileSync('touch', [join(own, 'access.log')]);
    expect((await connect(own, join(own, 'access.log'))).status).toBe(200);
  });
});
