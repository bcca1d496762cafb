/**
 * DNS against real programs: BIND's named-checkzone, dig and named, unbound as a caching resolver, and
 * the dns-zonefile package. All from Debian's packages or the registry; none of ours.
 */
import { execFile } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { readZone, groupRecordSets, writeZone, type ResourceRecord } from '@fastigium/core/dns';
import { ask, toPacketData, type UpdateStep } from '@fastigium/wire';
import dnsZonefile from 'dns-zonefile';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { worldSeed } from '../../../standins/src/registrar/registry.ts';
import { NO_PORTS, startWorld, type World } from '../../../standins/src/world/world.ts';
import { createDnsPort } from '../../src/adapters/dns/dns.ts';
import { freePort, startPeer, temporaryFolder, type Peer } from './processes.ts';

const run = promisify(execFile);
const ZONE = [
  '$TTL 3600',
  '@ SOA ns1.registrar.test. hostmaster.registrar.test. 1 7200 900 1209600 600',
  '@ 86400 NS ns1.registrar.test.',
  '@ 86400 NS ns2.registrar.test.',
  '@ A 203.0.113.9',
  'www CNAME quay.example.',
  '@ MX 10 mail',
  'mail A 203.0.113.77',
  '@ TXT "v=spf1 mx -all" "second; part"',
  '@ CAA 0 issue "ca.test"',
  '_sip._tcp 60 SRV 10 5 5060 mail',
  'v6 AAAA 2001:db8::9',
  `big TXT ${Array.from({ length: 12 }, (_, n) => `"${String(n).padStart(2, '0')}${'x'.repeat(200)}"`).join(' ')}`,
  '',
].join('\n');
const NAME_ZONE = 'quay.example';

let world: World;
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
const peers: Peer[] = [];
beforeAll(async () => {
  folder = await temporaryFolder('dns');
  world = await startWorld({
    folder: join(folder.path, 'world'),
    token: 'token-of-the-test-host',
    ports: NO_PORTS,
    seed: worldSeed.parse({
      holdings: [{ name: NAME_ZONE, heldBy: 'account', registeredYearsAgo: 1, yearsLeft: 1, zone: ZONE }],
    }),
  });
});
afterAll(async () => {
  for (const peer of peers) await peer.stop();
  await world.stop();
  await folder.remove();
});

const zone = (text: string): readonly ResourceRecord[] => {
  const read = readZone(text, NAME_ZONE);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.records;
};

describe('a zone file we write', () => {
  const checkzone = async (text: string): Promise<boolean> => {
    const file = join(folder.path, 'checked.zone');
    await writeFile(file, text);
    return run('named-checkzone', ['-i', 'local', NAME_ZONE, file]).then(
      () => true,
      (error: { stdout: string }) => {
        if (!/not loaded/.test(error.stdout)) throw error;
        return false;
      },
    );
  };

  it('is accepted by BIND’s named-checkzone', async () => {
    expect(await checkzone(writeZone(NAME_ZONE, zone(ZONE)))).toBe(true);
  });

  it('is accepted whatever is in it, and refused where we refuse (property, 25 zones)', async () => {
    const label = fc.stringMatching(/^[a-z]([a-z0-9-]{0,6}[a-z0-9])?$/);
    const line = fc.oneof(
      label.map((name) => `${name} A 192.0.2.1`),
      label.map((name) => `${name} CNAME other.test.`),
      label.map((name) => `${name} TXT "a \\"b\\" ;c"`),
      label.map((name) => `${name} MX 5 mail.test.`),
      fc.constant('@ CNAME other.test.'),
      fc.constant('www A 1.2.3.4'),
      fc.constant('www CNAME other.test.'),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(line, { maxLength: 6 }), async (lines) => {
        const text = `$TTL 60\n@ SOA ns.test. host.test. 1 2 3 4 5\n@ NS ns.test.\n${lines.join('\n')}\n`;
        const read = readZone(text, NAME_ZONE);
        expect(await checkzone(read.ok ? writeZone(NAME_ZONE, read.records) : text)).toBe(read.ok);
      }),
      { numRuns: 25 },
    );
  });

  it('is read the same by dns-zonefile', () => {
    const read = dnsZonefile.parse(writeZone(NAME_ZONE, zone(ZONE)));
    const name = (text: string | undefined) =>
      text === '@' || text === undefined
        ? NAME_ZONE
        : text.replace(/\.$/, '').replace(new RegExp(`^(?!.*${NAME_ZONE}$)(.*)$`), `$1.${NAME_ZONE}`);
    expect(read.a?.map((each) => `${name(each.name)} ${each.ip}`).sort()).toEqual([
      'mail.quay.example 203.0.113.77',
      'quay.example 203.0.113.9',
    ]);
    expect(read.mx).toMatchObject([{ preference: 10, host: 'mail.quay.example.' }]);
    expect(read.cname).toMatchObject([{ name: 'www', alias: 'quay.example.' }]);
    expect(read.aaaa).toMatchObject([{ name: 'v6', ip: '2001:db8::9' }]);
    expect(read.soa).toMatchObject({ mname: 'ns1.registrar.test.', minimum: 600 });
  });
});

describe('the name server stand-in', () => {
  const dig = async (...args: string[]) =>
    (
      await run('dig', [
        '@127.0.0.1',
        '-p',
        String(world.ports.dns),
        '+norec',
        '+noall',
        '+answer',
        '+authority',
        '+comments',
        ...args,
      ])
    ).stdout;
  const rows = (text: string) =>
    text
      .split('\n')
      .filter((row) => row !== '' && !row.startsWith(';'))
      .map((row) => row.split(/\s+/))
      .map(([owner, seconds, , type, ...data]) => `${owner} ${seconds} ${type} ${data.join(' ')}`);

  it.each([
    ['quay.example', 'A', ['quay.example. 3600 A 203.0.113.9']],
    ['www.quay.example', 'A', ['www.quay.example. 3600 CNAME quay.example.', 'quay.example. 3600 A 203.0.113.9']],
    ['quay.example', 'MX', ['quay.example. 3600 MX 10 mail.quay.example.']],
    ['quay.example', 'CAA', ['quay.example. 3600 CAA 0 issue "ca.test"']],
    ['_sip._tcp.quay.example', 'SRV', ['_sip._tcp.quay.example. 60 SRV 10 5 5060 mail.quay.example.']],
    ['quay.example', 'TXT', ['quay.example. 3600 TXT "v=spf1 mx -all" "second; part"']],
  ])('answers dig for %s %s', async (name, type, expected) => {
    const text = await dig(name, type);
    expect(rows(text)).toEqual(expected);
    expect(text).toMatch(/flags:[^;]* aa/);
    expect((await dig('+tcp', name, type)).includes(expected[0]?.split(' ')[3] ?? '')).toBe(true);
  });

  it('denies with the SOA, and tells a name without records from no name (RFC 2308 section 2)', async () => {
    expect(await dig('nothing.quay.example', 'A')).toMatch(/NXDOMAIN[\s\S]*600\s+IN\s+SOA/);
    expect(await dig('_tcp.quay.example', 'A')).toMatch(/NOERROR[\s\S]*600\s+IN\s+SOA/);
  });

  it('cuts what is too long for UDP, so that dig asks again over TCP', async () => {
    expect(await dig('+ignore', '+noedns', 'big.quay.example', 'TXT')).toMatch(/flags:[^;]* tc/);
    expect(rows(await dig('big.quay.example', 'TXT'))[0]?.length).toBeGreaterThan(2400);
    const over = await ask(
      { address: '127.0.0.1', port: world.ports.dns },
      { name: 'big.quay.example', type: 'TXT' },
      { recursion: false, withinMs: 2000 },
    );
    expect([over.over, over.answers.length]).toEqual(['tcp', 1]);
  });
});

describe('unbound, asking the stand-in', () => {
  let port: number;
  beforeAll(async () => {
    port = await freePort();
    const file = join(folder.path, 'unbound.conf');
    await writeFile(
      file,
      [
        'server:',
        `  interface: 127.0.0.1@${port}`,
        '  chroot: ""',
        '  username: ""',
        '  pidfile: ""',
        '  do-daemonize: no',
        '  module-config: "iterator"',
        '  do-not-query-localhost: no',
        '  use-syslog: no',
        '  num-threads: 1',
        '  access-control: 127.0.0.0/8 allow',
        '  local-zone: "test." nodefault',
        '  domain-insecure: "example."',
        'remote-control:',
        '  control-enable: no',
        ...['quay.example', 'host.test', 'registrar.test'].flatMap((name) => [
          'stub-zone:',
          `  name: "${name}"`,
          `  stub-addr: 127.0.0.1@${world.ports.dns}`,
        ]),
        '',
      ].join('\n'),
    );
    peers.push(
      await startPeer(
        '/usr/sbin/unbound',
        ['-d', '-c', file],
        async () =>
          (
            await ask(
              { address: '127.0.0.1', port },
              { name: 'quay.example', type: 'SOA' },
              { recursion: true, withinMs: 500 },
            )
          ).rcode === 'NOERROR',
      ),
    );
  });
  const resolve = (name: string, type: string) =>
    ask({ address: '127.0.0.1', port }, { name, type }, { recursion: true, withinMs: 3000 });

  it('gets the same records and hands them on with the TTL the zone gave', async () => {
    const { answers } = await resolve('mail.quay.example', 'A');
    expect(answers).toMatchObject([{ name: 'mail.quay.example', type: 'A', data: '203.0.113.77' }]);
    expect(answers[0]?.ttlSeconds).toBeGreaterThan(3597);
    expect((await resolve('www.quay.example', 'A')).answers.map(({ type }) => type)).toEqual(['CNAME', 'A']);
  });

  it('keeps "there is none" for the negative TTL, as we reckon it', async () => {
    const { rcode, authorities } = await resolve('absent.quay.example', 'A');
    expect(rcode).toBe('NXDOMAIN');
    const soa = authorities.find(({ type }) => type === 'SOA');
    expect(Math.abs((soa?.ttlSeconds ?? 0) - 600)).toBeLessThanOrEqual(1);
  });

  it('goes on with the old answer after a change, exactly as the spread says', async () => {
    const before = await resolve('v6.quay.example', 'AAAA');
    const held = world.registry.find(NAME_ZONE);
    await world.registry.replaceZone(
      NAME_ZONE,
      (held?.records ?? []).map((record) => (record.type === 'AAAA' ? { ...record, data: '2001:db8::10' } : record)),
    );
    const after = await resolve('v6.quay.example', 'AAAA');
    expect([before.answers[0]?.data, after.answers[0]?.data]).toEqual(['2001:db8::9', '2001:db8::9']);
    expect(
      (
        await ask(
          { address: '127.0.0.1', port: world.ports.dns },
          { name: 'v6.quay.example', type: 'AAAA' },
          { recursion: false, withinMs: 2000 },
        )
      ).answers[0]?.data,
    ).toBe('2001:db8::10');
  });
});

describe('a real named', () => {
  let port: number;
  const secret = randomBytes(32);
  const key = { name: `update.${NAME_ZONE}`, algorithm: 'hmac-sha256', secret } as const;
  beforeAll(async () => {
    port = await freePort();
    const [file, zoneFile] = [join(folder.path, 'named.conf'), join(folder.path, 'named.zone')];
    await writeFile(
      zoneFile,
      ZONE.replaceAll('registrar.test.', 'quay.example.').replace(
        'www CNAME',
        'ns1 A 127.0.0.1\nns2 A 127.0.0.1\nwww CNAME',
      ),
    );
    await writeFile(
      file,
      `options { directory "${folder.path}"; listen-on port ${port} { 127.0.0.1; }; listen-on-v6 { none; }; pid-file none; session-keyfile "${folder.path}/session.key"; recursion no; dnssec-validation no; };
controls { };
key "${key.name}" { algorithm hmac-sha256; secret "${secret.toString('base64')}"; };
zone "${NAME_ZONE}" { type primary; file "${zoneFile}"; allow-update { key "${key.name}"; }; };\n`,
    );
    peers.push(
      await startPeer(
        '/usr/sbin/named',
        ['-g', '-c', file],
        async () =>
          (
            await ask(
              { address: '127.0.0.1', port },
              { name: NAME_ZONE, type: 'SOA' },
              { recursion: false, withinMs: 500 },
            )
          ).rcode === 'NOERROR',
      ),
    );
  });
  const server = () => ({ address: '127.0.0.1', port });
  const dns = createDnsPort(
    (address, to) => ({ address, port: to }),
    Date.now,
    () => true,
  );
  const records = async (name: string, type: string) =>
    (await ask(server(), { name, type }, { recursion: false, withinMs: 2000 })).answers
      .filter((record) => record.type === type)
      .map(({ data }) => data);

  it('takes our signed update: replaced, removed, added; everything else as it was (RFC 2136, RFC 8945)', async () => {
    const steps: UpdateStep[] = [
      { kind: 'delete-set', name: NAME_ZONE, type: 'A' },
      { kind: 'add', record: { name: NAME_ZONE, type: 'A', ttlSeconds: 300, data: '198.51.100.24' } },
      { kind: 'add', record: { name: NAME_ZONE, type: 'AAAA', ttlSeconds: 300, data: '2001:db8:51::24' } },
      { kind: 'delete-set', name: `www.${NAME_ZONE}`, type: 'CNAME' },
      { kind: 'add', record: { name: `www.${NAME_ZONE}`, type: 'CNAME', ttlSeconds: 300, data: 'edge.host.test.' } },
      { kind: 'add', record: { name: NAME_ZONE, type: 'CAA', ttlSeconds: 300, data: '0 issue "other.test"' } },
      {
        kind: 'delete',
        record: { name: `_sip._tcp.${NAME_ZONE}`, type: 'SRV', ttlSeconds: 60, data: `10 5 5060 mail.${NAME_ZONE}.` },
      },
    ];
    await dns.update(server(), NAME_ZONE, steps, key);
    expect(await records(NAME_ZONE, 'A')).toEqual(['198.51.100.24']);
    expect(await records(NAME_ZONE, 'AAAA')).toEqual(['2001:db8:51::24']);
    expect(await records(`www.${NAME_ZONE}`, 'CNAME')).toEqual(['edge.host.test.']);
    expect((await records(NAME_ZONE, 'CAA')).sort()).toEqual(['0 issue "ca.test"', '0 issue "other.test"']);
    expect(await records(`_sip._tcp.${NAME_ZONE}`, 'SRV')).toEqual([]);
    expect(await records(NAME_ZONE, 'MX')).toEqual([`10 mail.${NAME_ZONE}.`]);
  });

  it('refuses a wrong secret, and a clock that is far off; both are said', async () => {
    const steps: UpdateStep[] = [{ kind: 'delete-set', name: NAME_ZONE, type: 'TXT' }];
    await expect(dns.update(server(), NAME_ZONE, steps, { ...key, secret: randomBytes(32) })).rejects.toMatchObject({
      code: 'update-refused',
    });
    await expect(
      createDnsPort(
        (address, to) => ({ address, port: to }),
        () => Date.now() - 86_400_000,
        () => true,
      ).update(server(), NAME_ZONE, steps, key),
    ).rejects.toMatchObject({ code: 'update-refused' });
    expect(await records(NAME_ZONE, 'TXT')).toHaveLength(1);
  });

  it('takes from nsupdate what our stand-in takes from it', async () => {
    const held = world.registry.find(NAME_ZONE);
    const script = `server 127.0.0.1 ${world.ports.dns}\nzone ${NAME_ZONE}\nupdate delete v6.${NAME_ZONE} AAAA\nupdate add new.${NAME_ZONE} 120 A 192.0.2.7\nsend\n`;
    const file = join(folder.path, 'nsupdate');
    await writeFile(file, script);
    await run('nsupdate', ['-y', `hmac-sha256:${held?.updateKey?.name}:${held?.updateKey?.secret}`, file]);
    const after = groupRecordSets(world.registry.find(NAME_ZONE)?.records ?? []);
    expect(after.find(({ name }) => name === `new.${NAME_ZONE}`)).toMatchObject({
      type: 'A',
      data: ['192.0.2.7'],
      ttlSeconds: 120,
    });
    expect(after.some(({ name }) => name === `v6.${NAME_ZONE}`)).toBe(false);
    await expect(
      run('nsupdate', ['-y', `hmac-sha256:${held?.updateKey?.name}:${randomBytes(32).toString('base64')}`, file]),
    ).rejects.toBeTruthy();
  });
});

describe('record data on the wire', () => {
  it('comes back from dig as it was sent, for every type (property)', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[ -!#-[\]-~]{1,60}$/), (text) => {
        const [bytes] = toPacketData('TXT', `"${text}"`) as Buffer[];
        expect(bytes?.toString()).toBe(text);
      }),
    );
  });
});
