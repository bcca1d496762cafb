/** Where a row of the tree comes to stand: by drag, and by Alt with the arrows. */
import type { PageRow } from '@fastigium/contracts/api/draft';

export interface Placing {
  readonly parent: string | null;
  readonly after: string | null;
}

type Row = Pick<PageRow, 'id' | 'parent'>;

const listSiblings = (rows: readonly Row[], parent: string | null) =>
  rows.filter((row) => row.parent === parent).map(({ id }) => id);

/** Put down before, inside or after another row; undefined where that is where it stands, or below itself. */
export function placeDropped(
  rows: readonly Row[],
  item: Row,
  onto: Row,
  where: 'before' | 'inside' | 'after',
): Placing | undefined {
  for (let at: Row | undefined = onto; at; at = rows.find(({ id }) => id === at?.parent))
    if (at.id === item.id) return undefined;
  if (where === 'inside')
    return {
      parent: onto.id,
      after:
        listSiblings(rows, onto.id)
          .filter((id) => id !== item.id)
          .at(-1) ?? null,
    };
  const list = listSiblings(rows, onto.parent).filter((id) => id !== item.id);
  const at = list.indexOf(onto.id);
  return { parent: onto.parent, after: where === 'after' ? onto.id : (list[at - 1] ?? null) };
}

/** One step by the keyboard; undefined where there is no place that way. */
export function placeStepped(rows: readonly Row[], item: Row, key: string): Placing | undefined {
  const list = listSiblings(rows, item.parent);
  const at = list.indexOf(item.id);
  switch (key) {
    case 'ArrowUp':
      return at > 0 ? { parent: item.parent, after: list[at - 2] ?? null } : undefined;
    case 'ArrowDown':
      return at < list.length - 1 ? { parent: item.parent, after: list[at + 1] ?? null } : undefined;
    case 'ArrowRight': {
      const before = list[at - 1];
      return before === undefined ? undefined : { parent: before, after: listSiblings(rows, before).at(-1) ?? null };
    }
    case 'ArrowLeft': {
      const parent = rows.find(({ id }) => id === item.parent);
      return parent && { parent: parent.parent, after: parent.id };
    }
    default:
      return undefined;
  }
}
