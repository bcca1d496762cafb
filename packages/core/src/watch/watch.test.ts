import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { indexRules, type Rule } from '../redirects/index.ts';
import type { LogRequest } from '../redirects/gather/index.ts';
import { isSpike, LogCounts, computeMedian, judgeOutcome, OUTCOMES, OWN_AGENT, countRuleUse } from './index.ts';

const NOON = Date.UTC(2026, 10, 26, 12);
const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0';
const request = (more: Partial<LogRequest> = {}): LogRequest => ({
  method: 'GET',
  target: '/gone.php?id=3',
  status: 404,
  atMs: NOON,
  referrer: undefined,
  agent: BROWSER,
  ...more,
});
const counted = (...requests: LogRequest[]) => {
  const counts = new LogCounts();
  for (const each of requests) counts.add(each);
  return counts;
};

describe('outcomes', () => {
  // RFC 9110 section 15: 304 answers with what the visitor has already; 1xx and most of 4xx say nothing of the site's addresses.
  it.each([
    [200, 'found'],
    [206, 'found'],
    [304, 'found'],
    [301, 'redirected'],
    [308, 'redirected'],
    [404, 'lost'],
    [410, 'gone'],
    [500, 'failed'],
    [503, 'failed'],
    [400, undefined],
    [401, undefined],
    [405, undefined],
    [100, undefined],
  ])('%i', (status, outcome) => {
    expect(judgeOutcome(status)).toBe(outcome);
  });
});

describe('counting a log', () => {
  it('whoever is kept out as the release says met no failing host; everybody else did', () => {
    const counts = new LogCounts({
      rules: [{ branch: '/members/', entry: { kind: 'nobody' } }],
      lastDay: '2026-11-26',
    });
    for (const [target, status, atMs] of [
      ['/members/a', 503, NOON],
      ['/other/', 503, NOON],
      ['/other/', 410, NOON],
      ['/other/', 410, NOON + 86_400_000],
    ] as const)
      counts.add(request({ target, status, atMs }));
    expect(counts.hours().map(({ failed, gone }) => [failed, gone])).toEqual([[1, 1]]);
  });

  it('people by how their requests ended, robots apart, our own questions not at all', () => {
    const counts = counted(
      request(),
      request({ status: 200, target: '/' }),
      request({ status: 301, target: '/old' }),
      request({ agent: 'ExampleBot/1.0 (+http://bot.example/)' }),
      request({ agent: OWN_AGENT }),
      request({ method: 'POST' }),
      request({ atMs: NOON + 3_600_000, status: 502 }),
    );
    expect(counts.hours()).toEqual([
      { hourMs: NOON, robots: 1, found: 1, redirected: 1, lost: 1, gone: 0, failed: 0 },
      { hourMs: NOON + 3_600_000, robots: 0, found: 0, redirected: 0, lost: 0, gone: 0, failed: 1 },
    ]);
    expect(
      counts
        .addresses()
        .map(({ address, outcome, visits, robotVisits }) => `${outcome} ${address} ${visits}+${robotVisits}`),
    ).toEqual(['lost /gone.php?id=3 1+1', 'redirected /old 1+0', 'failed /gone.php?id=3 1+0']);
  });

  it('two spellings of an address are one, days are those of UTC, and the last referrer stays', () => {
    const counts = counted(
      request({ target: '/caf%c3%a9/', referrer: 'https://a.example/' }),
      request({ target: '/x/../café/', atMs: NOON + 1, referrer: 'https://b.example/' }),
      request({ target: '/caf%C3%A9/', atMs: NOON + 2 }),
      request({ target: '/café/', atMs: NOON + 12 * 3_600_000 }),
      request({ target: 'http://old.example/café/', agent: undefined }),
    );
    expect(
      counts
        .addresses()
        .map(({ day, address, visits, lastMs, referrer }) => [day, address, visits, lastMs - NOON, referrer]),
    ).toEqual([
      ['2026-11-26', '/caf%C3%A9/', 3, 2, 'https://b.example/'],
      ['2026-11-27', '/caf%C3%A9/', 1, 12 * 3_600_000, undefined],
      ['2026-11-26', '//old.example/caf%C3%A9/', 1, 0, undefined],
    ]);
  });

  it('a log in two pieces counts as much as in one', () => {
    const one = fc.record({
      target: fc.webPath(),
      status: fc.constantFrom(200, 301, 404, 410, 500),
      atMs: fc.integer({ min: NOON, max: NOON + 80 * 3_600_000 }),
      agent: fc.constantFrom(BROWSER, 'a crawler', undefined),
    });
    fc.assert(
      fc.property(fc.array(one), fc.nat(), (all, at) => {
        const requests = all.map((each) => request(each));
        const sum = (counts: LogCounts[]) => {
          const out = new Map<string, number>();
          for (const each of counts)
            for (const hour of each.hours())
              for (const kind of [...OUTCOMES, 'robots'] as const)
                out.set(`${hour.hourMs} ${kind}`, (out.get(`${hour.hourMs} ${kind}`) ?? 0) + hour[kind]);
          for (const each of counts)
            for (const { day, address, outcome, visits } of each.addresses())
              out.set(`${day} ${outcome} ${address}`, (out.get(`${day} ${outcome} ${address}`) ?? 0) + visits);
          return [...out].sort(([a], [b]) => (a < b ? -1 : 1));
        };
        const cut = requests.length === 0 ? 0 : at % requests.length;
        expect(sum([counted(...requests.slice(0, cut)), counted(...requests.slice(cut))])).toEqual(
          sum([counted(...requests)]),
        );
      }),
    );
  });
});

describe('a spike', () => {
  it.each<[number, number[], boolean]>([
    [9, [0, 0, 0], false],
    [10, [0, 0, 0], true],
    [10, [], true],
    [40, [36, 40, 33, 41], false],
    [90, [36, 40, 33, 41], true],
    // A spike of last week does not make today's usual.
    [60, [4, 6, 500, 5, 7], true],
  ])('%i after %j', (today, before, expected) => expect(isSpike(today, before)).toBe(expected));

  it('of days that scatter by chance alone hardly one is one', () => {
    // Poisson numbers of mean 25 by Knuth's method (The Art of Computer Programming, vol. 2, section 3.4.1), from fixed chance.
    let state = 1;
    const chance = () => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      return state / 2 ** 32;
    };
    const poisson = (mean: number) => {
      let n = -1;
      for (let p = 1; p > Math.exp(-mean); n += 1) p *= chance();
      return n;
    };
    let spikes = 0;
    for (let n = 0; n < 2000; n += 1)
      if (
        isSpike(
          poisson(25),
          Array.from({ length: 13 }, () => poisson(25)),
        )
      )
        spikes += 1;
    // More than four roots above its mean is 1 day in 8,000 (Poisson tail, mean 25, above 45); the median scatters too.
    expect(spikes).toBeLessThanOrEqual(6);
  });

  it('the median', () =>
    expect([computeMedian([]), computeMedian([3]), computeMedian([9, 1]), computeMedian([5, 1, 9])]).toEqual([
      0, 3, 5, 5,
    ]));
});

describe('use of rules', () => {
  const rules: Rule[] = [
    { from: '/a', status: 301, to: '/x/' },
    { from: '/b', status: 410 },
    { from: '/about', status: 200, to: '/about.html' },
    { from: '/news/:slug', status: 301, to: '/journal/:slug/', isPattern: true },
  ];
  const asked = (address: string, visits: number, lastMs = 1) => ({ address, visits, lastMs });

  it('each rule with its visits, those of a pattern together, the unused last; what a file answers is no use of a rule', () => {
    const uses = countRuleUse(rules, indexRules(rules), { has: (path) => path === 'x/index.html' }, [
      asked('/a?from=mail', 2),
      asked('/a', 1, 5),
      asked('/news/dome', 7),
      asked('/news/moon', 1, 9),
      asked('/x', 4),
    ]);
    expect(uses.map(({ from, visits, lastMs, addresses }) => [from, visits, lastMs, addresses])).toEqual([
      ['/news/:slug', 8, 9, 2],
      ['/a', 3, 5, 2],
      ['/b', 0, undefined, 0],
    ]);
  });
});
