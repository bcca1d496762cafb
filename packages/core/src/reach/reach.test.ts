/** The chain, certificates and dates. */
import { ENGLISH, speakerFor } from '@fastigium/words';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { covers, firstBroken, isoDay, reckonChain, renewAtMs, retryAfterMs, type ChainFacts } from './index.ts';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 10, 25);
const right: ChainFacts = {
  registration: { kind: 'held', expiresAtMs: NOW + 400 * DAY },
  nameServers: [
    { name: 'ns1.a.test', serial: 4, reason: '' },
    { name: 'ns2.a.test', serial: 4, reason: '' },
  ],
  rows: [
    {
      name: 'a.example',
      type: 'A',
      answered: ['1.2.3.4'],
      answeredTtlSeconds: 60,
      needed: ['1.2.3.4'],
      state: 'right',
      note: undefined,
    },
  ],
  spread: { authorityNewSinceMs: 0, resolvers: [], everyoneByMs: NOW - 1 },
  certificate: {
    kind: 'served',
    seen: {
      names: ['a.example', 'www.a.example'],
      issuer: 'A',
      notBeforeMs: NOW - 10 * DAY,
      notAfterMs: NOW + 80 * DAY,
      trusted: true,
    },
  },
  host: { kind: 'answered', status: 200, ms: 12 },
  names: ['www.a.example', 'a.example'],
  sendsTo: undefined,
  certificatesByUs: true,
  nowMs: NOW,
};
const states = (facts: Partial<ChainFacts>) => reckonChain({ ...right, ...facts }).map(({ state }) => state);
const seen = (more: object) => ({
  certificate: {
    kind: 'served',
    seen: { ...(right.certificate as { seen: object }).seen, ...more },
  } as ChainFacts['certificate'],
});

describe('the chain', () => {
  it('is whole when every link is', () => {
    expect(states({})).toEqual(['right', 'right', 'right', 'right', 'right']);
    expect(firstBroken(reckonChain(right))).toBeUndefined();
  });

  it.each<[string, Partial<ChainFacts>, string[]]>([
    ['nobody holds the name', { registration: { kind: 'free' } }, ['broken', 'right', 'right', 'right', 'right']],
    [
      'it has run out',
      { registration: { kind: 'held', expiresAtMs: NOW - 1 } },
      ['broken', 'right', 'right', 'right', 'right'],
    ],
    [
      'it runs out soon',
      { registration: { kind: 'held', expiresAtMs: NOW + 30 * DAY } },
      ['moving', 'right', 'right', 'right', 'right'],
    ],
    [
      'the registry is away',
      { registration: { kind: 'failed', reason: 'x' } },
      ['moving', 'right', 'right', 'right', 'right'],
    ],
    [
      'no name server answers',
      {
        nameServers: [{ name: 'a', serial: undefined, reason: 'silent' }],
        rows: undefined,
        certificate: { kind: 'failed', reason: 'x' },
      },
      ['right', 'broken', 'waiting', 'waiting', 'right'],
    ],
    [
      'name servers differ',
      {
        nameServers: [
          { name: 'a', serial: 1, reason: '' },
          { name: 'b', serial: 2, reason: '' },
        ],
      },
      ['right', 'moving', 'right', 'right', 'right'],
    ],
    [
      'old answers are out',
      { spread: { authorityNewSinceMs: 0, resolvers: [], everyoneByMs: NOW + 1 } },
      ['right', 'right', 'moving', 'right', 'right'],
    ],
    [
      'nobody said where the host is',
      {
        rows: [
          {
            name: 'a.example',
            type: 'A',
            answered: ['1.2.3.4'],
            answeredTtlSeconds: 60,
            needed: undefined,
            state: 'kept',
            note: undefined,
          },
        ],
      },
      ['right', 'right', 'broken', 'right', 'right'],
    ],
    ['it covers another name', seen({ names: ['b.example'] }), ['right', 'right', 'right', 'broken', 'right']],
    ['it has run out', seen({ notAfterMs: NOW - 1 }), ['right', 'right', 'right', 'broken', 'right']],
    ['nobody trusts it', seen({ trusted: false }), ['right', 'right', 'right', 'broken', 'right']],
    [
      'a third of its life is left',
      seen({ notBeforeMs: NOW - 61 * DAY, notAfterMs: NOW + 29 * DAY }),
      ['right', 'right', 'right', 'moving', 'right'],
    ],
    [
      'nothing is published',
      { host: { kind: 'answered', status: 404, ms: 1 } },
      ['right', 'right', 'right', 'right', 'broken'],
    ],
    [
      'a domain that redirects sends visitors on',
      {
        sendsTo: 'www.main.example',
        host: { kind: 'answered', status: 301, ms: 1, location: 'https://www.main.example/' },
      },
      ['right', 'right', 'right', 'right', 'right'],
    ],
    [
      'it sends them elsewhere',
      {
        sendsTo: 'www.main.example',
        host: { kind: 'answered', status: 301, ms: 1, location: 'https://parked.example/' },
      },
      ['right', 'right', 'right', 'right', 'broken'],
    ],
    [
      'it answers with a page of its own',
      { sendsTo: 'www.main.example', host: { kind: 'answered', status: 200, ms: 1 } },
      ['right', 'right', 'right', 'right', 'broken'],
    ],
  ])('%s', (_, facts, expected) => expect(states(facts)).toEqual(expected));

  it('says of every link what it means, and names the first that is not right', () => {
    const links = reckonChain({
      ...right,
      ...seen({ trusted: false }),
      spread: { authorityNewSinceMs: 0, resolvers: [], everyoneByMs: NOW + 1 },
    });
    const speak = speakerFor(ENGLISH);
    expect(links.map(({ words, meaning }) => [speak(words), speak(meaning)])).toEqual([
      ['held until 30 December 2027', 'The name is registered.'],
      ['ns1, ns2 answer alike', 'All name servers answer, with the same version of the zone.'],
      [
        'reaching everyone',
        'The records are right at the name servers. Resolvers still hand out the old answer until it runs out. Nothing needs republishing.',
      ],
      [
        'not trusted',
        'No chain of signatures leads from the certificate to an authority that browsers trust: they warn visitors off.',
      ],
      ['answers in 12 ms', 'The host answers with the site.'],
    ]);
    expect(firstBroken(links)).toBe('certificate');
  });
});

describe('certificates', () => {
  // RFC 9525 section 6.3: a wildcard stands for one whole label.
  it.each([
    ['*.example.com', 'foo.example.com', true],
    ['*.example.com', 'bar.foo.example.com', false],
    ['*.example.com', 'example.com', false],
    ['a.example', 'a.example', true],
    ['A.example', 'a.example', true],
  ])('%s covers %s: %s', (name, host, yes) => expect(covers(name, host)).toBe(yes));

  it('are renewed with a third of their life left; failures wait ever longer, at most a day', () => {
    expect(renewAtMs(0, 90 * DAY)).toBe(60 * DAY);
    const pauses = [1, 2, 3, 4, 5, 6, 20].map(retryAfterMs);
    expect(pauses).toEqual([...pauses].sort((a, b) => a - b));
    expect([pauses[0], pauses.at(-1)]).toEqual([60_000, DAY]);
  });
});

describe('days', () => {
  it('are those of the platform’s own calendar (property)', () => {
    fc.assert(
      fc.property(fc.integer({ min: Date.UTC(1000, 0, 1), max: Date.UTC(9999, 11, 31) }), (ms) => {
        expect(isoDay(ms)).toBe(new Date(ms).toISOString().slice(0, 10));
      }),
    );
  });
});
