/**
 * What speaks for a page, reckoned by hand on a site of four pages, where a word that n of them have tells ln(5 / (n + ½)).
 * Sources: S. Robertson and H. Zaragoza, "The Probabilistic Relevance Framework: BM25 and Beyond" (2009), section 3.1;
 * L. R. Dice (1945). What is put together of it is this project's own.
 */
import { describe, expect, it } from 'vitest';
import { EVIDENCE, sumRarities, weigh } from './evidence.ts';
import type { OldPage } from './pages.ts';
import { createProfile, countRarities, filterTelling } from './profile.ts';
import { Rarity, Vocabulary } from './vocabulary.ts';

type Named = Record<(typeof EVIDENCE)[number], number>;
const page = (address: string, title = '', more: Partial<OldPage> = {}): OldPage => ({ address, title, ...more });
const r = (pages: number) => Math.log(5 / (pages + 0.5));
const SITE = [
  page('/', 'Moor'),
  page('/visit/getting-here/', 'Getting here', { text: 'Bus, train.' }),
  page('/visit/prices/', 'Prices', { text: 'Adults, bus.' }),
  page('/gallery/7/', 'Photo 7', { language: 'de' }),
];
const ALIKE = [page('/photo/'), page('/architecture/'), page('/b'), page('/c')];

/** What speaks for the page at `address`, by name. */
function evidence(old: OldPage, address: string, site = SITE, crowd = 1): Named {
  const vocabulary = new Vocabulary();
  const profiles = site.map((each) => createProfile(each, each.title ?? '', vocabulary));
  const rarities = countRarities(profiles, vocabulary.size);
  const from = createProfile(old, old.title ?? '', vocabulary, crowd);
  const to = profiles[site.findIndex((each) => each.address === address)];
  if (!to) throw new Error(`No page at ${address}`);
  const out = new Float64Array(EVIDENCE.length + 1);
  weigh(from, sumRarities(from, rarities), to, sumRarities(to, rarities), rarities, out, 1);
  expect(out[0]).toBe(0);
  return Object.fromEntries(EVIDENCE.map((name, at) => [name, out[at + 1]])) as Named;
}
/** All but what is nothing. */
const something = (of: Named) =>
  Object.fromEntries(
    Object.entries(of).flatMap(([name, value]) => (value === 0 ? [] : [[name, expect.closeTo(value, 10)]])),
  );
const close = (of: Partial<Named>) =>
  Object.fromEntries(Object.entries(of).map(([name, value]) => [name, expect.closeTo(value, 10)]));

describe('for a page', () => {
  it('that is the same under another ending, with a longer title and another text', () => {
    const of = evidence(
      page('/visit/getting_here.php', 'Getting here today', { text: 'Bus, boat.' }),
      '/visit/getting-here/',
    );
    // “visit” and “bus” have two pages, “getting”, “here” and “train” one, “today” and “boat” none.
    const titleOld = (2 * r(1)) / (2 * r(1) + r(0) / 2);
    const textShared = 2 * r(1) + r(2);
    const textAlike = textShared / Math.sqrt(textShared * (3 * r(1) + r(2)));
    expect(of).toEqual(
      close({
        addressEqual: 1,
        lastEqual: 1,
        lastOld: 1,
        lastNew: 1,
        lastBoth: 1,
        lastLetters: 1,
        lastBegins: 1,
        pathOld: 1,
        pathNew: 1,
        pathBoth: 1,
        pathStrength: 1 - Math.exp(-(2 * r(1) + r(2)) / r(0)),
        lastInPath: 1,
        folderOld: 1,
        folderNew: 1,
        idLost: 0,
        idLostInCrowd: 0,
        lastInTitle: 1,
        titleInPath: 1,
        lastInTitleBoth: 1,
        lastInText: 1,
        titleEqual: 0,
        titleOld,
        titleNew: 1,
        titleBoth: titleOld,
        titleLetters: 20 / 27,
        titleStrength: 1 - Math.exp((-2 * r(1)) / r(0)),
        titleInLast: 1,
        titleInText: titleOld,
        textOld: 1,
        textAlike,
        textAlikeSquared: textAlike ** 2,
        textStrength: 1 - Math.exp(-textShared / (4 * r(0))),
        titleAndText: textAlike,
        numberSame: 0,
        numberOther: 0,
        languageSame: 0,
        languageOther: 0,
        isFront: 0,
        bothFront: 0,
      }),
    );
  });

  it('that has a part of the name, and the folder', () => {
    const of = evidence(page('/visit/prices-adults-x.html', 'Prices'), '/visit/prices/');
    const known = r(1) + 0.5 * r(0);
    expect(of).toMatchObject(
      close({
        addressEqual: 0,
        lastEqual: 0,
        lastOld: r(1) / known,
        lastNew: 1,
        lastBoth: r(1) / known,
        lastBegins: 0.5 + (0.5 * 6) / 13,
        pathOld: (r(1) + r(2)) / (known + r(2)),
        pathNew: 1,
        titleEqual: 1,
        titleLetters: 1,
        // “adults” is in its text.
        lastInText: (2 * r(1)) / (2 * r(1)),
        folderNew: 1,
      }),
    );
  });

  it('that has its number, where nothing else of its name is left', () => {
    const of = evidence(page('/photo.php?n=7', '', { language: 'de-AT' }), '/gallery/7/', SITE, 5);
    expect(something(of)).toEqual(
      close({ lastInTitle: 1, titleInPath: 0.5, lastInTitleBoth: 0.5, lastInText: 1, numberSame: 1, languageSame: 1 }),
    );
  });

  it('that lacks its number: the more addresses share the name, the less it is their own', () => {
    const of = evidence(page('/photo.php?n=8', '', { language: 'en' }), '/gallery/7/', SITE, 5);
    expect(something(of)).toEqual(
      close({
        idLost: 1,
        idLostInCrowd: 0.8,
        lastInTitle: 1,
        titleInPath: 0.5,
        lastInTitleBoth: 0.1,
        lastInText: 1,
        numberOther: 1,
        languageOther: 1,
      }),
    );
    expect(evidence(page('/x?n=8'), '/visit/prices/')).toMatchObject({ idLost: 1, idLostInCrowd: 0, numberOther: 0 });
    expect(evidence(page('/x', '', { language: 'de' }), '/visit/prices/')).toMatchObject({
      languageSame: 0,
      languageOther: 0,
    });
  });

  it.each([
    ['/photo', 1, 1, 1, 1],
    ['/photo.php', 1, 1, 1, 1],
    // One of many, which are not the page they come from.
    ['/photo?n=12', 0, 0, 0.25, 0.25],
    ['/old/photo', 0, 1, 1, 1],
  ])('%s is that of /photo/', (address, addressEqual, lastEqual, lastLetters, lastBoth) =>
    expect(evidence(page(address), '/photo/', ALIKE, 4)).toMatchObject(
      close({ addressEqual, lastEqual, lastLetters, lastBoth }),
    ),
  );

  it.each([
    ['/arch', 0.5 + 2 / 12],
    ['/architectureandmore', 0.5 + 6 / 19],
    ['/ar', 0],
    ['/tecture', 0],
    ['/architecture', 1],
  ])('%s begins as the name, or is what it begins with', (address, lastBegins) =>
    expect(evidence(page(address), '/architecture/', ALIKE)).toMatchObject(close({ lastBegins })),
  );

  it('that opens the site', () => {
    const fronts = (address: string, to = '/') => {
      const { addressEqual, lastEqual, isFront, bothFront } = evidence(page(address), to);
      return [addressEqual, lastEqual, isFront, bothFront];
    };
    expect(fronts('/index.php')).toEqual([1, 0, 1, 1]);
    expect(fronts('/a')).toEqual([0, 0, 1, 0]);
    expect(fronts('/a/index.html')).toEqual([0, 0, 1, 0]);
    expect(fronts('/', '/visit/prices/')).toEqual([0, 0, 0, 0]);
    expect(evidence(page('/'), '/')).toMatchObject({ titleEqual: 0 });
  });
});

describe('a text', () => {
  it('is told by its 64 rarest words that the new site has', () => {
    const all = Int32Array.from({ length: 80 }, (_, id) => id);
    // Of the first ten words two pages have each, of the next 65 one, and none the last five.
    const rarity = new Rarity([all.slice(0, 75), all.slice(0, 10)], 80);
    expect([...filterTelling(all, rarity)]).toEqual(Array.from({ length: 64 }, (_, n) => n + 10));
    expect([...filterTelling(all.slice(8, 72), rarity)]).toEqual([...all.slice(8, 72)]);
    expect([...filterTelling(all.slice(70), rarity)]).toEqual([70, 71, 72, 73, 74]);
  });

  it('is read for its first six thousand letters, with its title and headings', () => {
    const vocabulary = new Vocabulary();
    const text = `${'ab '.repeat(1999)}lm nocount`;
    const { textWords } = createProfile({ address: '/', headings: ['Cd'], text }, 'Ef 12', vocabulary);
    const words = ['ab', 'cd', 'ef', 'lm'].map((word) => vocabulary.idOf(word)).sort((a, b) => a - b);
    expect([...textWords]).toEqual(words);
  });
});
