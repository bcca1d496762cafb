/** Names, records and zone files against RFC 1035, 2308, 5952 and 8659, and against published zone files. */
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyChanges,
  judgeCaa,
  checkHostName,
  checkRecordName,
  compareRecords,
  findConflicts,
  parseIpv4,
  parseIpv6,
  mail,
  judgeMailOfZone,
  reckonNegativeTtlSeconds,
  reckonNextLookupMs,
  planChange,
  readZone,
  reckonSpread,
  listRecordChanges,
  groupRecordSets,
  relativiseName,
  parseTtl,
  writeZone,
  type RecordSet,
  type Sighting,
} from './index.ts';

const zoneOf = (text: string, zone: string) => {
  const read = readZone(text, zone);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.records;
};
const line = ({ name, ttlSeconds, type, data }: { name: string; ttlSeconds: number; type: string; data: string }) =>
  `${name} ${ttlSeconds} ${type} ${data}`;

describe('names', () => {
  const label = 'a'.repeat(63);

  it.each<[string, boolean, string]>([
    ['example', true, 'RFC 1035 2.3.1'],
    [label, true, 'RFC 1035 2.3.4: 63 octets'],
    [`${label}a`, false, '64'],
    [`${label}.${label}.${label}.${'b'.repeat(61)}`, true, '253 characters'],
    [`${label}.${label}.${label}.${'b'.repeat(62)}`, false, '254'],
    ['3com.example', true, 'RFC 1123 2.1: a digit first'],
    ['a..b', false, 'an empty label'],
    ['-a.b', false, 'a hyphen first'],
    ['a-.b', false, 'a hyphen last'],
    ['a_b.example', false, 'no host name'],
    ['1.2.3.4', false, 'reads as an address'],
    ['', false, 'nothing'],
    ['A.ExAmple.', true, 'case and final dot'],
  ])('%s: %s (%s)', (name, ok) => expect(checkHostName(name).ok).toBe(ok));

  it('of records may hold underscores, a leading star and an escaped dot', () => {
    expect(
      ['_dmarc.a.example', '*.a.example', 'action\\.domains.a.example'].map((name) => checkRecordName(name).ok),
    ).toEqual([true, true, true]);
    expect(['a.*.example', 'a b.example', 'a\\.'].map((name) => checkRecordName(name).ok)).toEqual([
      false,
      false,
      false,
    ]);
  });

  it('are told relative to their zone', () =>
    expect([
      relativiseName('a.example', 'a.example'),
      relativiseName('www.a.example', 'a.example'),
      relativiseName('b.example', 'a.example'),
    ]).toEqual(['@', 'www', 'b.example.']));
});

describe('addresses', () => {
  // RFC 5952 sections 4 and 5: each of these is written the one way on the right.
  it.each([
    ['2001:0db8::0001', '2001:db8::1'],
    ['2001:db8:0:0:0:0:2:1', '2001:db8::2:1'],
    ['2001:DB8::1', '2001:db8::1'],
    ['2001:db8:0:0:1:0:0:1', '2001:db8::1:0:0:1'],
    ['::1', '::1'],
  ])('%s is %s', (text, canonical) => expect(parseIpv6(text)).toBe(canonical));
  it.each(['1.2.3', '1.2.3.256', '0x7f.1.1.1', '1.2.3.4.5', '::ffff::1', 'example', ''])('%s is none', (text) =>
    expect([parseIpv4(text), parseIpv6(text)]).toEqual([undefined, undefined]),
  );
});

describe('times to live', () => {
  it.each<[string, number | undefined]>([
    ['3600', 3600],
    ['1h', 3600],
    ['1h30m', 5400],
    ['2w', 1_209_600],
    ['0', 0],
    ['2147483647', 2 ** 31 - 1],
    ['2147483648', undefined],
    ['-1', undefined],
    ['1x', undefined],
  ])('%s', (text, seconds) => expect(parseTtl(text)).toBe(seconds));

  it('of negative answers are the lesser of the SOA’s TTL and MINIMUM (RFC 2308 section 5)', () => {
    const soa = 'ns.a.example. host.a.example. 1 7200 900 1209600 600';
    expect([reckonNegativeTtlSeconds(3600, soa), reckonNegativeTtlSeconds(60, soa)]).toEqual([600, 60]);
  });
});

describe('a zone file', () => {
  it('is read as RFC 1035 section 5.3 shows it (the example from memory)', () => {
    const records = zoneOf(
      `@   IN  SOA     VENERA      Action\\.domains (
                                 20     ; SERIAL
                                 7200   ; REFRESH
                                 600    ; RETRY
                                 3600000; EXPIRE
                                 60)    ; MINIMUM

        NS      A.ISI.EDU.
        NS      VENERA
        NS      VAXA
        MX      10      VENERA
        MX      20      VAXA

A       A       26.3.0.103

VENERA  A       10.1.0.52
        A       128.9.0.32
`,
      'isi.edu',
    );
    expect(records.map(({ name, type, data }) => `${name} ${type} ${data}`)).toEqual([
      'isi.edu SOA venera.isi.edu. action\\.domains.isi.edu. 20 7200 600 3600000 60',
      'isi.edu NS a.isi.edu.',
      'isi.edu NS venera.isi.edu.',
      'isi.edu NS vaxa.isi.edu.',
      'isi.edu MX 10 venera.isi.edu.',
      'isi.edu MX 20 vaxa.isi.edu.',
      'a.isi.edu A 26.3.0.103',
      'venera.isi.edu A 10.1.0.52',
      'venera.isi.edu A 128.9.0.32',
    ]);
    expect(new Set(records.map(({ ttlSeconds }) => ttlSeconds))).toEqual(new Set([60]));
  });

  it('with origins that change, written by others (zone-file’s tests)', () => {
    const reverse = zoneOf(
      readFileSync(new URL('../../testdata/zone/zonefile_reverse.txt', import.meta.url), 'utf8'),
      '168.192.in-addr.arpa',
    );
    expect(reverse.filter(({ type }) => type === 'PTR').map(({ name, data }) => `${name} ${data}`)).toEqual([
      '1.0.168.192.in-addr.arpa host1.mydomain.com.',
      '2.0.168.192.in-addr.arpa host2.mydomain.com.',
      '3.30.168.192.in-addr.arpa host3.mydomain.com.',
      '4.30.168.192.in-addr.arpa host4.mydomain.com.',
      '4.30.168.192.in-addr.arpa host5.mydomain.com.',
      '10.3.168.192.in-addr.arpa host3.mydomain.com.',
      '10.4.168.192.in-addr.arpa host4.mydomain.com.',
    ]);
    const six = zoneOf(
      readFileSync(new URL('../../testdata/zone/zonefile_reverse_ipv6.txt', import.meta.url), 'utf8'),
      '0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.8.b.d.0.1.0.0.2.ip6.arpa',
    );
    expect(six.map(({ type }) => type)).toEqual(['SOA', 'NS', 'NS', 'PTR', 'PTR']);
  });

  it('keeps quotes, semicolons, several strings, and types it does not know', () => {
    const text =
      '$TTL 1h\n@ TXT "v=spf1 mx; -all" "second \\"part\\""\n@ IN 300 CAA 0 issue "ca.test; policy=ev"\n_sip._tcp 60 IN SRV 10 5 5060 sip\n@ TLSA 3 1 1 abcdef\n';
    expect(zoneOf(text, 'a.example').map(line)).toEqual([
      'a.example 3600 TXT "v=spf1 mx; -all" "second \\"part\\""',
      'a.example 300 CAA 0 issue "ca.test; policy=ev"',
      '_sip._tcp.a.example 60 SRV 10 5 5060 sip.a.example.',
      'a.example 3600 TLSA 3 1 1 abcdef',
    ]);
  });

  it.each([
    ['@ A 1.2.3.300', 1, 'no-ipv4'],
    ['@ A 1.2.3.4\n@ MX mail', 2, 'values-other'],
    ['@ A 1.2.3.4\nwww CNAME @\nwww TXT "x"', 3, 'beside-cname'],
    ['@ CNAME b.example.\n@ MX 10 mail', 2, 'beside-cname'],
    ['@ TXT "open', 1, 'quote-open'],
    ['@ SOA a b ( 1 2 3 4', 1, 'parenthesis-open'],
    ['$INCLUDE other.zone', 1, 'include'],
    ['$GENERATE 1-9 a A 1.2.3.$', 1, 'directive'],
    ['other.test. A 1.2.3.4', 1, 'outside-zone'],
    ['@ CH A 1.2.3.4', 1, 'class-other'],
    ['', 1, 'no-record'],
    ['  A 1.2.3.4', 1, 'first-without-name'],
    ['@ AAAA 1.2.3.4', 1, 'no-ipv6'],
    [`@ TXT "${'x'.repeat(256)}"`, 1, 'string-long'],
    ['@ A 1.2.3.4 )', 1, 'parenthesis-without'],
  ])('with an error is refused whole, with line and reason: %j', (text, at, reason) => {
    const read = readZone(text, 'a.example');
    expect(read.ok).toBe(false);
    if (!read.ok)
      expect(
        read.problems.some((problem) => problem.line === at && problem.reason.code === `zone-fault.${reason}`),
      ).toBe(true);
  });

  const label = fc.stringMatching(/^[a-z0-9]([a-z0-9-]{0,8}[a-z0-9])?$/);
  const host = label.map((name) => `${name}.a.example`);
  const text = fc.stringMatching(/^[ -!#-[\]-~]{0,40}$/);
  const record = fc
    .oneof(
      fc.record({ name: host, type: fc.constant('A'), data: fc.ipV4() }),
      fc.record({
        name: host,
        type: fc.constant('AAAA'),
        data: fc.ipV6().map((address) => parseIpv6(address) ?? '::1'),
      }),
      fc.record({
        name: host,
        type: fc.constant('MX'),
        data: fc.tuple(fc.nat(65_535), host).map(([n, name]) => `${n} ${name}.`),
      }),
      fc.record({
        name: host,
        type: fc.constant('TXT'),
        data: fc.array(text, { minLength: 1, maxLength: 3 }).map((parts) => parts.map((part) => `"${part}"`).join(' ')),
      }),
      fc.record({ name: host, type: fc.constant('CAA'), data: label.map((name) => `0 issue "${name}.test"`) }),
    )
    .chain((each) => fc.nat(100_000).map((ttlSeconds) => ({ ...each, ttlSeconds })));

  it('is read back the same as it was written (property)', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(record, {
          minLength: 1,
          maxLength: 12,
          selector: ({ name, type, data }) => `${name} ${type} ${data}`,
        }),
        (records) => {
          expect(zoneOf(writeZone('a.example', records), 'a.example').map(line).sort()).toEqual(
            records.map(line).sort(),
          );
        },
      ),
    );
  });

  it('never throws, whatever it is given (property)', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.stringMatching(/^[@a-z0-9 ()";$\n.\\-]{0,80}$/)), (anything) => {
        readZone(anything, 'a.example');
      }),
      { numRuns: 500 },
    );
  });
});

describe('what is needed', () => {
  const host = { ipv4: ['198.51.100.24'], ipv6: ['2001:db8::24'], edge: 'edge.host.test' };
  const needs = { zone: 'a.example', names: ['www.a.example', 'a.example'], host, issuer: 'ca.test' };
  const sets = (text: string) => groupRecordSets(zoneOf(text, 'a.example'));
  const rowsOf = (text: string) => compareRecords(sets(text), needs);

  it('is addresses at the apex and a CNAME below it (RFC 1034 section 3.6.2)', () => {
    const changes = listRecordChanges(rowsOf('@ NS ns.test.\n'));
    expect(changes.map(({ kind, name, type, to }) => `${kind} ${name} ${type} ${to.join()}`)).toEqual([
      'add www.a.example CNAME edge.host.test.',
      'add a.example A 198.51.100.24',
      'add a.example AAAA 2001:db8::24',
    ]);
  });

  it('is addresses below the apex too, where other data stands at the name', () => {
    const changes = listRecordChanges(rowsOf('@ A 198.51.100.24\n@ AAAA 2001:db8::24\nwww TXT "proof"\n'));
    expect(changes.map(({ type }) => type)).toEqual(['A', 'AAAA']);
  });

  it('never takes an address away for a host that has not said where it is', () => {
    const nowhere = { ...needs, host: { ipv4: [], ipv6: [], edge: undefined } };
    const before = sets('@ A 203.0.113.9\n@ AAAA 2001:db8::9\nwww CNAME a.example.\n');
    expect(listRecordChanges(compareRecords(before, nowhere))).toEqual([]);
    expect(
      compareRecords(before, nowhere)
        .filter(({ type }) => type !== 'CAA')
        .map(({ state }) => state),
    ).toEqual(['kept', 'kept', 'kept']);
    // A name alone serves below the apex and not at it.
    expect(
      listRecordChanges(compareRecords(before, { ...needs, host: { ipv4: [], ipv6: [], edge: 'edge.host.test' } })).map(
        ({ name, type }) => `${name} ${type}`,
      ),
    ).toEqual(['www.a.example CNAME']);
  });

  it('clears away first what may not stand beside a CNAME', () => {
    const changes = listRecordChanges(
      rowsOf('@ A 198.51.100.24\n@ AAAA 2001:db8::24\nwww A 203.0.113.9\nwww AAAA 2001:db8::9\n'),
    );
    expect(changes.map(({ kind, type }) => `${kind} ${type}`)).toEqual(['remove A', 'remove AAAA', 'add CNAME']);
  });

  it('keeps other authorities in CAA and replaces only "nobody"', () => {
    const caa = (text: string) => rowsOf(`@ A 1.2.3.4\n${text}`).find(({ type }) => type === 'CAA');
    expect(caa('@ CAA 0 issue "other.test"\n')?.needed).toEqual(['0 issue "other.test"', '0 issue "ca.test"']);
    expect(caa('@ CAA 0 issue ";"\n')?.needed).toEqual(['0 issue "ca.test"']);
    expect(caa('@ CAA 0 issue "ca.test"\n')?.state).toBe('right');
    expect(caa('')?.state).toBe('unneeded');
  });

  const anyType = fc.constantFrom('A', 'AAAA', 'CNAME', 'TXT', 'MX', 'CAA', 'NS');
  const dataOf: Readonly<Record<string, string>> = {
    A: '203.0.113.9',
    AAAA: '2001:db8::9',
    CNAME: 'other.test.',
    TXT: '"x"',
    MX: '10 mail.a.example.',
    CAA: '0 issue "other.test"',
    NS: 'ns.test.',
  };
  const anySets = fc
    .uniqueArray(fc.tuple(fc.constantFrom('a.example', 'www.a.example', 'mail.a.example'), anyType), {
      selector: ([name, type]) => `${name} ${type}`,
    })
    .map((pairs) =>
      pairs.map(([name, type]): RecordSet => ({ name, type, ttlSeconds: 3600, data: [dataOf[type] ?? ''] })),
    );

  it('once done, nothing is left to do, nothing else has changed, and the zone obeys the rules (property)', () => {
    fc.assert(
      fc.property(anySets, (before) => {
        const legal = before.filter(({ name, type }) =>
          type === 'CNAME' ? !before.some((other) => other.name === name && other.type !== 'CNAME') : true,
        );
        const changes = listRecordChanges(compareRecords(legal, needs));
        const after = applyChanges(legal, changes);
        expect(listRecordChanges(compareRecords(after, needs))).toEqual([]);
        expect(
          findConflicts(
            after.flatMap(({ name, type, ttlSeconds, data }) =>
              data.map((each) => ({ name, type, ttlSeconds, data: each })),
            ),
          ),
        ).toEqual([]);
        for (const set of legal)
          if (!['A', 'AAAA', 'CNAME', 'CAA'].includes(set.type) || set.name === 'mail.a.example')
            expect(after).toContainEqual(set);
      }),
    );
  });

  it('says what happens to mail', () => {
    const verdict = (text: string) => {
      const all = sets(text);
      return judgeMailOfZone('a.example', all, listRecordChanges(compareRecords(all, needs)));
    };
    expect(verdict('@ A 1.2.3.4\n@ MX 10 mail\nmail A 1.2.3.5\n')).toEqual({
      endangered: false,
      message: mail('stays', { servers: ['mail.a.example'], where: 'inside' }),
    });
    expect(verdict('@ A 1.2.3.4\n@ MX 10 elsewhere.example.\n').message).toEqual(
      mail('stays', { servers: ['elsewhere.example'], where: 'outside' }),
    );
    expect(verdict('@ A 1.2.3.4\n@ MX 10 a.example.\n')).toEqual({
      endangered: true,
      message: mail('server-would-move', { servers: ['a.example'], zone: 'a.example' }),
    });
    // RFC 7505: a null MX says that no mail is taken.
    expect(verdict('@ A 1.2.3.4\n@ MX 0 .\n').message).toEqual(mail('null-mx', { zone: 'a.example' }));
    expect(verdict('@ A 1.2.3.4\n').message.code).toBe('mail.goes-to-address');
    expect(verdict('@ TXT x\n').message.code).toBe('mail.no-mx');
  });
});

describe('CAA (RFC 8659)', () => {
  const sets = (text: string) => groupRecordSets(zoneOf(text, 'example.com'));
  it.each<[string, string, boolean, string]>([
    ['@ CAA 0 issue "ca1.example.net"', 'example.com', false, 'names another (section 4.2)'],
    ['@ CAA 0 issue "ca.test"', 'example.com', true, 'names it'],
    ['@ CAA 0 issue "ca.test; account=230123"', 'www.example.com', true, 'found by climbing (section 3)'],
    ['nocerts CAA 0 issue ";"', 'nocerts.example.com', false, 'names nobody (section 4.2)'],
    ['nocerts CAA 0 issue ";"', 'example.com', true, 'has none itself'],
    ['@ CAA 0 issue "ca.test"\nwww CAA 0 issue "other.test"', 'www.example.com', false, 'the nearest decides alone'],
    ['@ CAA 0 iodef "mailto:x@example.com"', 'example.com', true, 'says nothing of issuing'],
    ['@ CAA 128 tbs "Unknown"', 'example.com', false, 'an unknown critical property (section 4.5)'],
    ['@ CAA 0 tbs "Unknown"', 'example.com', true, 'an unknown one that is not critical'],
  ])('%s for %s: %s, %s', (text, name, allows) =>
    expect(judgeCaa(name, sets(`${text}\n@ NS ns.test.\n`), 'ca.test').allows).toBe(allows),
  );
});

describe('the spread of a change', () => {
  const watched = [{ name: 'a.example', type: 'A', wanted: ['198.51.100.24'] }];
  const see = (
    resolver: string,
    atMs: number,
    data: string | undefined,
    ttlSeconds: number,
    kind: Sighting['kind'] = data === undefined ? 'none' : 'data',
  ): Sighting => ({
    resolver,
    name: 'a.example',
    type: 'A',
    atMs,
    kind,
    data: data === undefined ? [] : [data],
    ttlSeconds,
  });
  const OLD = '203.0.113.9';
  const NEW = '198.51.100.24';
  const reckon = (authority: Sighting[], sightings: Sighting[], resolvers = ['r']) =>
    reckonSpread({ watched, authority, sightings, resolvers });

  it('has no end while the authority itself gives the old answer', () => {
    const spread = reckon([see('authority', 0, OLD, 3600)], [see('r', 0, OLD, 600)]);
    expect(spread).toMatchObject({
      authorityNewSinceMs: undefined,
      everyoneByMs: undefined,
      resolvers: [{ state: 'old', oldUntilMs: 600_000 }],
    });
  });

  it('ends when the last old answer has run out, also at resolvers nobody asked', () => {
    const spread = reckon(
      [see('authority', 0, OLD, 3600), see('authority', 60_000, NEW, 3600)],
      [see('r', 60_000, OLD, 900)],
    );
    expect(spread.resolvers[0]).toMatchObject({ state: 'old', oldUntilMs: 960_000 });
    // Someone may have asked just before the change was seen, at 60 s, and was told 3600 s.
    expect(spread.everyoneByMs).toBe(3_660_000);
  });

  it('counts "there is none" by the negative TTL (RFC 2308 section 5)', () => {
    const spread = reckon(
      [see('authority', 0, undefined, 600), see('authority', 30_000, NEW, 3600)],
      [see('r', 30_000, undefined, 450)],
    );
    expect(spread.resolvers[0]?.oldUntilMs).toBe(480_000);
    expect(spread.everyoneByMs).toBe(630_000);
  });

  it('a resolver with a floor under the TTL keeps it longer than the zone said', () => {
    expect(
      reckon([see('authority', 0, OLD, 60), see('authority', 1000, NEW, 60)], [see('r', 1000, OLD, 1800)]).everyoneByMs,
    ).toBe(1_801_000);
  });

  it('says nothing where nothing is watched', () => {
    expect(reckonSpread({ watched: [], authority: [], sightings: [], resolvers: ['r'] })).toMatchObject({
      authorityNewSinceMs: undefined,
      everyoneByMs: undefined,
      resolvers: [{ state: 'silent' }],
    });
  });

  it('a silent resolver may still have what it was last seen to have', () => {
    const spread = reckon(
      [see('authority', 0, OLD, 3600), see('authority', 10_000, NEW, 3600)],
      [see('r', 0, OLD, 3600), see('r', 10_000, undefined, 0, 'failed')],
    );
    expect(spread.resolvers[0]).toMatchObject({ state: 'silent', oldUntilMs: 3_600_000 });
  });

  it('never ends before the last resolver is through, nor before the change (property)', () => {
    const sighting = fc.record({ atMs: fc.nat(10_000_000), old: fc.boolean(), ttlSeconds: fc.nat(86_400) });
    fc.assert(
      fc.property(fc.array(sighting, { minLength: 1 }), fc.array(sighting, { minLength: 1 }), (auth, seen) => {
        const spread = reckon(
          auth.map(({ atMs, old, ttlSeconds }) => see('authority', atMs, old ? OLD : NEW, ttlSeconds)),
          seen.map(({ atMs, old, ttlSeconds }) => see('r', atMs, old ? OLD : NEW, ttlSeconds)),
        );
        if (spread.everyoneByMs === undefined) return;
        expect(spread.everyoneByMs).toBeGreaterThanOrEqual(spread.resolvers[0]?.oldUntilMs ?? 0);
        expect(spread.everyoneByMs).toBeGreaterThanOrEqual(spread.authorityNewSinceMs ?? 0);
      }),
    );
  });
});

describe('a plan for a change', () => {
  it('lowers the TTL in time, and the old host stays five minutes instead of a day', () => {
    const day = 86_400;
    const plan = planChange({ nowMs: 0, changeAtMs: 2 * day * 1000, ttlSeconds: day });
    expect(plan).toMatchObject({
      lowerByMs: day * 1000,
      tooLate: false,
      keepOldUntilMs: 2 * day * 1000 + 300_000,
      unloweredKeepOldUntilMs: 3 * day * 1000,
    });
    expect(plan.savedMs).toBe((day - 300) * 1000);
  });

  it('never promises less than what may still be out, nor more than doing nothing (property)', () => {
    fc.assert(
      fc.property(fc.nat(1e9), fc.nat(1e9), fc.integer({ min: 1, max: 604_800 }), (nowMs, ahead, ttlSeconds) => {
        const changeAtMs = nowMs + ahead;
        const plan = planChange({ nowMs, changeAtMs, ttlSeconds });
        expect(plan.keepOldUntilMs).toBeGreaterThanOrEqual(changeAtMs);
        expect(plan.keepOldUntilMs).toBeLessThanOrEqual(plan.unloweredKeepOldUntilMs);
        expect(plan.tooLate).toBe(nowMs > changeAtMs - ttlSeconds * 1000);
        expect(plan.savedMs).toBe(plan.unloweredKeepOldUntilMs - plan.keepOldUntilMs);
      }),
    );
  });

  it('asks again the more rarely the longer ago the change was', () => {
    const pauses = [0, 60_000, 600_000, 3_600_000, 864_000_000].map(reckonNextLookupMs);
    expect(pauses).toEqual([...pauses].sort((a, b) => a - b));
    expect([pauses[0], pauses.at(-1)]).toEqual([30_000, 21_600_000]);
  });
});
