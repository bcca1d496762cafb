/** What certain pairs teach about the others, reckoned by hand from the definitions in branches.ts; they are this project's own. */
import { describe, expect, it } from 'vitest';
import { BRANCH_EVIDENCE, Branches, type Pair } from './branches.ts';
import type { Profile, Rarities } from './profile.ts';

/** Every word tells as much. */
const EVEN = { path: { of: () => 1 } } as unknown as Rarities;
const set = (...ids: number[]) => Int32Array.from(ids);
function profile(path: string, words: number[], more: Partial<Profile> = {}): Profile {
  const folders = path.split('/').filter((part) => part !== '');
  const last = path.endsWith('/') ? '' : (folders.pop() ?? '');
  const none = set();
  return {
    folders,
    last,
    lastWords: none,
    pathWords: set(...words),
    lastTrigrams: none,
    numbers: none,
    ids: none,
    crowd: 1,
    title: '',
    titleWords: none,
    titleTrigrams: none,
    textWords: none,
    language: undefined,
    ...more,
  };
}
const pair = (old: Profile, page: Profile, weight = 1): Pair => ({ old, page, weight });
/** -ln(1 - share) / 5.3, between 0 and 1. */
const surely = (share: number) => Math.min(1, -Math.log(Math.max(0.005, 1 - share)) / 5.3);

function weighed(pairs: readonly Pair[], old: Profile, page: Profile, own?: Pair, taken = 0) {
  const branches = new Branches(pairs, EVEN);
  const out = new Float64Array(BRANCH_EVIDENCE.length + 1);
  branches.weigh(old, page, own, branches.predicted(old, own), taken, out, 1);
  expect(out[0]).toBe(0);
  return Object.fromEntries(BRANCH_EVIDENCE.map((name, at) => [name, out[at + 1]])) as Record<
    (typeof BRANCH_EVIDENCE)[number],
    number
  >;
}

/** 1 is “news”, 2 is “journal”; each page keeps a word of its own. */
const NEWS = [11, 12, 13].map((word) =>
  pair(profile(`news/p${word}`, [word, 1]), profile(`journal/p${word}`, [word, 2])),
);
const OLD = profile('news/y', [20, 1]);
const NEW = profile('journal/y', [20, 2]);

describe('where the pages of a folder went', () => {
  const predicted = (pairs: readonly Pair[], old: Profile, own?: Pair) =>
    new Branches(pairs, EVEN)
      .predicted(old, own)
      .map(({ folders, share }) => [folders.join('/'), Number(share.toFixed(4))]);

  it('is what most of them did, and no certainty', () => {
    expect(predicted(NEWS, OLD)).toEqual([['journal', 0.75]]);
    expect(predicted([...NEWS, pair(profile('news/z', [1]), profile('old/z', [3]))], OLD)).toEqual([
      ['journal', 0.6],
      ['old', 0.2],
    ]);
    expect(predicted(NEWS, profile('shop/y', []))).toEqual([]);
  });

  it('is not taught by the page itself', () => {
    expect(predicted(NEWS, NEWS[0]?.old ?? OLD, NEWS[0])).toEqual([['journal', 0.6667]]);
    expect(predicted(NEWS.slice(0, 1), NEWS[0]?.old ?? OLD, NEWS[0])).toEqual([]);
    // One that went elsewhere itself takes from all, not from those that went there.
    const own = pair(OLD, profile('elsewhere/y', [20]));
    expect(predicted([...NEWS, own], OLD, own)).toEqual([['journal', 0.75]]);
  });

  it('counts by its weight, and not at all where that is small', () => {
    expect(predicted([pair(OLD, NEW, 0.29)], profile('news/b', []))).toEqual([]);
    expect(predicted([pair(OLD, NEW, 0.3)], profile('news/b', []))).toEqual([['journal', 0.2308]]);
  });

  it('is known of what stands above what both ends share', () => {
    const moved = [pair(profile('a/x/p', []), profile('b/x/p', []))];
    expect(predicted(moved, profile('a/x/q', []))).toEqual([
      ['b/x', 0.5],
      ['b/x', 0.5],
    ]);
    expect(predicted(moved, profile('a/y/q', []))).toEqual([['b/y', 0.5]]);
    expect(predicted([pair(profile('x/p', []), profile('b/x/p', []))], profile('q', []))).toEqual([['b', 0.5]]);
    expect(predicted([pair(profile('a/x/p', []), profile('x/p', []))], profile('a/q', []))).toEqual([['', 0.5]]);
  });

  it('is told twelve times at most, the surest first', () => {
    const many = Array.from({ length: 15 }, (_, n) =>
      Array.from({ length: n + 1 }, () => pair(profile('news/p', []), profile(`to${n}/p`, []))),
    ).flat();
    const told = predicted(many, OLD);
    expect(told).toHaveLength(12);
    expect(told.slice(0, 2).map(([folder]) => folder)).toEqual(['to14', 'to13']);
  });
});

describe('the evidence of a pair', () => {
  it('is how its folder moved and how its words were renamed', () => {
    const evidence = weighed(NEWS, OLD, NEW, undefined, 0.3);
    const wanted = {
      folderMoved: 0.75,
      folderMovedSurely: surely(0.75),
      folderMovedElsewhere: 0,
      movedSameName: 0.75,
      movedAlikeName: 0.75 * 0.875 * 0.875,
      indexMoved: 0,
      topKept: 0,
      topLeft: surely(1 / 5),
      // Of two words one is kept, and the other was renamed three times in four.
      renamedOld: 0.875,
      renamedNew: 0.875,
      renamedBoth: 0.875 * 0.875,
      numberTrusted: 0,
      nameTrusted: surely(0.5),
      taken: 0.3,
      takenOutright: 0,
    };
    for (const name of BRANCH_EVIDENCE)
      expect([name, evidence[name].toFixed(6)]).toEqual([name, Math.abs(wanted[name]).toFixed(6)]);
  });

  it('speaks against a page that is elsewhere', () => {
    const evidence = weighed(NEWS, OLD, profile('shop/z', [30]));
    expect(evidence.folderMoved).toBe(0);
    expect(evidence.folderMovedElsewhere).toBeCloseTo(surely(0.75), 9);
    expect([evidence.movedSameName, evidence.nameTrusted, evidence.movedAlikeName].map(Math.abs)).toEqual([0, 0, 0]);
    // Its own word says nothing; “news” was left behind three times in four, which counts for six tenths of that.
    expect(evidence.renamedOld).toBeCloseTo((0.6 * 0.75) / 2, 9);
    expect(evidence.renamedNew).toBe(0);
  });

  it('counts a word that is often added as nearly explained', () => {
    // “2” was added three times of the three it is seen: six tenths of three quarters.
    const evidence = weighed(NEWS, profile('y', [20]), profile('journal/y', [20, 2]));
    expect(evidence.renamedOld).toBe(1);
    expect(evidence.renamedNew).toBeCloseTo((1 + 0.6 * 0.75) / 2, 9);
    expect(evidence.renamedBoth).toBeCloseTo((1 + 0.45) / 2, 9);
  });

  it('leaves out what the pair itself taught', () => {
    const [first] = NEWS;
    if (!first) throw new Error('no pair');
    const evidence = weighed(NEWS, first.old, first.page, first);
    expect(evidence.folderMoved).toBeCloseTo(2 / 3, 9);
    // Renamed by two others, of two that were seen: two thirds.
    expect(evidence.renamedOld).toBeCloseTo((1 + 2 / 3) / 2, 9);
    expect(evidence.renamedNew).toBeCloseTo((1 + 2 / 3) / 2, 9);
    expect(evidence.topLeft).toBeCloseTo(surely(1 / 4), 9);
  });

  it('is whether pages stayed below their first folder', () => {
    const kept = [pair(profile('a/p', [1]), profile('a/q', [1])), pair(profile('a/r', [1]), profile('a/s', [1]))];
    const stays = weighed(kept, profile('a/x', [1]), profile('a/y', [1]));
    expect(stays.topKept).toBeCloseTo(3 / 4, 9);
    expect(Math.abs(stays.topLeft)).toBe(0);
    expect(weighed(kept, profile('a/x', [1]), profile('b/y', [1])).topLeft).toBeCloseTo(surely(3 / 4), 9);
    const [own] = kept;
    expect(own && weighed(kept, own.old, own.page, own).topKept).toBeCloseTo(2 / 3, 9);
    expect(Math.abs(weighed(kept, profile('x', [1]), profile('a/y', [1])).topLeft)).toBe(0);
    expect(Math.abs(weighed(kept, profile('x', [1]), profile('y', [1])).topKept)).toBe(0);
  });

  it('is whether numbers and names were kept where the title is the same', () => {
    const titled = (path: string, more: Partial<Profile>) => profile(path, [], { title: 'Dome', ...more });
    const kept = [pair(titled('a/x', { numbers: set(5) }), titled('b/x', { numbers: set(5, 6) }))];
    const evidence = weighed(kept, profile('a/y', [], { numbers: set(7) }), profile('b/y', [], { numbers: set(7) }));
    expect(evidence.numberTrusted).toBeCloseTo(2 / 3, 9);
    expect(evidence.nameTrusted).toBeCloseTo(surely(2 / 3), 9);
    const lost = [pair(titled('a/x', { numbers: set(5) }), titled('b/z', { numbers: set(6) }))];
    const otherwise = weighed(lost, profile('a/y', [], { numbers: set(7) }), profile('b/y', [], { numbers: set(7) }));
    expect(otherwise.numberTrusted).toBeCloseTo(1 / 3, 9);
    expect(otherwise.nameTrusted).toBeCloseTo(surely(1 / 3), 9);
    expect(
      weighed(kept, profile('a/y', [], { numbers: set(7) }), profile('b/y', [], { numbers: set(8) })).numberTrusted,
    ).toBe(0);
    // Without a title, or with another one, nothing is learned.
    const untold = [pair(profile('a/x', [], { numbers: set(5) }), profile('b/x', [], { numbers: set(5) }))];
    expect(
      weighed(untold, profile('a/y', [], { numbers: set(7) }), profile('b/y', [], { numbers: set(7) })).numberTrusted,
    ).toBe(0.5);
  });

  it('is that a folder with its pages went where its own page is said to be', () => {
    const below = [pair(profile('visit/times/p', []), profile('come/times/p', []))];
    expect(weighed(below, profile('visit', []), profile('come', [])).indexMoved).toBe(0.5);
    expect(weighed(below, profile('visit', []), profile('other', [])).indexMoved).toBe(0);
  });

  it('is how much others claim the page', () => {
    const at = (taken: number) => {
      const { taken: some, takenOutright } = weighed([], OLD, NEW, undefined, taken);
      return [some, takenOutright];
    };
    expect(at(0)).toEqual([0, 0]);
    expect(at(0.75)).toEqual([0.75, 0.5]);
    expect(at(3)).toEqual([1, 1]);
  });

  it('is less of an address that differs from others in a number the page has not', () => {
    const one = weighed(NEWS, { ...OLD, ids: set(9), crowd: 4 }, NEW);
    expect([one.movedSameName, one.renamedOld, one.renamedNew]).toEqual([0.75 / 4, 0.875 / 4, 0.875]);
    expect(weighed(NEWS, { ...OLD, ids: set(9), crowd: 4 }, { ...NEW, numbers: set(9) }).movedSameName).toBe(0.75);
  });

  it('is of eight words of an address at most', () => {
    const long = pair(profile('a/b', [1, 2, 3, 4, 5, 6, 7, 8, 9]), profile('c/d', [10]));
    expect(weighed([long], profile('x', [9]), profile('y', [10])).renamedOld).toBe(0);
    expect(weighed([long], profile('x', [8]), profile('y', [10])).renamedOld).toBeCloseTo(0.5, 9);
  });
});
