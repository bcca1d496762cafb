/** The chain, certificates and dates. */
import { ENGLISH, speakerFor } from '@fastigium/words';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  covers,
  findFirstBroken,
  formatIsoDay,
  reckonChain,
  renewAtMs,
  retryAfterMs,
  type ChainFacts,
} from './index.ts';

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
    expect(findFirstBroken(reckonChain(right))).toBeUndefined();
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

  const told = (facts: Partial<ChainFacts>, name: string) => {
    const found = reckonChain({ ...right, ...facts }).find(({ link }) => link === name);
    const said = ({ code, parameters }: { readonly code: string; readonly parameters: object }) =>
      `${code.split('.')[1]} ${Object.values(parameters)
        .map((each: unknown) => (typeof each === 'string' ? each : JSON.stringify(each)))
        .join(' ')}`.trim();
    return found && `${found.state}: ${said(found.words)} / ${said(found.meaning)}`;
  };
  const row = (type: string, state: 'right' | 'missing', needed: string[] | null = ['x']) =>
    ({ ...right.rows?.[0], type, state, needed: needed ?? undefined }) as NonNullable<ChainFacts['rows']>[number];

  it.each<[string, Partial<ChainFacts>, string]>([
    ['registration', { registration: { kind: 'failed', reason: 'away' } }, 'moving: not-known / registry-silent away'],
    ['registration', { registration: { kind: 'free' } }, 'broken: nobody-holds-it / not-registered'],
    [
      'registration',
      { registration: { kind: 'held', expiresAtMs: undefined } },
      'right: held / registered-without-end',
    ],
    [
      'registration',
      { registration: { kind: 'held', expiresAtMs: NOW } },
      'moving: held-until 2026-11-25 / registration-ends-soon',
    ],
    [
      'registration',
      { registration: { kind: 'held', expiresAtMs: NOW - 1 } },
      'broken: ran-out 2026-11-24 / registration-over',
    ],
    [
      'registration',
      { registration: { kind: 'held', expiresAtMs: NOW + 60 * DAY } },
      'right: held-until 2027-01-24 / registered',
    ],
    [
      'registration',
      { registration: { kind: 'held', expiresAtMs: NOW + 60 * DAY - 1 } },
      'moving: held-until 2027-01-23 / registration-ends-soon',
    ],
    ['name-servers', { nameServers: [] }, 'broken: none-named / no-name-servers'],
    [
      'name-servers',
      { nameServers: [{ name: 'a', serial: undefined, reason: 'silent' }] },
      'broken: none-answers / name-servers-silent silent',
    ],
    [
      'name-servers',
      {
        nameServers: [
          { name: 'a.x', serial: undefined, reason: 'silent' },
          { name: 'b.x', serial: 0, reason: '' },
        ],
      },
      'moving: some-answer 1 2 / some-silent [{"code":"meaning.server-silent","parameters":{"name":"a.x","reason":"silent"}}]',
    ],
    [
      'name-servers',
      {
        nameServers: [
          { name: 'a.x', serial: 1, reason: '' },
          { name: 'b.x', serial: 2, reason: '' },
        ],
      },
      'moving: they-differ / zones-differ',
    ],
    ['name-servers', {}, 'right: answer-alike ["ns1","ns2"] / zones-alike'],
    ['records', { rows: undefined }, 'broken: not-known / records-not-known'],
    ['records', { rows: [row('CAA', 'right')] }, 'broken: host-not-known / host-not-said'],
    ['records', { rows: [row('A', 'right', null)] }, 'broken: host-not-known / host-not-said'],
    [
      'records',
      { rows: [row('A', 'right'), row('AAAA', 'missing'), row('MX', 'right', null)] },
      'broken: some-right 1 2 / records-wrong',
    ],
    [
      'records',
      { spread: { authorityNewSinceMs: 0, resolvers: [], everyoneByMs: NOW } },
      'right: all-right 1 / records-right',
    ],
    [
      'records',
      { spread: { authorityNewSinceMs: 0, resolvers: [], everyoneByMs: NOW + 1 } },
      'moving: reaching-everyone / records-spreading',
    ],
    ['records', { spread: undefined }, 'right: all-right 1 / records-right'],
    ['certificate', { certificate: { kind: 'failed', reason: 'no' } }, 'broken: none-served / certificate-comes no'],
    [
      'certificate',
      { certificate: { kind: 'failed', reason: 'no' }, certificatesByUs: false },
      'broken: none-served / certificate-of-host no',
    ],
    ['certificate', seen({ notAfterMs: NOW }), 'broken: ran-out 2026-11-25 / certificate-over'],
    [
      'certificate',
      seen({ names: ['*.a.example'] }),
      'broken: of-another-name / certificate-of-others ["*.a.example"] ["a.example"]',
    ],
    ['certificate', seen({ trusted: false }), 'broken: not-trusted / certificate-not-trusted'],
    [
      'certificate',
      seen({ notBeforeMs: NOW - 60 * DAY, notAfterMs: NOW + 30 * DAY }),
      'right: days-left 30 / certificate-valid ["a.example","www.a.example"]',
    ],
    [
      'certificate',
      seen({ notBeforeMs: NOW - 60 * DAY - 3, notAfterMs: NOW + 30 * DAY - 3 }),
      'moving: days-left 29 / certificate-due',
    ],
    ['host', { host: { kind: 'failed', reason: 'refused' } }, 'broken: does-not-answer / host-silent refused'],
    ['host', { host: { kind: 'answered', status: 500, ms: 1 } }, 'broken: answers-status 500 / host-fails'],
    ['host', { host: { kind: 'answered', status: 499, ms: 1 } }, 'right: answers-in 1 / host-answers'],
    ['host', { host: { kind: 'answered', status: 404, ms: 1 } }, 'broken: nothing-published / nothing-there'],
    [
      'host',
      { sendsTo: 'm.example', host: { kind: 'answered', status: 301, ms: 7, location: 'HTTPS://M.example:8443/x' } },
      'right: leads-on-in 7 / sends-on m.example',
    ],
    [
      'host',
      { sendsTo: 'm.example', host: { kind: 'answered', status: 301, ms: 7, location: 'http://p.example?x' } },
      'broken: leads-elsewhere / sends-elsewhere m.example p.example',
    ],
    [
      'host',
      { sendsTo: 'm.example', host: { kind: 'answered', status: 301, ms: 7, location: '/https://m.example/' } },
      'broken: leads-nowhere / sends-nowhere m.example',
    ],
    [
      'host',
      { sendsTo: 'm.example', host: { kind: 'answered', status: 404, ms: 7 } },
      'broken: leads-nowhere / sends-nowhere m.example',
    ],
    [
      'host',
      { sendsTo: 'm.example', host: { kind: 'answered', status: 503, ms: 7 } },
      'broken: answers-status 503 / host-fails',
    ],
  ])('%s', (name, facts, expected) => expect(told(facts, name)).toBe(expected));

  it('what hangs on a broken link waits for the first of them, the host alone never', () => {
    const facts: Partial<ChainFacts> = {
      registration: { kind: 'free' },
      nameServers: [],
      rows: undefined,
      host: { kind: 'failed', reason: 'x' },
    };
    expect(told(facts, 'name-servers')).toBe('waiting: waits-for registration / no-name-servers');
    expect(told(facts, 'records')).toBe('waiting: waits-for registration / records-not-known');
    expect(told(facts, 'host')).toContain('broken: does-not-answer');
    expect(told({ nameServers: [], rows: undefined }, 'records')).toContain('waits-for nameServers');
    expect(findFirstBroken(reckonChain({ ...right, ...facts }))).toBe('registration');
    expect(findFirstBroken(reckonChain({ ...right, registration: { kind: 'failed', reason: '' } }))).toBe(
      'registration',
    );
    expect(
      findFirstBroken(reckonChain({ ...right, registration: { kind: 'failed', reason: '' }, rows: undefined })),
    ).toBe('records');
  });

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
    expect(findFirstBroken(links)).toBe('certificate');
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
        expect(formatIsoDay(ms)).toBe(new Date(ms).toISOString().slice(0, 10));
      }),
    );
  });
});
