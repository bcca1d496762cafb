/**
 * Publishing while things break, a few of each kind; `npm run bench faults` does a hundred. And that what is to catch
 * wrong answers does catch them.
 */
import { describe, expect, inject, it } from 'vitest';
import { FAULTS } from './brokenHouse.ts';
import { faultRun } from './faultRun.ts';
import { wrongAnswers, type Seen } from './visitors.ts';

describe('releases under steady visitors, each with a fault', () => {
  it('visitors get whole releases and nothing else, and everything is clean at the end', async () => {
    const report = await faultRun({ serverFile: inject('serverFile'), publishes: FAULTS.length, seed: 20_261_126 });
    expect(report.wrong.slice(0, 5)).toEqual([]);
    expect(report.said).toEqual([]);
    expect(report.unclean).toEqual([]);
    expect([...report.faults.keys()].sort()).toEqual([...FAULTS].sort());
    expect(report.answers).toBeGreaterThan(200);
  }, 170_000);
});

describe('what visitors met', () => {
  const seen = (more: Partial<Seen>): Seen => ({ fromMs: 10, toMs: 12, path: '/', status: 200, body: 'v1 /', ...more });
  const live = [
    { fromMs: 0, toMs: 20, of: 'v1' },
    { fromMs: 15, toMs: 99, of: 'v2' },
  ];
  const wholeOf = (release: string, path: string) => `${release} ${path}`;
  it.each([
    ['the live release', seen({}), 0],
    ['the next one while it is switched', seen({ fromMs: 16, toMs: 17, body: 'v2 /' }), 0],
    ['the next one too early', seen({ body: 'v2 /' }), 1],
    ['the one before too late', seen({ fromMs: 50, toMs: 51 }), 1],
    ['half a page', seen({ body: 'v1' }), 1],
    ['another page', seen({ path: '/a' }), 1],
    ['an error', seen({ status: 503 }), 1],
    ['nothing', seen({ status: 0 }), 1],
    ['nothing while nobody listens', seen({ status: 0, fromMs: 31, toMs: 32 }), 0],
  ])('%s', (_, one, wrong) =>
    expect(wrongAnswers([one], live, [{ fromMs: 30, toMs: 40, of: undefined }], wholeOf)).toHaveLength(wrong),
  );
});
