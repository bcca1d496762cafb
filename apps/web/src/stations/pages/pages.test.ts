/** Logic of the Pages and Survey stations: where rows come to stand, menus as rows, what a preview may say, words. */
import { createRemedy, createCheckTitle } from '@fastigium/core/checks';
import { menu } from '@fastigium/contracts/messages/names';
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { Snag, Snags } from '@fastigium/contracts/api/snags';
import { describe, expect, it } from 'vitest';
import { groupSurveyRows, searchItems } from '../survey/surveyRows.ts';
import { findItem, moveItem, without, replaceItem, listMenuRows, type AnyItem } from './menus/menuTree.ts';
import { markOf, sayWhereItShows } from './pageWords.ts';
import { placeDropped, placeStepped } from './placing.ts';
import { readPointed } from './pointing/pointed.ts';
import { createPageRow } from '../../testing/pageRow.ts';

const rows = [
  ['a', null],
  ['a1', 'a'],
  ['a2', 'a'],
  ['b', null],
  ['c', null],
].map(([id, parent]) => ({ id: id ?? '', parent: parent ?? null }));
const row = (id: string) => rows.find((each) => each.id === id) ?? { id, parent: null };

describe('a row put down', () => {
  it.each([
    ['c', 'a', 'before', { parent: null, after: null }],
    ['c', 'a', 'after', { parent: null, after: 'a' }],
    ['c', 'a', 'inside', { parent: 'a', after: 'a2' }],
    ['a2', 'a1', 'before', { parent: 'a', after: null }],
    ['b', 'a2', 'before', { parent: 'a', after: 'a1' }],
    ['a', 'a1', 'inside', undefined],
    ['a', 'a', 'after', undefined],
  ] as const)('%s %s %s', (item, onto, where, place) =>
    expect(placeDropped(rows, row(item), row(onto), where)).toEqual(place),
  );

  it.each([
    ['a2', 'ArrowUp', { parent: 'a', after: null }],
    ['a1', 'ArrowUp', undefined],
    ['a', 'ArrowDown', { parent: null, after: 'b' }],
    ['c', 'ArrowDown', undefined],
    ['b', 'ArrowRight', { parent: 'a', after: 'a2' }],
    ['a', 'ArrowRight', undefined],
    ['a1', 'ArrowLeft', { parent: null, after: 'a' }],
    ['b', 'ArrowLeft', undefined],
    ['b', 'x', undefined],
  ] as const)('%s by Alt %s', (item, key, place) => expect(placeStepped(rows, row(item), key)).toEqual(place));
});

describe('a menu', () => {
  const item = (label: string, children: AnyItem[] = []): AnyItem => ({
    target: { kind: 'address', address: `/${label}/` },
    label,
    newWindow: false,
    children,
  });
  const menu = [item('a', [item('a1'), item('a2')]), item('b'), item('c')];
  const shape = (items: readonly AnyItem[] | undefined) =>
    items &&
    [...listMenuRows(items)].map(({ item: each, path }) => `${'-'.repeat(path.length - 1)}${each.label}`).join(' ');

  it('moves by one place, nests and lifts, and never deeper than three', () => {
    expect(shape(menu)).toBe('a -a1 -a2 b c');
    expect(shape(moveItem(menu, [1], 'ArrowUp')?.items)).toBe('b a -a1 -a2 c');
    expect(moveItem(menu, [1], 'ArrowRight')).toMatchObject({ path: [0, 2] });
    expect(shape(moveItem(menu, [1], 'ArrowRight')?.items)).toBe('a -a1 -a2 -b c');
    expect(shape(moveItem(menu, [0, 1], 'ArrowLeft')?.items)).toBe('a -a1 a2 b c');
    expect(moveItem(menu, [0], 'ArrowUp')).toBeUndefined();
    expect(
      moveItem([item('x', [item('y', [item('z')])]), item('p', [item('q', [item('r')])])], [1], 'ArrowRight'),
    ).toBeUndefined();
  });

  it('has items replaced and left out where they stand', () => {
    expect(findItem(menu, [0, 1])?.label).toBe('a2');
    expect(shape(replaceItem(menu, [0, 1], item('new')))).toBe('a -a1 -new b c');
    expect(shape(without(menu, [0]))).toBe('b c');
    expect(shape(menu)).toBe('a -a1 -a2 b c');
  });
});

describe('what a preview says', () => {
  it.each([
    [
      { fastigium: 'pointed', start: 12, child: 0 },
      { start: 12, child: 0 },
    ],
    [
      { fastigium: 'pointed', start: 12, child: null },
      { start: 12, child: null },
    ],
    [{ fastigium: 'pointed', start: '12', child: 0 }, undefined],
    [{ fastigium: 'pointed', start: -1, child: 0 }, undefined],
    [{ fastigium: 'pointed', start: 1.5, child: 0 }, undefined],
    [{ start: 1, child: 0 }, undefined],
    ['pointed', undefined],
    [null, undefined],
    [{ fastigium: 'nothing' }, undefined],
  ])('%j', (said, read) => expect(readPointed(said)).toEqual(read));
});

describe('a page in a few words', () => {
  const page = createPageRow('p', { title: 'P', label: 'P' });
  it.each([
    [{}, '', false],
    [
      { isHome: true, menus: ['Home', 'Hafan'].map((first) => menu('beginning-with', { menu: menu('main'), first })) },
      'home, main menu',
      false,
    ],
    [{ lists: 1 }, 'lists 1 entry; in no menu', true],
    [{ date: '2016-05-09', touches: 2 }, 'dated 9 May 2016, 2 touches', false],
    [{ isReady: false }, 'not ready: stays out', false],
    [{ state: 'changed' }, 'changed', false],
    [{ kind: 'group' }, 'group', false],
  ] as const)('%j', (more, words, wrong) =>
    expect(sayWhereItShows({ ...page, ...more } as PageRow, true)).toEqual({ words, wrong }),
  );

  it('has the mark of its state', () => {
    expect([
      markOf({ ...page, isHome: true }),
      markOf({ ...page, isReady: false }),
      markOf(page),
      markOf({ ...page, state: 'new' }),
    ]).toEqual(['lapis', 'dashed', 'verdigris', 'ochre']);
  });
});

describe('the worklist', () => {
  const snag = (key: string, code: string, severity: 'must' | 'should', more: Partial<Snag> = {}): Snag => ({
    key,
    code,
    severity,
    path: `${key}.html`,
    page: null,
    subject: key,
    detail: `about ${key}`,
    hasPlace: true,
    mend: null,
    dismissed: null,
    ...more,
  });
  const kinds = (['title-missing', 'link-dead'] as const).map((code) => ({
    code,
    severity: 'should' as const,
    title: createCheckTitle(code),
    how: createRemedy(code),
    source: '',
  }));
  const by = { id: 'x', name: 'Ines Marlow', initials: 'IM' };
  const snags: Snags = {
    version: 1,
    isCurrent: true,
    kinds,
    snags: [
      snag('z', 'link-dead', 'should'),
      snag('a', 'title-missing', 'should'),
      snag('m', 'title-missing', 'must'),
      snag('d', 'title-missing', 'must', { dismissed: { reason: 'r', by, at: '' } }),
    ],
  };
  const survey = {
    fileName: '',
    crawledFrom: null,
    pages: [],
    assets: [],
    links: { inside: 0, outside: 0, dead: [] },
    notes: [],
    totalBytes: 0,
  };
  const keys = (view: 'must' | 'should' | 'dismissed') =>
    groupSurveyRows(view)
      .items({ survey, snags })
      .map(({ key }) => key);

  it('stands under the heads of its kinds, in the order of the checks', () => {
    expect(keys('should')).toEqual(['kind:title-missing', 'a', 'kind:link-dead', 'z']);
    expect(keys('must')).toEqual(['kind:title-missing', 'm']);
    expect(keys('dismissed')).toEqual(['kind:title-missing', 'd']);
  });

  it('searched, keeps only heads that have something under them', () => {
    const items = groupSurveyRows('should').items({ survey, snags });
    expect(searchItems(items, 'about z').map(({ key }) => key)).toEqual(['kind:link-dead', 'z']);
    expect(searchItems(items, 'no such words')).toEqual([]);
    expect(searchItems(items, '')).toHaveLength(4);
  });
});
