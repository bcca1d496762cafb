/** Matching old addresses: by rules of thumb, by laws, and on real moves of real sites (bench/data/redirect-maps, licences there). */
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { createAffixRemover } from './affix.ts';
import { calibrate } from './model.ts';
import { explain, match, matchSteps, type NewPage } from './index.ts';
import { splitAddressWords, splitWords } from './words.ts';

const page = (address: string, title: string, text = ''): NewPage => ({ id: address, address, title, text });
const PAGES = [
  page('/', 'Moor'),
  page('/visit/', 'Visit'),
  page('/visit/getting-here/', 'Getting here', 'The track begins behind the chapel.'),
  page('/visit/opening-times/', 'Opening times', 'Clear Fridays and Saturdays.'),
  page('/journal/mercury-transit/', 'Mercury crosses the Sun'),
  page('/journal/red-moon/', 'A red moon'),
  page('/journal/comet/', 'Comet over the moor'),
  page('/about/people/', 'People'),
  page('/about/history/', 'History'),
];
const best = (address: string, more: object = {}, settled: Parameters<typeof match>[2] = []) =>
  match([{ address, ...more }], PAGES, settled)[0];

describe('words of an address', () => {
  it.each([
    [
      '/news/2016/05/MercuryTransit.aspx',
      { last: 'mercurytransit', lastWords: ['mercury', 'transit'], numbers: ['2016', '05'] },
    ],
    ['/visit.php?id=3', { last: 'visit', lastWords: ['visit'], numbers: ['3'] }],
    ['/about/team/', { last: 'team', folders: ['about'] }],
    ['/index.asp', { last: '', folders: [] }],
    ['/%C3%A9t%C3%A9/dome_hire.html', { last: 'domehire', folders: ['ete'] }],
    ['/bad%zz/x', { last: 'x' }],
  ])('%s', (address, words) => {
    expect(splitAddressWords(address)).toMatchObject(words);
  });

  it('are the same for what people take for the same', () => {
    expect(splitWords('Opening Times, Visitors')).toEqual(splitWords('open time visitor'));
  });
});

describe('titles', () => {
  it('lose what many of them share, and are never lost whole', () => {
    const clean = createAffixRemover(['A', 'B', 'C', 'D', 'E'].map((name) => `${name} | Moor Observatory`));
    expect([
      clean('Dome | Moor Observatory'),
      clean('Moor Observatory'),
      clean('Dome | Moor Observatory | Moor Observatory'),
    ]).toEqual(['Dome', 'Moor Observatory', 'Dome']);
  });
});

describe('a suggestion', () => {
  it.each([
    ['/getting_here.php', {}, '/visit/getting-here/'],
    ['/page.php?id=41', { title: 'Opening times' }, '/visit/opening-times/'],
    ['/news/2016/05/mercury-transit.html', {}, '/journal/mercury-transit/'],
    ['/about-us/history.htm', {}, '/about/history/'],
    ['/p?n=9', { title: 'How to come', text: 'The track begins behind the chapel.' }, '/visit/getting-here/'],
  ])('for %s %o is %s', (address, more, to) => {
    expect(best(address, more)?.suggestions[0]?.page).toBe(to);
  });

  it('is unsure where nothing is alike', () => {
    expect(best('/shop/mugs/')?.suggestions[0]?.probability ?? 0).toBeLessThan(0.5);
  });

  it('learns from what was settled', () => {
    const olds = ['/berichte/red-moon.htm', '/berichte/comet.htm', '/berichte/mercury-transit.htm'].map((address) => ({
      address,
    }));
    const sure = (settled: Parameters<typeof match>[2]) =>
      match(olds, PAGES, settled)[1]?.suggestions.find(({ page: to }) => to === '/journal/comet/')?.probability ?? 0;
    // Told that the folder's other pages went elsewhere, one is less sure of where the last one went.
    expect(
      sure([
        { address: '/berichte/red-moon.htm', page: '/about/people/' },
        { address: '/berichte/mercury-transit.htm', page: '/about/history/' },
      ]),
    ).toBeLessThan(
      sure([
        { address: '/berichte/red-moon.htm', page: '/journal/red-moon/' },
        { address: '/berichte/mercury-transit.htm', page: '/journal/mercury-transit/' },
      ]),
    );
  });

  it('is explained by words both pages have, as they are written', () => {
    expect(
      explain(
        { address: '/visit/Getting-Here.php', title: 'Getting here' },
        { address: '/visit/getting-here/', title: 'Getting here' },
      ),
    ).toEqual([
      { kind: 'address', strength: 1, words: ['visit', 'getting', 'here'] },
      { kind: 'title', strength: 1, words: ['getting', 'here'] },
    ]);
    expect(explain({ address: '/x' }, { address: '/y' })).toEqual([{ kind: 'address', strength: 0, words: [] }]);
  });
});

describe('laws', () => {
  const addresses = fc.array(
    fc.webPath().filter((path) => path.startsWith('/')),
    { minLength: 1, maxLength: 12 },
  );

  it('gives every address probabilities that add up to no more than one, whatever it is', () => {
    fc.assert(
      fc.property(addresses, fc.array(fc.string(), { maxLength: 12 }), (olds, titles) => {
        const matches = match(
          olds.map((address, at) => ({ address, title: titles[at] })),
          PAGES,
        );
        expect(matches.map(({ address }) => address)).toEqual(olds);
        for (const { suggestions, none } of matches) {
          for (const { probability } of suggestions) expect(probability >= 0 && probability <= 1).toBe(true);
          expect(none >= 0 && none <= 1).toBe(true);
          expect([...suggestions].sort((a, b) => b.probability - a.probability)).toEqual(suggestions);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('does not depend on the order of the pages', () => {
    const olds = [{ address: '/getting_here.php' }, { address: '/history.html' }];
    const answers = (pages: readonly NewPage[]) => match(olds, pages).map(({ suggestions }) => suggestions[0]);
    expect(answers([...PAGES].reverse())).toEqual(answers(PAGES));
  });

  it('tells how far it is, and can be left', () => {
    const steps = matchSteps(
      Array.from({ length: 500 }, (_, n) => ({ address: `/old/${n}.html` })),
      PAGES,
    );
    const told: number[] = [];
    for (let step = steps.next(); !step.done; step = steps.next()) told.push(step.value);
    expect(told.length).toBeGreaterThan(5);
    expect([...told].sort((a, b) => a - b)).toEqual(told);
    expect(Math.max(...told)).toBeLessThan(1);
  });

  it('calibrates without turning an order round', () => {
    const points = [
      [0.1, 0.02],
      [0.5, 0.4],
      [0.9, 0.95],
    ] as const;
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b) => {
        expect(calibrate(Math.min(a, b), points)).toBeLessThanOrEqual(calibrate(Math.max(a, b), points));
      }),
    );
  });
});

it('abstains on addresses that differ in a number alone, though a page is called like their program', () => {
  const pages = [
    'visit',
    'visit/opening-times',
    'visit/getting-here',
    'sky',
    'journal',
    'journal/red-moon',
    'about',
  ].map((path) => ({ id: path, address: `/${path}/`, title: path.split('/').at(-1)?.replace(/-/g, ' ') ?? '' }));
  const numbered = match(
    [3, 4, 7, 9, 12, 15].map((n) => ({ address: `/visit.php?id=${n}` })),
    pages,
  );
  for (const { suggestions } of numbered) expect(suggestions[0]?.probability ?? 0).toBeLessThan(0.5);
  // Alone and without a number, it is that page.
  const [plain] = match([{ address: '/visit.php' }], pages);
  expect(plain?.suggestions[0]?.page).toBe('visit');
  expect(plain?.suggestions[0]?.probability ?? 0).toBeGreaterThan(0.5);
});

describe('real moves', () => {
  interface RealMap {
    old: { url: string; title?: string; text?: string }[];
    new: { url: string; title: string; text?: string }[];
    truth: Record<string, string | null>;
  }
  // What a half-hour sketch reached (84.2 and 100 of a hundred) is the floor.
  it.each([
    ['openstack-docs', 0.842],
    ['npm-cli-docs', 1],
  ])('of %s are found, and sure suggestions are right', (name, floor) => {
    const map = JSON.parse(
      readFileSync(new URL(`../../../../../bench/data/redirect-maps/${name}.json`, import.meta.url), 'utf8'),
    ) as RealMap;
    const matches = match(
      map.old.map(({ url, title, text }) => ({ address: url, title, text })),
      map.new.map(({ url, title, text }) => ({ id: url, address: url, title, text })),
    );
    const answerable = matches.filter(({ address }) => map.truth[address] !== null);
    const right = (each: (typeof matches)[number]) => each.suggestions[0]?.page === map.truth[each.address];
    const sure = matches.filter(({ suggestions }) => (suggestions[0]?.probability ?? 0) >= 0.9);
    expect(answerable.length).toBeGreaterThan(60);
    expect(answerable.filter(right).length / answerable.length).toBeGreaterThanOrEqual(floor);
    expect(sure.length).toBeGreaterThan(matches.length / 2);
    expect(sure.filter(right).length / sure.length).toBeGreaterThanOrEqual(0.96);
  });
});
