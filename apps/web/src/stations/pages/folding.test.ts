import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createPageRow } from '../../testing/pageRow.ts';
import { listAbove, isFolder, listShownRows } from './folding.ts';

const NONE = new Map<string, boolean>();
const many = (folder: string, count: number, depth = 0, parent: string | null = null) =>
  Array.from({ length: count }, (_, n) =>
    createPageRow(`${folder}${n}`, { address: `/${folder}/${n}.html`, depth, parent }),
  );
const ids = (rows: Parameters<typeof listShownRows>[0], open = NONE) =>
  listShownRows(rows, open).map(({ row }) => row.id);

describe('a branch', () => {
  const rows = [
    createPageRow('home', { address: '/' }),
    createPageRow('visit', { address: '/visit/' }),
    createPageRow('groups', { address: '/visit/groups/', depth: 1, parent: 'visit' }),
    createPageRow('schools', { address: '/visit/groups/schools/', depth: 2, parent: 'groups' }),
    createPageRow('about', { address: '/about/' }),
  ];

  it('is open until it is folded, and says how much is below it', () => {
    expect(listShownRows(rows, NONE).map(({ isOpen, below }) => [isOpen, below])).toEqual([
      [undefined, 0],
      [true, 2],
      [true, 1],
      [undefined, 0],
      [undefined, 0],
    ]);
    expect(ids(rows, new Map([['visit', false]]))).toEqual(['home', 'visit', 'about']);
    expect(ids(rows, new Map([['groups', false]]))).toEqual(['home', 'visit', 'groups', 'about']);
  });

  it('is opened down to a row', () => {
    expect(listAbove(rows, 'schools')).toEqual(['visit', 'groups']);
    expect(listAbove(rows, 'home')).toEqual([]);
    expect(listAbove(rows, 'gone')).toEqual([]);
  });
});

describe('many pages side by side', () => {
  it('are gathered by folders no page stands for, closed where there are very many', () => {
    const flat = [createPageRow('home', { address: '/' }), ...many('articles', 600), ...many('notes', 400)];
    const shown = listShownRows(flat, NONE);
    expect(shown.map(({ row, isOpen, below }) => [isFolder(row) ? row.address : row.id, isOpen, below])).toEqual([
      ['home', undefined, 0],
      ['/articles/', false, 600],
      ['/notes/', false, 400],
    ]);
    const notes = shown[2]?.row.id ?? '';
    const opened = listShownRows(flat, new Map([[notes, true]]));
    expect(opened).toHaveLength(403);
    expect(opened[3]).toMatchObject({ depth: 1, row: { id: 'notes0' } });
    expect(listAbove(flat, 'notes7')).toEqual([notes]);
  });

  it('are open in a tree that is not long', () => {
    expect(ids([...many('articles', 30), ...many('notes', 3)])).toHaveLength(34);
  });

  it('stay as they are where they are few, in the folder of the page above them, or at the root', () => {
    expect(ids(many('articles', 19))).toHaveLength(19);
    const news = createPageRow('news', { address: '/news/' });
    expect(ids([news, ...many('news', 50, 1, 'news')])).toHaveLength(51);
    expect(ids(Array.from({ length: 50 }, (_, n) => createPageRow(`${n}`, { address: `/${n}.html` })))).toHaveLength(
      50,
    );
  });

  it('leave no row out and keep their order, however they stand (property)', () => {
    const rowsOf = fc
      .array(fc.tuple(fc.integer({ min: 0, max: 3 }), fc.constantFrom('a', 'b')), { maxLength: 120 })
      .map((drawn) => {
        let before = -1;
        return drawn.map(([depth, folder], n) => {
          before = Math.min(depth, before + 1);
          return createPageRow(`p${n}`, { depth: before, address: `/${folder}/${n}.html` });
        });
      });
    fc.assert(
      fc.property(rowsOf, (rows) => {
        const shown = listShownRows(rows, NONE);
        expect(shown.filter(({ row }) => !isFolder(row)).map(({ row }) => row.id)).toEqual(rows.map(({ id }) => id));
        for (const [at, { depth }] of shown.entries())
          expect(depth).toBeLessThanOrEqual((shown[at - 1]?.depth ?? -1) + 1);
      }),
    );
  });
});
