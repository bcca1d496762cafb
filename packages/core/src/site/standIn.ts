/** What answers for something that is removed. */
import type { Draft } from './draft.ts';
import type { PageId } from './pageId.ts';
import type { Removal, StandIn } from './removal.ts';

/** Where visitors of a removed thing's address are led: to a page that stands, to home, to 410, or nowhere. */
export type StandsIn = StandIn;

/**
 * A page that stands in may be removed itself; then whatever stands in for that one does. Undone decisions
 * can make two pages stand in for each other; then nobody does.
 */
export function findStandIn(draft: Draft, removal: Pick<Removal, 'standIn'>): StandsIn {
  const passed = new Set<PageId>();
  let { standIn } = removal;
  while (standIn.kind === 'page' && draft.removed.has(standIn.page)) {
    if (passed.has(standIn.page)) return { kind: 'none' };
    passed.add(standIn.page);
    const next = draft.removals.get(draft.removed.get(standIn.page) ?? 0);
    if (!next) return { kind: 'none' };
    standIn = next.standIn;
  }
  return standIn;
}
