// @vitest-environment jsdom
/** What the proof's drawing says, and how the list and the proof come to the same coverage. */
import type { ProofRow, ProofWay } from '@fastigium/contracts/api/redirectProof';
import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { reckonCoverage, reckonProvedCoverage } from './coverage.ts';
import { findBranch, groupFlows, OTHERS } from './proof/flows.ts';
import ProofHops from './proof/ProofHops.vue';

const way = (end: ProofWay['end'], final: string | null, ...hops: [string, number][]): ProofWay => ({
  end,
  final,
  hops: hops.map(([address, status]) => ({ address, status })),
});
const row = (from: string, visits: number | null, draft: ProofWay): ProofRow => ({
  from,
  visits,
  draft,
  title: null,
  live: null,
});
const ROWS = [
  row('/news/a.html', 10, way('page', '/journal/a/', ['/news/a.html', 301], ['/journal/a/', 200])),
  row('/news/b.html', 5, way('missing', '/news/b.html', ['/news/b.html', 404])),
  row('/visit.php?id=3', 3, way('home', '/', ['/visit.php?id=3', 301], ['/', 200])),
  row('/', 20, way('home', '/', ['/', 200])),
  row('//old.example/x', 2, way('gone', null, ['//old.example/x', 410])),
];

describe('the drawing of a proof', () => {
  it.each([
    ['/news/2016/x.html', '/news/'],
    ['/visit.php?id=3', '/visit.php'],
    ['/a.html', '/'],
    ['//old.example/news/x', 'old.example'],
  ])('%s belongs to %s', (address, branch) => expect(findBranch(address)).toBe(branch));

  it('adds up, by branch, to all that was visited', () => {
    const flows = groupFlows(ROWS, 'draft');
    expect(flows.map(({ from, to, visits }) => [from, to, visits])).toEqual([
      ['/', 'the home page', 20],
      ['/news/', '/journal/', 10],
      ['/news/', 'nothing', 5],
      ['/visit.php', 'the home page', 3],
      ['old.example', 'gone for good', 2],
    ]);
    expect(groupFlows(ROWS, 'live')).toEqual([]);
  });

  it('puts small branches together, and loses none', () => {
    const many = Array.from({ length: 40 }, (_, n) =>
      row(`/branch-${n}/x`, n + 1, way('page', `/new-${n}/x/`, [`/branch-${n}/x`, 301])),
    );
    const flows = groupFlows(many, 'draft');
    expect(new Set(flows.map(({ from }) => from)).size).toBe(8);
    expect(flows.some(({ from, to }) => from === OTHERS && to === OTHERS)).toBe(true);
    expect(flows.reduce((sum, { addresses }) => sum + addresses, 0)).toBe(40);
  });
});

it('list and proof come to the same coverage', () => {
  const listed = reckonCoverage([
    { kind: 'page', visits: 10, origin: 'decided', end: 'page', suggestion: null },
    { kind: 'page', visits: 5, origin: 'open', end: 'missing', suggestion: null },
    { kind: 'page', visits: 3, origin: 'decided', end: 'home', suggestion: null },
    { kind: 'page', visits: 20, origin: 'page', end: 'home', suggestion: null },
    { kind: 'page', visits: 2, origin: 'decided', end: 'gone', suggestion: null },
  ]);
  expect(listed).toEqual({ landing: 30, home: 3, gone: 2, suggested: 0, lost: 5, visits: 40, hasVisits: true });
  expect(reckonProvedCoverage(ROWS, 'draft')).toEqual(listed);
});

it('a way is told hop by hop, with what is wrong marked', () => {
  const hops = mount(ProofHops, { props: { way: way('missing', '/b', ['//old.example/a', 301], ['/b', 404]) } });
  expect(hops.findAll('li').map((each) => each.text())).toEqual(['301 old.example/a', '404 /b', 'ends at nothing']);
  expect(hops.findAll('.wrong').map((each) => each.text())).toEqual(['404', 'ends at nothing']);
});
