/** What a change of the draft touches; everything else stays as it was compiled. */
import type { PageId } from './pageId.ts';
import type { Draft } from './draft.ts';
import { findStandIn } from './standIn.ts';

export interface Affected {
  /** Pages whose own output may differ. */
  readonly pages: ReadonlySet<PageId>;
  /** Pages whose address differs, or that come or go; whoever links to them is affected too. */
  readonly moved: ReadonlySet<PageId>;
  /** Touches that come or go, by their numbers; the pages they stand on are known to whoever keeps an index of them. */
  readonly touches: ReadonlySet<number>;
  /** Whether anything was set for heads; which pages it reaches, only their effective heads tell. */
  readonly head: boolean;
  /** Menus that are written differently. */
  readonly menus: ReadonlySet<string>;
  /** Files that are no pages and come or go; whoever links to them is affected too. By path in the site. */
  readonly files: ReadonlySet<string>;
  /** Whether any page is held back or left out of menus that was not before, or the other way round. */
  readonly shown: ReadonlySet<PageId>;
}

export function findAffected(before: Draft, after: Draft): Affected {
  const moved = findDifferingKeys(before.addresses, after.addresses);
  const pages = findDifferingKeys(before.titles, after.titles);
  const notReady = findDifferingMembers(before.notReady, after.notReady);
  for (const id of findDifferingKeys(before.nodes, after.nodes)) moved.add(id);
  for (const id of notReady) moved.add(id);
  for (const id of findDifferingKeys(before.sources, after.sources)) pages.add(id);
  for (const id of findDifferingKeys(before.removed, after.removed)) moved.add(id);
  for (const id of findDifferingKeys(before.listings, after.listings)) pages.add(id);
  for (const id of findDifferingKeys(before.removedSections, after.removedSections)) pages.add(id);
  const files = findDifferingKeys(before.removedFiles, after.removedFiles);
  for (const thing of findLedElsewhere(before, after, moved)) (thing.isFile ? files : moved).add(thing.key);
  for (const id of moved) pages.add(id);
  return {
    pages,
    moved,
    files,
    touches: findDifferingKeys(before.touches, after.touches),
    head: findDifferingKeys(before.head, after.head).size > 0 || hasDifferingIcons(before, after),
    menus: findDifferingKeys(before.menus, after.menus),
    shown: new Set([...notReady, ...findDifferingMembers(before.hidden, after.hidden)]),
  };
}

/** No icons are an array of their own in each draft. */
export function hasDifferingIcons(before: Draft, after: Draft): boolean {
  return before.icons !== after.icons && before.icons.length + after.icons.length > 0;
}

function findDifferingKeys<K, V>(before: ReadonlyMap<K, V>, after: ReadonlyMap<K, V>): Set<K> {
  const out = new Set<K>();
  for (const [key, value] of before) if (after.get(key) !== value) out.add(key);
  for (const key of after.keys()) if (!before.has(key)) out.add(key);
  return out;
}

function findDifferingMembers<V>(before: ReadonlySet<V>, after: ReadonlySet<V>): Set<V> {
  return new Set([...before, ...after].filter((member) => before.has(member) !== after.has(member)));
}

/** What is removed and whose links are led straight on to a page that stands in: they are written anew where it moves, or another one stands in. */
function* findLedElsewhere(
  before: Draft,
  after: Draft,
  moved: ReadonlySet<PageId>,
): Generator<{ readonly key: string; readonly isFile: boolean }> {
  for (const removal of after.removals.values()) {
    if (removal.links !== 'lead-on') continue;
    const [was, now] = [
      before.removals.has(removal.seq) ? findStandIn(before, removal) : undefined,
      findStandIn(after, removal),
    ];
    if (was && JSON.stringify(was) === JSON.stringify(now) && !(now.kind === 'page' && moved.has(now.page))) continue;
    const { thing, left } = removal;
    for (const key of left) yield { key, isFile: false };
    if (thing.kind === 'file') yield { key: thing.path, isFile: true };
  }
}
