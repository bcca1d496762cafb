/**
 * Zone files letter by letter, and the limits of names, data and plans, each tried at both of its sides. Sources: RFC
 * 1035 (sections 2.3.4, 3.3 and 5.1), RFC 2181 (section 8), RFC 8659 (sections 3 and 4), RFC 5321 (section 5.1).
 */
import { describe, expect, it } from 'vitest';
import {
  judgeCaa,
  checkHostName,
  checkRecordName,
  findConflicts,
  parseIpv6,
  judgeMailOfZone,
  reckonNextLookupMs,
  planChange,
  quote,
  readCaa,
  readZone,
  groupRecordSets,
  relativiseName,
  parseTtl,
  writeZone,
  type RecordChange,
  type ResourceRecord,
} from './index.ts';

const ZONE = 'a.example';
const read = (text: string) => {
  const reading = readZone(text, ZONE);
  return reading.ok
    ? reading.records.map(({ name, ttlSeconds, type, data }) => `${name} ${ttlSeconds} ${type} ${data}`)
    : reading.problems.map(({ line, reason }) => `${line} ${reason.code.replace('zone-fault.', '')} ${said(reason)}`);
};
/** What fills a message, one after another; a message within by its code. */
const said = ({ parameters }: { readonly parameters: object }): string =>
  Object.values(parameters)
    .map((each: unknown) =>
      typeof each === 'object' && each !== null && 'code' in each ? String(each.code) : String(each),
    )
    .join(' ');
const record = (name: string, type: string, data: string, ttlSeconds = 60): ResourceRecord => ({
  name,
  type,
  data,
  ttlSeconds,
});

describe('a zone file', () => {
  it.each<[string, string, string[]]>([
    ['a TTL of its own', '@ 300 A 192.0.2.1', ['a.example 300 A 192.0.2.1']],
    [
      'class and TTL in either order',
      '@ IN 300 A 192.0.2.1\nb 5 IN A 192.0.2.2',
      ['a.example 300 A 192.0.2.1', 'b.a.example 5 A 192.0.2.2'],
    ],
    [
      'the TTL before it',
      '@ 300 A 192.0.2.1\nb A 192.0.2.2',
      ['a.example 300 A 192.0.2.1', 'b.a.example 300 A 192.0.2.2'],
    ],
    [
      '$TTL before that',
      '$TTL 1h\n@ 300 A 192.0.2.1\nb A 192.0.2.2',
      ['a.example 300 A 192.0.2.1', 'b.a.example 3600 A 192.0.2.2'],
    ],
    ['an hour where none is said', '@ A 192.0.2.1', ['a.example 3600 A 192.0.2.1']],
    [
      'the MINIMUM of a SOA without one',
      '@ SOA ns m 1 2 3 4 77',
      ['a.example 77 SOA ns.a.example. m.a.example. 1 2 3 4 77'],
    ],
    ['a type that looks like a TTL has no TTL', '@ 60 TXT 1h', ['a.example 60 TXT "1h"']],
    [
      'the owner before it',
      'b A 192.0.2.1\n  TXT x ; why\n\tTXT y',
      ['b.a.example 3600 A 192.0.2.1', 'b.a.example 3600 TXT "x"', 'b.a.example 3600 TXT "y"'],
    ],
    [
      'an origin that changes',
      '$ORIGIN sub\nb A 192.0.2.1\n$ORIGIN a.example.\nb A 192.0.2.2',
      ['b.sub.a.example 3600 A 192.0.2.1', 'b.a.example 3600 A 192.0.2.2'],
    ],
    [
      'lines joined by parentheses, comments and empty lines in them',
      '@ MX (\n 10 ; best\n\n mail )\nb A 192.0.2.1',
      ['a.example 3600 MX 10 mail.a.example.', 'b.a.example 3600 A 192.0.2.1'],
    ],
    ['the same twice is once', '@ A 192.0.2.1\n@ A 192.0.2.1', ['a.example 3600 A 192.0.2.1']],
    ['an escaped quote and a semicolon in a quote', '@ TXT "a;\\"b" c\\;d', ['a.example 3600 TXT "a;\\"b" "c\\;d"']],
    ['a quoted word that begins with a dollar is no directive', '"$TTL" TXT x', ['1 no-name $TTL name-fault.letter']],
    ['the root as a target', '@ MX 0 .', ['a.example 3600 MX 0 .']],
    ['data that is not known here', 'x TYPE65280 \\# 1 00', ['x.a.example 3600 TYPE65280 \\# 1 00']],
    [
      'signatures beside a CNAME (RFC 4034, section 3)',
      'b CNAME c\nb RRSIG x\nb NSEC y',
      ['b.a.example 3600 CNAME c.a.example.', 'b.a.example 3600 RRSIG x', 'b.a.example 3600 NSEC y'],
    ],
  ])('reads %s', (_, text, expected) => expect(read(text)).toEqual(expected));

  it.each<[string, string[]]>([
    ['$TTL soon\n@ A 192.0.2.1', ['1 no-ttl soon']],
    ['$INCLUDE x', ['1 include ']],
    ['$GENERATE 1-2 a', ['1 directive $GENERATE']],
    ['  A 192.0.2.1', ['1 first-without-name ']],
    [
      '@ CH A 192.0.2.1\n@ HS A 192.0.2.1\n@ CS A 192.0.2.1',
      ['1 class-other CH', '2 class-other HS', '3 class-other CS'],
    ],
    ['@ 60', ['1 no-type 60']],
    ['@ 60 a.b x', ['1 no-type A.B']],
    ['@ -A x', ['1 no-type -A']],
    ['@ A_ x', ['1 no-type A_']],
    ['b.other.example. A 192.0.2.1', ['1 outside-zone b.other.example a.example']],
    ['', ['1 no-record ']],
    ['; only words', ['1 no-record ']],
    ['@ TXT "a\nb A 192.0.2.1', ['1 quote-open ', '1 txt-empty ']],
    ['b A 192.0.2.1 )\nc A 192.0.2.x', ['1 parenthesis-without ', '2 no-ipv4 192.0.2.x']],
    ['b A ( 192.0.2.1', ['1 parenthesis-open ']],
    ['b CNAME c\nb CNAME d', ['2 cnames-two b.a.example']],
    ['b CNAME c\nb A 192.0.2.1', ['2 beside-cname b.a.example A']],
    ['@ SOA ns m 1 2 3 4 5\n@ SOA ns m 2 2 3 4 5', ['2 soas-two ']],
    ['@ A', ['1 values-other A 1 0']],
    ['@ A 192.0.2.1 192.0.2.2', ['1 values-other A 1 2']],
    ['@ AAAA x', ['1 no-ipv6 x']],
    ['@ AAAA', ['1 values-other AAAA 1 0']],
    ['@ MX mail', ['1 values-other MX 2 1']],
    ['@ MX x mail', ['1 no-number preference 65535 x']],
    ['@ MX 65536 mail', ['1 no-number preference 65535 65536']],
    ['@ MX 1x mail', ['1 no-number preference 65535 1x']],
    ['@ MX x1 mail', ['1 no-number preference 65535 x1']],
    ['@ MX 1 a..b', ['1 no-name a..b name-fault.label-empty']],
    ['a..b A 192.0.2.1', ['1 no-name a..b name-fault.label-empty']],
    ['@ SRV 1 2 65536 x', ['1 no-number service 65535 65536']],
    ['@ CAA 256 issue x', ['1 no-number flags 255 256']],
    ['@ CAA 0 is-sue x', ['1 no-tag is-sue']],
    ['@ CAA 0 issue-- x', ['1 no-tag issue--']],
    ['@ CAA 0 --issue x', ['1 no-tag --issue']],
    ['@ CAA 0 issue', ['1 values-other CAA 3 2']],
    ['@ SOA ns m 4294967296 1 1 1 1', ['1 no-number serial 4294967295 4294967296']],
    ['@ SOA ns m 1 1 1 1 x', ['1 no-time x']],
    ['@ TXT', ['1 txt-empty ']],
    ['@ TYPE99', ['1 no-data TYPE99']],
  ])('is refused with its lines: %j', (text, expected) => expect(read(text)).toEqual(expected));

  it('tells no more than fifty faults, in the order of their lines', () => {
    const lines = read('x A y\n'.repeat(60));
    expect(lines).toHaveLength(50);
    expect(lines[49]).toBe('50 no-ipv4 y');
    expect(read('b CNAME c\nb A 192.0.2.1\nx A y')).toEqual(['2 beside-cname b.a.example A', '3 no-ipv4 y']);
  });

  it.each<[string, boolean]>([
    [`"${'x'.repeat(255)}"`, true],
    [`"${'x'.repeat(256)}"`, false],
    [`"${'é'.repeat(127)}x"`, true],
    [`"${'é'.repeat(128)}"`, false],
    [`"${'\\195'.repeat(255)}"`, true],
    [`"${'\\"'.repeat(255)}"`, true],
  ])('a string of text has at most 255 octets: %s', (text, fits) => {
    expect(readZone(`@ TXT ${text}`, ZONE).ok).toBe(fits);
  });

  it('is written with SOA and NS first, then the apex, then names from the right, the common TTL once', () => {
    const records = [
      record('b.a.example', 'A', '192.0.2.2', 60),
      record('z.b.a.example', 'NS', 'ns.', 60),
      record('a.example', 'TXT', '"x"', 60),
      record('a.example', 'A', '192.0.2.1', 300),
      record('c.a.example', 'A', '192.0.2.3', 300),
      record('a.example', 'NS', 'ns.a.example.', 300),
      record('a.example', 'SOA', 'ns.a.example. m.a.example. 1 2 3 4 5', 300),
      record('a.b.a.example', 'A', '192.0.2.4', 60),
    ];
    expect(writeZone(ZONE, records)).toBe(
      [
        '$ORIGIN a.example.',
        '$TTL 60',
        '@        300 IN SOA   ns.a.example. m.a.example. 1 2 3 4 5',
        '@        300 IN NS    ns.a.example.',
        '@        300 IN A     192.0.2.1',
        '@        IN TXT   "x"',
        'b        IN A     192.0.2.2',
        'a.b      IN A     192.0.2.4',
        'z.b      IN NS    ns.',
        'c        300 IN A     192.0.2.3',
        '',
      ].join('\n'),
    );
    expect(writeZone(ZONE, [])).toBe('$ORIGIN a.example.\n$TTL 3600\n\n');
    expect(writeZone(ZONE, [record('very-long-name.a.example', 'A', '192.0.2.1')]).split('\n')[2]).toBe(
      'very-long-name IN A     192.0.2.1',
    );
  });
});

describe('records', () => {
  it('of one name and type are one set, with the least TTL and each datum once', () => {
    expect(
      groupRecordSets([
        record('b', 'A', '1', 60),
        record('b', 'A', '2', 30),
        record('b', 'A', '1', 90),
        record('b', 'TXT', 'x'),
      ]),
    ).toEqual([
      { name: 'b', type: 'A', ttlSeconds: 30, data: ['1', '2'] },
      { name: 'b', type: 'TXT', ttlSeconds: 60, data: ['x'] },
    ]);
  });
  it('conflict only with a CNAME that says something else', () => {
    expect(findConflicts([record('b', 'CNAME', 'c.'), record('b', 'CNAME', 'c.'), record('d', 'A', '1')])).toEqual([]);
    expect(findConflicts([record('b', 'A', '1'), record('b', 'CNAME', 'c.')]).map(({ reason }) => reason.code)).toEqual(
      ['zone-fault.beside-cname'],
    );
  });
  it.each<[string, number | undefined]>([
    ['2147483647', 2_147_483_647],
    ['2147483648', undefined],
    ['1w2d3h4m5s', 788_645],
    ['60x', undefined],
    ['x60', undefined],
    ['', undefined],
  ])('live for %s: %s', (text, seconds) => expect(parseTtl(text)).toBe(seconds));
  it.each([
    ['2001:DB8:0:0:0:0:0:1', '2001:db8::1'],
    ['::ffff:192.0.2.1', '::ffff:c000:201'],
    ['::1]/x[', undefined],
    ['g::1', undefined],
    ['%::1', undefined],
  ])('IPv6 %s is written %s (RFC 5952)', (text, expected) => expect(parseIpv6(text)).toBe(expected));
  it('keep an escaped quote escaped, and no more', () => expect(quote('a"b\\"c')).toBe('"a\\"b\\"c"'));
});

describe('names', () => {
  const fault = (text: string) => {
    const checked = checkHostName(text);
    return checked.ok ? checked.name : `${checked.fault.code.replace('name-fault.', '')} ${said(checked.fault)}`.trim();
  };
  it.each([
    ['A.B.', 'a.b'],
    ['', 'empty'],
    ['.', 'empty'],
    ['a..b', 'label-empty'],
    ['.a', 'label-empty'],
    ['a_b', 'letter _'],
    ['-a.b', 'hyphen -a'],
    ['a.b-', 'hyphen b-'],
    ['10', 'numeric'],
    ['a.10', 'numeric'],
    ['a10', 'a10'],
    ['10.a', '10.a'],
    ['x'.repeat(64), `label-long ${'x'.repeat(40)}…`],
    [`${'x'.repeat(50)}.`.repeat(5), `name-long ${'x'.repeat(40)}…`],
  ])('%s: %s', (text, expected) => expect(fault(text)).toBe(expected));
  it('a star stands first alone', () => {
    expect([checkRecordName('*.a').ok, checkRecordName('a.*').ok, checkRecordName('a.*b').ok]).toEqual([
      true,
      false,
      false,
    ]);
  });
  it('are written in full outside of their zone', () => {
    expect([relativiseName('b.other', ZONE), relativiseName(ZONE, ZONE), relativiseName('b.a.example', ZONE)]).toEqual([
      'b.other.',
      '@',
      'b',
    ]);
  });
});

describe('CAA', () => {
  const verdict = (data: readonly string[], at = ZONE) => {
    const { allows, decidedAt, why } = judgeCaa(
      'www.a.example',
      [{ name: at, type: 'CAA', ttlSeconds: 60, data }],
      'ca.test',
    );
    return `${allows} ${decidedAt} ${why.code.replace('record-note.', '')} ${said(why)}`.trim();
  };
  it.each<[string[], string]>([
    [['0 issue "ca.test"'], 'true a.example caa-names ca.test'],
    [['0 issue " CA.test ; policy=ev"'], 'true a.example caa-names ca.test'],
    [['0 issue ";"'], 'false a.example caa-lets-nobody'],
    [['0 issue "other.test"', '0 issue ";"'], 'false a.example caa-names-others other.test'],
    [['0 iodef "mailto:a@b"'], 'true a.example caa-names-none'],
    [['128 strange "x"', '0 issue "ca.test"'], 'false a.example caa-critical strange'],
    [['0 strange "x"', '0 issue "ca.test"'], 'true a.example caa-names ca.test'],
    [['128 issue "ca.test"'], 'true a.example caa-names ca.test'],
    [['128 contactphone "1"'], 'true a.example caa-names-none'],
    [[], 'true undefined caa-none'],
  ])('%j: %s', (data, expected) => expect(verdict(data)).toBe(expected));
  it('is looked for from the name up to the root', () => {
    expect(verdict(['0 issue ";"'], 'www.a.example')).toContain('false www.a.example');
    expect(verdict(['0 issue ";"'], 'example')).toContain('false example');
    expect(verdict(['0 issue ";"'], 'b.a.example')).toContain('true undefined');
  });
  it('that cannot be read says nothing', () => {
    expect(readCaa('x')).toEqual({ critical: false, tag: '', value: '' });
    expect(readCaa('128 Issue "a"')).toEqual({ critical: true, tag: 'issue', value: 'a' });
    expect(readCaa('0 issue "a" x').tag).toBe('');
    expect(readCaa('x0 issue "a"').tag).toBe('');
  });
});

describe('mail', () => {
  const mx = (...data: string[]) => ({ name: ZONE, type: 'MX', ttlSeconds: 60, data });
  const a = (name: string) => ({ name, type: 'A', ttlSeconds: 60, data: ['192.0.2.1'] });
  const change = (name: string, type = 'A') => ({ name, type }) as unknown as RecordChange;
  const verdict = (...of: Parameters<typeof judgeMailOfZone> extends [string, infer S, infer C] ? [S, C] : never) => {
    const { endangered, message } = judgeMailOfZone(ZONE, ...of);
    return `${endangered} ${message.code.replace('mail.', '')} ${said(message)}`;
  };
  it.each<[string, Parameters<typeof judgeMailOfZone>[1], Parameters<typeof judgeMailOfZone>[2], string]>([
    ['without MX, to the address that changes', [a(ZONE)], [change(ZONE)], 'false goes-to-address a.example'],
    ['without MX, the address stays', [a(ZONE)], [change('b.a.example')], 'false no-mx a.example'],
    ['without MX and address', [a('b.a.example')], [change(ZONE)], 'false no-mx a.example'],
    ['without MX, other records change', [a(ZONE)], [change(ZONE, 'CAA')], 'false no-mx a.example'],
    ['a null MX (RFC 7505)', [mx('0 .')], [change(ZONE)], 'false null-mx a.example'],
    [
      'to a host that changes',
      [mx('10 a.example.', '20 mail.example.')],
      [change(ZONE, 'CNAME')],
      'true server-would-move a.example a.example',
    ],
    [
      'to a host whose IPv6 address changes',
      [mx('10 a.example.')],
      [change(ZONE, 'AAAA')],
      'true server-would-move a.example a.example',
    ],
    ['to a host inside that stays', [mx('10 mail.a.example.')], [change(ZONE)], 'false stays mail.a.example inside'],
    [
      'to a host outside',
      [mx('10 mail.a.example.', '20 mail.example.')],
      [change(ZONE)],
      'false stays mail.a.example,mail.example outside',
    ],
  ])('%s', (_, sets, changes, expected) => expect(verdict(sets, changes)).toBe(expected));
});

describe('a plan for a change', () => {
  const HOUR = 3_600_000;
  it.each([
    // Lowered in time: five minutes after the change.
    {
      now: 0,
      at: 48 * HOUR,
      lowerBy: 24 * HOUR,
      tooLate: false,
      keep: 48 * HOUR + 300_000,
      saved: 24 * HOUR - 300_000,
    },
    // At the last moment.
    {
      now: 24 * HOUR,
      at: 48 * HOUR,
      lowerBy: 24 * HOUR,
      tooLate: false,
      keep: 48 * HOUR + 300_000,
      saved: 24 * HOUR - 300_000,
    },
    // An hour too late: the old answer may have been given until now.
    { now: 25 * HOUR, at: 48 * HOUR, lowerBy: 24 * HOUR, tooLate: true, keep: 49 * HOUR, saved: 23 * HOUR },
    // At the change itself: nothing is gained.
    { now: 48 * HOUR, at: 48 * HOUR, lowerBy: 24 * HOUR, tooLate: true, keep: 72 * HOUR, saved: 0 },
  ])('made at $now', ({ now, at, lowerBy, tooLate, keep, saved }) => {
    expect(planChange({ nowMs: now, changeAtMs: at, ttlSeconds: 86_400 })).toEqual({
      lowerByMs: lowerBy,
      tooLate,
      changeAtMs: at,
      keepOldUntilMs: keep,
      raiseAfterMs: keep,
      unloweredKeepOldUntilMs: at + 24 * HOUR,
      savedMs: saved,
    });
  });
  it.each([
    [0, 30_000],
    [120_000, 30_000],
    [120_004, 30_001],
    [86_400_000, 21_600_000],
    [80_000_000, 20_000_000],
  ])('after %d ms it is looked again in %d', (since, expected) => expect(reckonNextLookupMs(since)).toBe(expected));
});
