/** The tree as it is shown: branches that are folded away, and many pages side by side gathered by their folders. */
import type { TreeEntry } from './removals/inPlace.ts';
import { say } from './words.ts';

/** A folder no page stands for, which many pages side by side are in; there to be folded, not to be changed. */
export interface FolderRow {
  readonly folder: true;
  readonly id: string;
  /** `/articles/` */
  readonly address: string;
  readonly depth: number;
  readonly parent: string | null;
  readonly pages: number;
}

export type TreeRow = TreeEntry | FolderRow;

export interface ShownRow {
  readonly row: TreeRow;
  /** With the folders it is shown in. */
  readonly depth: number;
  /** Undefined where nothing is below it. */
  readonly isOpen: boolean | undefined;
  readonly below: number;
}

export const isFolder = (row: TreeRow): row is FolderRow => 'folder' in row;

/** Fewer pages of one folder side by side are read at a glance. */
const LEAST_IN_FOLDER = 20;
/** A tree with more rows begins with its folders closed. */
const MOST_OPEN = 200;

interface Node {
  readonly row: TreeRow;
  readonly children: Node[];
}

/**
 * @param rows in the tree's order
 * @param open what somebody folded or unfolded, by id
 */
export function listShownRows(rows: readonly TreeEntry[], open: ReadonlyMap<string, boolean>): ShownRow[] {
  const isLarge = rows.length > MOST_OPEN;
  const out: ShownRow[] = [];
  const show = (nodes: readonly Node[], depth: number): void => {
    for (const { row, children } of nodes) {
      const isOpen = children.length === 0 ? undefined : (open.get(row.id) ?? !(isFolder(row) && isLarge));
      out.push({ row, depth, isOpen, below: isFolder(row) ? row.pages : countBelow(children) });
      if (isOpen === true) show(children, depth + 1);
    }
  };
  show(foldIntoFolders(buildTree(rows), null), 0);
  return out;
}

/** Whatever has to be open for a row to be seen, from the outermost in. */
export function listAbove(rows: readonly TreeEntry[], id: string): string[] {
  const way = (nodes: readonly Node[]): string[] | undefined => {
    for (const { row, children } of nodes) {
      if (row.id === id) return [];
      const rest = way(children);
      if (rest) return [row.id, ...rest];
    }
    return undefined;
  };
  return way(foldIntoFolders(buildTree(rows), null)) ?? [];
}

function buildTree(rows: readonly TreeEntry[]): Node[] {
  const top: Node[] = [];
  const way: Node[] = [];
  for (const row of rows) {
    const node: Node = { row, children: [] };
    way.length = Math.min(way.length, row.depth);
    (way.at(-1)?.children ?? top).push(node);
    way.push(node);
  }
  return top;
}

function foldIntoFolders(nodes: readonly Node[], parent: TreeEntry | null): Node[] {
  const parentFolder = parent === null ? '/' : parent.address.replace(/[^/]*$/, '');
  const out: Node[] = [];
  for (let from = 0; from < nodes.length;) {
    const folder = readFolder(nodes[from]);
    let to = from + 1;
    while (to < nodes.length && readFolder(nodes[to]) === folder) to += 1;
    const run = nodes.slice(from, to).map(({ row, children }): Node => ({
      row,
      children: isFolder(row) ? children : foldIntoFolders(children, row),
    }));
    if (folder !== undefined && folder !== parentFolder && run.length >= LEAST_IN_FOLDER) {
      const row: FolderRow = {
        folder: true,
        id: say('folding.folder', { id: parent?.id ?? '', folder }),
        address: folder,
        depth: run[0] && !isFolder(run[0].row) ? run[0].row.depth : 0,
        parent: parent?.id ?? null,
        pages: run.length + countBelow(run.flatMap(({ children }) => children)),
      };
      out.push({ row, children: run });
    } else out.push(...run);
    from = to;
  }
  return out;
}

/** `/articles/` of `/articles/a.html` and of `/articles/a/`; only pages are in one. */
function readFolder(node: Node | undefined): string | undefined {
  if (!node || isFolder(node.row) || node.row.kind !== 'page') return undefined;
  return node.row.address.replace(/[^/]*\/?$/, '');
}

const countBelow = (nodes: readonly Node[]): number =>
  nodes.reduce((sum, { children }) => sum + 1 + countBelow(children), 0);
