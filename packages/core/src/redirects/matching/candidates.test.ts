/** Which pages are worth comparing, reckoned by hand from the weights in candidates.ts, which are this project's own. */
import { describe, expect, it } from 'vitest';
import { CandidateFinder, MOST_CANDIDATES } from './candidates.ts';
import type { OldPage } from './pages.ts';
import { createProfile, countRarities } from './profile.ts';
import { Vocabulary } from './vocabulary.ts';

const page = (address: string, title = '', text = ''): OldPage => ({ address, title, text });

/** Finds addresses of the site, the most alike first. */
function finderOf(site: readonly OldPage[]) {
  const vocabulary = new Vocabulary();
  const profiles = site.map((each) => createProfile(each, each.title ?? '', vocabulary));
  const finder = new CandidateFinder(profiles, countRarities(profiles, vocabulary.size));
  return {
    at: (folders: string[], last: string) => site[finder.at(folders, last) ?? -1]?.address,
    find: (old: OldPage) =>
      finder.find(createProfile(old, old.title ?? '', vocabulary)).map((index) => site[index]?.address),
  };
}
const numbered = (count: number, of: (n: number) => OldPage) => Array.from({ length: count }, (_, n) => of(n));

describe('candidates', () => {
  const WAYS = [
    page('/d/w/', '', 'mercury'),
    page('/mercury/y/'),
    page('/b/x/', 'Mercury'),
    page('/a/mercury/'),
    page('/e/v/', 'Venus'),
  ];

  it('stand by where a word stands: in the name, the title, a folder, the text', () => {
    const { find } = finderOf(WAYS);
    const expected = ['/a/mercury/', '/b/x/', '/mercury/y/', '/d/w/'];
    expect(find(page('/mercury.html'))).toEqual(expected);
    // Nothing is left over from one to the next.
    expect(find(page('/nothing'))).toEqual([]);
    expect(find(page('/mercury.html'))).toEqual(expected);
  });

  it('are found by titles, texts, numbers, and names that are spelled a little otherwise', () => {
    const { find } = finderOf([...WAYS, page('/f/2016/'), page('/architecture/')]);
    expect(find(page('/o', 'Mercury'))).toEqual(['/b/x/', '/a/mercury/', '/d/w/']);
    expect(find(page('/o', '', 'Venus and more'))).toEqual(['/e/v/']);
    expect(find(page('/2016/o'))).toEqual(['/f/2016/']);
    expect(find(page('/arkitecture'))).toEqual(['/architecture/']);
  });

  it('are first what is the very same place', () => {
    const { find, at } = finderOf([page('/other/visit/'), page('/visit/'), page('/')]);
    expect(find(page('/visit.php'))).toEqual(['/visit/', '/other/visit/']);
    expect(find(page('/other/visit.php'))[0]).toBe('/other/visit/');
    expect(find(page('/index.asp'))).toEqual(['/']);
    expect([at(['other'], 'visit'), at([], ''), at(['visit'], 'other')]).toEqual(['/other/visit/', '/', undefined]);
  });

  it('are no more than are compared, the best of them, and of those alike the first', () => {
    const site = [
      ...numbered(40, (n) => page(`/p${n}/`, '', 'comet')),
      page('/x/', 'Comet'),
      page('/y/', 'Comet', 'orbit'),
    ];
    const found = finderOf(site).find(page('/o', 'Comet orbit'));
    expect(found).toHaveLength(MOST_CANDIDATES);
    expect(found.slice(0, 2)).toEqual(['/y/', '/x/']);
    const alike = finderOf(numbered(30, (n) => page(`/f${n}/photo/`))).find(page('/photo.html'));
    expect(alike).toEqual(numbered(MOST_CANDIDATES, (n) => page(`/f${n}/photo/`)).map(({ address }) => address));
  });

  it('are not those of a word that more than half of a larger site has', () => {
    const site = (all: number, having: number) =>
      finderOf(numbered(all, (n) => page(`/${n < having ? 'common' : 'other'}/p${n}/`))).find(page('/common/o')).length;
    expect(site(200, 200)).toBe(MOST_CANDIDATES);
    expect(site(202, 101)).toBe(MOST_CANDIDATES);
    expect(site(202, 102)).toBe(0);
  });

  it('are not sought by a name that very many pages have', () => {
    const found = (count: number) =>
      finderOf([...numbered(count, (n) => page(`/f${n}/photo/`)), page('/zz/', '', 'zebra')]).find(
        page('/o/photo', '', 'zebra'),
      );
    // Up to there the name counts more than a rare word of the text.
    expect(found(MOST_CANDIDATES * 4)).not.toContain('/zz/');
    expect(found(MOST_CANDIDATES * 4 + 1)[0]).toBe('/zz/');
  });
});
