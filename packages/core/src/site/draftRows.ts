/** The tree of a draft: its pages, and the groups and outside links between them. */
import { isOut, findSiteAddress, type Draft, type PageFile } from './draft.ts';
import { reckonTreeRows, withoutNodes, type TreeNode, type TreeRow } from './tree.ts';

export interface DraftNode<P> extends TreeNode {
  /** Undefined for a group, an outside link, and a page that was removed for good. */
  readonly file: P | undefined;
}

/**
 * Rows in tree order, removed ones in their places.
 *
 * @param pages every page of the draft, the removed ones too: the others keep their order by them
 */
export function reckonDraftRows<P extends PageFile>(draft: Draft, pages: Iterable<P>): TreeRow<DraftNode<P>>[] {
  const nodes: DraftNode<P>[] = [];
  const known = new Set<string>();
  for (const file of pages) {
    known.add(file.id);
    nodes.push({ id: file.id, address: findSiteAddress(draft, file), file });
  }
  for (const { id, kind } of draft.nodes.values())
    if (kind !== 'page') nodes.push({ id, address: undefined, file: undefined });
  for (const [id, address] of draft.stood)
    if (!known.has(id)) nodes.push({ id, address: address === '' ? undefined : address, file: undefined });
  return reckonTreeRows(nodes, draft.places);
}

/** The same without what is removed. */
export function reckonStandingRows<P extends PageFile>(draft: Draft, pages: Iterable<P>): TreeRow<DraftNode<P>>[] {
  return withoutNodes(reckonDraftRows(draft, pages), (id) => isOut(draft, id));
}
