import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { computeAlikeness, computeFingerprint, matchPages, type KnownPage } from './index.ts';

const word = fc.stringMatching(/^[a-z]{2,7}$/);
const words = fc.array(word, { minLength: 40, maxLength: 160 });
const page = (path: string, text: string, title = ''): KnownPage => ({
  id: `id-${path}`,
  path,
  hash: text,
  title,
  fingerprint: computeFingerprint(text),
});

/** The Jaccard index itself, from its definition. */
function jaccard(a: readonly string[], b: readonly string[]): number {
  const runs = (list: readonly string[]) => new Set(list.slice(2).map((_, at) => list.slice(at, at + 3).join(' ')));
  const [x, y] = [runs(a), runs(b)];
  const shared = [...x].filter((run) => y.has(run)).length;
  return shared / (x.size + y.size - shared || 1);
}

describe('a fingerprint', () => {
  it('is the same for the same words, whatever stands between them (property)', () => {
    fc.assert(
      fc.property(words, (list) => {
        expect(
          computeAlikeness(
            computeFingerprint(list.join(' ')),
            computeFingerprint(`  ${list.join(',\n ').toUpperCase()} `),
          ),
        ).toBe(1);
      }),
    );
  });

  it('estimates how much two texts share (property; measure: the Jaccard index by its definition)', () => {
    const errors: number[] = [];
    fc.assert(
      fc.property(words, words, fc.nat({ max: 100 }), (a, b, percent) => {
        const mixed = [...a.slice(0, Math.floor((a.length * percent) / 100)), ...b];
        errors.push(
          Math.abs(
            computeAlikeness(computeFingerprint(a.join(' ')), computeFingerprint(mixed.join(' '))) - jaccard(a, mixed),
          ),
        );
      }),
      { numRuns: 200 },
    );
    // 32 bins: a standard error of 0.09 at worst; one in many may be off by three of them.
    expect(errors.reduce((sum, each) => sum + each, 0) / errors.length).toBeLessThan(0.1);
    expect(Math.max(...errors)).toBeLessThan(0.45);
  });

  it('of next to nothing is like nothing', () => {
    expect(computeFingerprint('two words')).toEqual([]);
    expect(computeAlikeness(computeFingerprint('two words'), computeFingerprint('two words'))).toBe(0);
  });
});

describe('pages of a newer export', () => {
  const TEXT =
    'the doors open half an hour after sunset and the last bus leaves at ten past eleven when the queue at the telescope is long';

  it('are known by address, else by content, else they are new', () => {
    const before = [
      page('a.html', 'alpha beta gamma delta'),
      page('old.html', TEXT, 'Times'),
      page('gone.html', 'nothing of this comes back at all ever'),
    ];
    const after = [
      page('a.html', 'alpha beta changed'),
      page('new.html', TEXT.replace('half', 'an'), 'Times'),
      page('fresh.html', 'words that nobody wrote before in this place'),
    ];
    const { changed, moved, added, dropped, known } = matchPages(before, after);
    expect(changed.map(({ after: { path } }) => path)).toEqual(['a.html']);
    expect(moved.map(({ before: was, after: now }) => `${was.path} ${now.path}`)).toEqual(['old.html new.html']);
    expect(added.map(({ path }) => path)).toEqual(['fresh.html']);
    expect(dropped.map(({ path }) => path)).toEqual(['gone.html']);
    expect(known.get('new.html')?.id).toBe('id-old.html');
  });

  it('with the same content under another name have moved, each only once', () => {
    const { moved, added } = matchPages([page('a.html', TEXT)], [page('b.html', TEXT), page('c.html', TEXT)]);
    expect(moved).toHaveLength(1);
    expect(added).toHaveLength(1);
  });

  it('each are counted once, and no identity is given twice (property)', () => {
    const some = fc.uniqueArray(
      fc.tuple(
        fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g'),
        fc.constantFrom(TEXT, `${TEXT} more`, 'entirely other words stand here for once', 'x'),
      ),
      { selector: ([path]) => path },
    );
    fc.assert(
      fc.property(some, some, (old, now) => {
        const { unchanged, changed, moved, added, dropped, known } = matchPages(
          old.map(([path, text]) => page(path, text)),
          now.map(([path, text]) => page(path, text)),
        );
        expect(unchanged + changed.length + moved.length + added.length).toBe(now.length);
        expect(unchanged + changed.length + moved.length + dropped.length).toBe(old.length);
        expect(new Set([...known.values()].map(({ id }) => id)).size).toBe(known.size);
      }),
    );
  });
});
