/**
 * Fingerprints against values reckoned by hand, and which page is which at the limits. Sources: FNV-1a test vectors of
 * draft-eastlake-fnv (appendix C), the finaliser of MurmurHash3 as published; thresholds are this project's own.
 */
import { describe, expect, it } from 'vitest';
import {
  computeAlikeness,
  FINGERPRINT_LENGTH,
  computeFingerprint,
  matchPages,
  type ExportPage,
  type KnownPage,
} from './index.ts';

/** FNV-1a of "a", "b", "foobar" (the draft's table): e40c292c, e70c2de5, bf9cf968. */
const [A, B, FOOBAR] = [0xe40c292cn, 0xe70c2de5n, 0xbf9cf968n];
/** In whole numbers without end, so that nothing is lost on the way. */
function mixed(a: bigint, b: bigint): bigint {
  const low = 0xffffffffn;
  let hash = ((a * 31n) & low) ^ b;
  hash = ((hash ^ (hash >> 16n)) * 0x85ebca6bn) & low;
  hash = ((hash ^ (hash >> 13n)) * 0xc2b2ae35n) & low;
  return hash ^ (hash >> 16n);
}

describe('a fingerprint', () => {
  it('is the least hash of runs of three words, each in its bin', () => {
    const hash = mixed(mixed(A, B), FOOBAR);
    const wanted = new Array<number>(FINGERPRINT_LENGTH).fill(-1);
    wanted[Number(hash % 32n)] = Number((hash >> 5n) & 0x7ffffffn);
    expect(computeFingerprint('A, b: foobar!')).toEqual(wanted);
    const more = computeFingerprint('a b foobar a b foobar');
    expect(more.filter((each) => each >= 0).length).toBeLessThanOrEqual(3);
    expect(more[Number(hash % 32n)]).toBeLessThanOrEqual(wanted[Number(hash % 32n)] ?? 0);
  });

  it('of two words is none, of three has one', () => {
    expect(computeFingerprint('a b')).toEqual([]);
    expect(computeFingerprint('a b c').filter((each) => each >= 0)).toHaveLength(1);
    expect(computeFingerprint('')).toEqual([]);
  });

  it('knows letters and figures of every script, and nothing else', () => {
    expect(computeFingerprint('ŵ 1 д')).toEqual(computeFingerprint('Ŵ—1…Д'));
    expect(computeFingerprint('a b c')).not.toEqual(computeFingerprint('a c b'));
  });

  const bins = (...values: [number, number][]) => {
    const out = new Array<number>(FINGERPRINT_LENGTH).fill(-1);
    for (const [at, value] of values) out[at] = value;
    return out;
  };
  it.each([
    [bins([0, 1]), bins([0, 1]), 1],
    [bins([0, 1], [1, 2]), bins([0, 1], [1, 3]), 0.5],
    [bins([0, 1]), bins([1, 1]), 0],
    [bins([0, 1], [31, 5]), bins([31, 5]), 0.5],
    [bins(), bins(), 0],
    [bins([0, 0]), bins([0, 0]), 1],
    [[], bins([0, 1]), 0],
    [bins([0, 1]), [1], 0],
  ])('%j and %j are alike by %f', (a, b, alike) => expect(computeAlikeness(a, b)).toBe(alike));
});

describe('a page that moved', () => {
  /** So many of ten numbers are the same. */
  const prints = (same: number, of = 0) =>
    Array.from({ length: FINGERPRINT_LENGTH }, (_, at) => (at >= 10 ? -1 : at < same ? at : 1000 + of));
  const page = (path: string, more: Partial<KnownPage> = {}): KnownPage => ({
    id: path,
    path,
    hash: path,
    title: '',
    fingerprint: prints(10),
    ...more,
  });
  const moves = (before: KnownPage[], after: ExportPage[]) =>
    matchPages(before, after).moved.map(({ before: was, after: now, alike }) => `${was.path} ${now.path} ${alike}`);

  it('is alike by half, or by three tenths under the same title', () => {
    expect(moves([page('a')], [page('b', { fingerprint: prints(5) })])).toEqual(['a b 0.5']);
    expect(moves([page('a')], [page('b', { fingerprint: prints(4) })])).toEqual([]);
    expect(moves([page('a', { title: 'T' })], [page('b', { title: 'T', fingerprint: prints(3) })])).toEqual([
      'a b 0.3',
    ]);
    expect(moves([page('a', { title: 'T' })], [page('b', { title: 'T', fingerprint: prints(2) })])).toEqual([]);
    expect(moves([page('a', { title: 'T' })], [page('b', { title: 'U', fingerprint: prints(3) })])).toEqual([]);
    expect(moves([page('a')], [page('b', { fingerprint: prints(3) })])).toEqual([]);
  });

  it('is the most alike one, and of two as alike the first by its path', () => {
    const before = [page('a', { fingerprint: prints(10) }), page('z', { fingerprint: prints(7, 1) })];
    expect(moves(before, [page('b', { fingerprint: prints(8, 2) }), page('c', { fingerprint: prints(9, 3) })])).toEqual(
      ['a c 0.9', 'z b 0.7'],
    );
    expect(
      moves([page('a')], [page('c', { fingerprint: prints(8, 2) }), page('b', { fingerprint: prints(8, 3) })]),
    ).toEqual(['a b 0.8']);
  });

  it('is the one with the very same content before any other', () => {
    expect(
      moves(
        [page('a', { hash: 'h', fingerprint: prints(10) })],
        [page('b', { fingerprint: prints(10) }), page('c', { hash: 'h', fingerprint: [] })],
      ),
    ).toEqual(['a c 1']);
  });

  it('is none where its path is there, whatever it holds', () => {
    const { changed, unchanged, moved, known, dropped } = matchPages(
      [page('a', { hash: '1' }), page('b')],
      [page('a', { hash: '2', fingerprint: [] }), page('b')],
    );
    expect([changed.length, unchanged, moved, dropped]).toEqual([1, 1, [], []]);
    expect([...known].map(([path, { id }]) => [path, id])).toEqual([
      ['a', 'a'],
      ['b', 'b'],
    ]);
  });

  it('is not looked for by what stands on more than fifty pages', () => {
    const before = Array.from({ length: 60 }, (_, n) => page(`a${n}`, { fingerprint: prints(10) }));
    // The last ones are not even candidates, so one of the first fifty is taken.
    const [move = ''] = moves(before, [page('b', { fingerprint: prints(9, 9) })]);
    expect(Number(/^a(\d+)/.exec(move)?.[1])).toBeLessThan(50);
  });
});
