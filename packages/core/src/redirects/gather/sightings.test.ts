/** One row for each address of a list or log. Addresses and names are invented. */
import { describe, expect, it } from 'vitest';
import { gatherSightings, MOST_NOISE, type Sighting, type SightingContext } from './index.ts';

const OF_A_LIST: SightingContext = { domains: new Set(), domain: undefined, isListed: true, isLive: false };
const OF_A_LOG: SightingContext = { ...OF_A_LIST, isListed: false };
const gather = (sightings: readonly Sighting[], context = OF_A_LIST) => gatherSightings(sightings, context);
const asked = (more: Partial<NonNullable<Sighting['asked']>> = {}) => ({
  visits: 1,
  robotVisits: 0,
  answered: 0,
  referred: 0,
  ...more,
});

describe('what was seen of an address', () => {
  it('is one row: visits add up, the last time counts, and what one says the other lacks is kept', () => {
    const { rows, read } = gather([
      { address: '/a', visits: 3, lastSeenMs: 5000, title: 'Old' },
      { address: '/b' },
      { address: '/a', visits: 4, lastSeenMs: 1000, status: 200, title: undefined },
    ]);
    expect(read).toBe(2);
    expect(rows).toEqual([
      { address: '/a', visits: 7, lastSeenMs: 5000, title: 'Old', status: 200, kind: { kind: 'page' } },
      { address: '/b', kind: { kind: 'page' } },
    ]);
  });

  it('says nothing of visits where neither does, and takes those of the one that does', () => {
    expect(gather([{ address: '/a' }, { address: '/a', title: 'T' }]).rows[0]).not.toHaveProperty('visits');
    expect(gather([{ address: '/a' }, { address: '/a', visits: 2 }]).rows[0]).toMatchObject({ visits: 2 });
    expect(gather([{ address: '/a', visits: 2 }, { address: '/a' }]).rows[0]).toMatchObject({ visits: 2 });
  });

  it('is that of an old domain only where the domain is told apart', () => {
    const context = { ...OF_A_LIST, domains: new Set(['old.example']) };
    const sightings = [
      { address: '/a', host: 'old.example' },
      { address: '/a', host: 'www.example' },
      { address: '/b' },
    ];
    expect(gather(sightings, context).rows.map(({ address }) => address)).toEqual(['//old.example/a', '/a', '/b']);
    expect(gather(sightings).rows.map(({ address }) => address)).toEqual(['/a', '/b']);
    const whole = gather(sightings, { ...context, domain: 'old.example' });
    expect(whole.rows.map(({ address }) => address)).toEqual(['//old.example/a', '/a', '//old.example/b']);
  });

  it('is judged by both spellings together: what one was asked for by a link is no noise', () => {
    const guessed = { address: '/a', visits: 1, asked: asked() };
    const linked = { address: '/a', visits: 1, asked: asked({ referred: 1 }) };
    expect(gather([guessed], OF_A_LOG).rows[0]?.kind).toEqual({ kind: 'noise', why: 'never answered' });
    expect(gather([guessed, linked], OF_A_LOG).rows[0]?.kind).toEqual({ kind: 'page' });
    expect(gather([linked, guessed], OF_A_LOG).rows[0]?.kind).toEqual({ kind: 'page' });
  });
});

describe('noise', () => {
  it('is counted, and the most visited of it kept; pages and files all are', () => {
    const noise = Array.from({ length: MOST_NOISE + 10 }, (_, n) => ({
      address: `/guess-${n}`,
      visits: n < 10 ? 0 : 1,
      asked: asked({ visits: n < 10 ? 0 : 1 }),
    }));
    const often = { address: '/guess-often', visits: 0, asked: asked({ visits: 0, robotVisits: 9 }) };
    const gathered = gather(
      [...noise, often, { address: '/page', visits: 1, asked: asked({ answered: 1 }) }, { address: '/x.pdf' }],
      OF_A_LOG,
    );
    expect(gathered).toMatchObject({ read: MOST_NOISE + 13, files: 1, noise: MOST_NOISE + 11, leftOut: 11 });
    expect(gathered.rows).toHaveLength(MOST_NOISE + 2);
    const kept = new Set(gathered.rows.map(({ address }) => address));
    expect(['/page', '/x.pdf', '/guess-often', '/guess-10', '/guess-0'].map((each) => kept.has(each))).toEqual([
      true,
      true,
      true,
      true,
      false,
    ]);
  });
});
