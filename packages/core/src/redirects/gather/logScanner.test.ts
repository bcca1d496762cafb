/** A log read where it stands says the same as its lines read letter by letter, however it is cut. Lines are invented. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LogScanner, readLogLine, Tally } from './index.ts';

function scan(text: string, cuts: readonly number[] = [], tally = new Tally()) {
  const notRead: [number, string | undefined][] = [];
  const scanner = new LogScanner(tally, (line, what) => notRead.push([line, what]));
  const bytes = new TextEncoder().encode(text);
  const places = [0, ...cuts.map((cut) => cut % (bytes.length + 1)).sort((a, b) => a - b), bytes.length];
  places.slice(1).forEach((place, at) => scanner.scan(bytes.slice(places[at], place)));
  scanner.end();
  return { tallied: [...tally.all()], notRead };
}
function scanByLine(text: string) {
  const tally = new Tally();
  const notRead: [number, string | undefined][] = [];
  text.split('\n').forEach((each, at) => {
    const line = each.endsWith('\r') ? each.slice(0, -1) : each;
    const request = line === '' ? undefined : readLogLine(line);
    if (request) tally.add(request);
    else if (line !== '') notRead.push([at + 1, line]);
  });
  return { tallied: [...tally.all()], notRead };
}

const USUAL =
  '203.0.113.7 - ada [25/Nov/2026:10:00:00 +0000] "GET /a HTTP/1.1" 200 512 "https://x.example/" "Mozilla/5.0 (X11)"';

describe('a log', () => {
  const part = fc.constantFrom(
    ...['203.0.113.7', '[2001:db8::7]', 'www.example 203.0.113.7', '- -', '- a [b]', ' ', '', '"'],
    ...['[25/Nov/2026:10:00:00 +0000]', '[25/Nov/2026:10:00:01 +0100]', '[31/Feb/2026:10:00:00 +0000]', '[now]'],
    ...['"GET /a HTTP/1.1"', '"HEAD /a?b=1 HTTP/2.0"', '"POST /a HTTP/1.1"', '"GET /a"', '"GET /a b HTTP/1.1"', '"-"'],
    ...['"GET /\\x22/%7Ea/../b HTTP/1.1"', '"GET http://c.example/é HTTP/1.x"', '"GET /a\\" HTTP/1.1"'],
    ...['200', '404', '20', '2000', '5120', '-', '1e3'],
    ...['"-"', '""', '"https://x.example/?q=\\"y\\""', '"x'],
    ...['"SomeBot/2.1"', '"Mozilla/5.0 \\x62ot;"', '"ém"', '"curl\\\\"'],
  );
  const usual = fc
    .record({
      client: fc.constantFrom(
        '203.0.113.7 - -',
        '203.0.113.7 - ada',
        'www.example 203.0.113.7 - -',
        '[2001:db8::7] - -',
      ),
      time: fc.constantFrom('25/Nov/2026:10:00:00 +0000', '25/Nov/2026:10:00:01 +0000', '1/Jan/2026:00:00:00 -0130'),
      asked: fc.constantFrom('GET /a HTTP/1.1', 'HEAD /a/b.php?c=1 HTTP/2.0', 'GET /%61 HTTP/1.1', 'GET /./a HTTP/1.0'),
      status: fc.constantFrom(200, 301, 404),
      bytes: fc.constantFrom('512', '-'),
      rest: fc.constantFrom(
        '',
        ' "-" "-"',
        ' "https://x.example/" "Mozilla/5.0"',
        ' "-" "SomeBot/2.1"',
        ' "" ""',
        ' "-"',
      ),
    })
    .map((it) => `${it.client} [${it.time}] "${it.asked}" ${it.status} ${it.bytes}${it.rest}`);
  const line = fc.oneof(
    { weight: 4, arbitrary: usual },
    { weight: 3, arbitrary: fc.array(part, { maxLength: 9 }).map((parts) => parts.join(' ')) },
    // One letter of a usual line taken out or put in.
    fc
      .tuple(fc.nat(USUAL.length), fc.constantFrom('', ' ', '"', '\\', '[', ']', '5', '\r'))
      .map(([at, letter]) => USUAL.slice(0, at) + letter + USUAL.slice(at + 1)),
  );

  it('says what its lines say, wherever it is cut (property)', () => {
    fc.assert(
      fc.property(
        fc.array(line, { maxLength: 12 }),
        fc.array(fc.nat(4000), { maxLength: 6 }),
        fc.constantFrom('\n', '\r\n'),
        (lines, cuts, end) => {
          const text = lines.map((each) => each.replace(/[\r\n]/g, '')).join(end);
          expect(scan(text, cuts)).toEqual(scanByLine(text));
        },
      ),
      { numRuns: 2000 },
    );
  });

  it('is counted from its first line on, with a byte order mark or without, to a last one without an end', () => {
    const { tallied, notRead } = scan(`\ufeffrubbish\n${USUAL}\n\n${USUAL}`);
    expect(notRead).toEqual([[1, 'rubbish']]);
    expect(tallied).toMatchObject([{ address: '/a', visits: 2 }]);
  });

  it('tells of a line that is longer than any, and goes on behind it', () => {
    const long = 'x'.repeat(70_000);
    for (const cuts of [[], [10_000, 69_000]]) {
      const { tallied, notRead } = scan(`${USUAL}\n${long}\n${USUAL}\n${long}`, cuts);
      expect(notRead).toEqual([
        [2, undefined],
        [4, undefined],
      ]);
      expect(tallied).toMatchObject([{ visits: 2 }]);
    }
  });

  it('of an old domain is read as that domain’s', () => {
    const options = { domains: new Set(['old.example']), domain: 'old.example' };
    expect(scan(USUAL, [], new Tally(options)).tallied).toMatchObject([{ address: '//old.example/a', visits: 1 }]);
  });

  it('judges an address of an old domain by itself, whatever the domain is called', () => {
    const options = { domains: new Set(['setup.example']), domain: 'setup.example' };
    const tally = new Tally(options);
    scan(USUAL.replace(' 200 ', ' 404 '), [], tally);
    expect(tally.gather()).toMatchObject({
      noise: 0,
      rows: [{ address: '//setup.example/a', kind: { kind: 'page' } }],
    });
  });

  it('knows a browser’s name again that is no UTF-8', () => {
    const [before, behind] = USUAL.split('Mozilla').map((text) => new TextEncoder().encode(text)) as [
      Uint8Array,
      Uint8Array,
    ];
    const line = [...before, 0xe9, ...new TextEncoder().encode('Mozilla'), ...behind, 0x0a];
    const tally = new Tally();
    const scanner = new LogScanner(tally, () => {});
    scanner.scan(Uint8Array.from([...line, ...line, ...line]));
    scanner.end();
    expect([tally.agents, [...tally.all()][0]?.visits]).toEqual([1, 3]);
  });
});
