/** How removals and put-backs change a draft while a history is added up. */
import type { MenuItem } from '../menus/index.ts';
import type { DraftMenu, MutableDraft } from './draft.ts';
import type { Folding } from './folding.ts';
import { changeHome, setHome, takeBackHome } from './home.ts';
import { sortPatterns } from './patternOrder.ts';
import { keySection, type PutBack, type Removal, type Removed, type Swept } from './removal.ts';

export function remove(draft: MutableDraft, folding: Folding, decision: Removed, seq: number): void {
  const { thing, atMs, why, standIn, links } = decision;
  const removal: Removal = { seq, thing, atMs, why, standIn, links, left: [], redirects: [], held: undefined };
  switch (thing.kind) {
    case 'nodes': {
      const left = thing.nodes.filter((node) => !draft.removed.has(node));
      for (const node of left) draft.removed.set(node, seq);
      if (decision.home) folding.homeChanges.set(seq, changeHome(draft, decision.home, folding.homeReturns));
      draft.removals.set(seq, { ...removal, left });
      return;
    }
    case 'section': {
      const sections = new Map(draft.removedSections.get(thing.page));
      const key = keySection(thing.section);
      if (!sections.has(key))
        draft.removedSections.set(thing.page, sections.set(key, { section: thing.section, removal: seq }));
      break;
    }
    case 'file':
      if (!draft.removedFiles.has(thing.path)) draft.removedFiles.set(thing.path, seq);
      break;
    case 'menu-item':
      if (!decision.menu) break;
      if (!draft.menus.has(thing.menu))
        folding.undecidedMenus.set(
          thing.menu,
          JSON.stringify(unmarkItems(decision.menu.items, (removed) => removed === seq)),
        );
      draft.menus.set(thing.menu, decision.menu);
      break;
    case 'redirects': {
      const redirects = thing.froms.flatMap((from) => {
        const redirect = draft.redirects.get(from);
        return redirect ? [{ redirect, settledIn: draft.settledIn.get(from) ?? seq }] : [];
      });
      for (const { redirect } of redirects) {
        draft.redirects.delete(redirect.from);
        draft.settledIn.delete(redirect.from);
      }
      const patterns = thing.patterns.flatMap((id) => {
        const pattern = draft.patterns.get(id);
        return pattern ? [[id, pattern] as const] : [];
      });
      for (const [id, pattern] of patterns) {
        draft.patterns.delete(id);
        draft.removedPatterns.set(id, { pattern, removal: seq });
      }
      draft.removals.set(seq, { ...removal, redirects });
      return;
    }
  }
  draft.removals.set(seq, removal);
}

export function putBack(draft: MutableDraft, folding: Folding, { things, home }: PutBack): void {
  for (const { of: seq, nodes } of things) {
    const removal = draft.removals.get(seq);
    if (!removal) continue;
    const { thing } = removal;
    if (thing.kind === 'nodes') {
      const back = new Set(nodes ?? removal.left);
      for (const node of removal.left) if (back.has(node)) draft.removed.delete(node);
      const left = removal.left.filter((node) => !back.has(node));
      if (left.length > 0) draft.removals.set(seq, { ...removal, left });
      else draft.removals.delete(seq);
      const change = folding.homeChanges.get(seq);
      if (home && back.has(home.page) && !(change && takeBackHome(draft, change, folding.homeReturns)))
        setHome(draft, home, folding.homeReturns);
      continue;
    }
    if (thing.kind === 'section') putSectionBack(draft, thing.page, seq);
    if (thing.kind === 'file' && draft.removedFiles.get(thing.path) === seq) draft.removedFiles.delete(thing.path);
    if (thing.kind === 'redirects') putRedirectsBack(draft, folding, removal);
    draft.removals.delete(seq);
    if (thing.kind === 'menu-item') putItemBack(draft, folding, thing.menu, seq);
  }
}

function putSectionBack(draft: MutableDraft, page: string, seq: number): void {
  const sections = new Map([...(draft.removedSections.get(page) ?? [])].filter(([, { removal }]) => removal !== seq));
  if (sections.size === 0) draft.removedSections.delete(page);
  else draft.removedSections.set(page, sections);
}

/** Those settled otherwise meanwhile stay as they are. */
function putRedirectsBack(draft: MutableDraft, folding: Folding, { seq, redirects }: Removal): void {
  for (const { redirect, settledIn } of redirects) {
    if (draft.redirects.has(redirect.from)) continue;
    draft.redirects.set(redirect.from, redirect);
    draft.settledIn.set(redirect.from, settledIn);
  }
  for (const [id, { pattern, removal }] of [...draft.removedPatterns]) {
    if (removal !== seq) continue;
    draft.removedPatterns.delete(id);
    draft.patterns.set(id, pattern);
  }
  sortPatterns(draft, folding);
}

function putItemBack(draft: MutableDraft, folding: Folding, id: string, removal: number): void {
  const menu = draft.menus.get(id);
  if (!menu) return;
  const items = unmarkItems(menu.items, (removed) => removed === removal);
  if (!menu.whereItDiffers && folding.undecidedMenus.get(id) === JSON.stringify(items)) draft.menus.delete(id);
  else draft.menus.set(id, { ...menu, items });
}

/** A menu's items with some that were removed in it again. */
function unmarkItems(items: readonly MenuItem[], isBack: (removed: number) => boolean): MenuItem[] {
  return items.map(({ removed, ...item }) => ({
    ...item,
    children: unmarkItems(item.children, isBack),
    ...(removed === undefined || isBack(removed) ? {} : { removed }),
  }));
}

/** A menu may speak of removals that are no more, since decisions before it can be undone: such items stand again, and swept ones go. */
export function settleMenus(draft: MutableDraft, { swept }: Folding): void {
  for (const [id, menu] of draft.menus) {
    if (!speaksOfRemovals(menu.items)) continue;
    draft.menus.set(id, {
      ...menu,
      items: unmarkItems(without(menu.items, swept), (removed) => !draft.removals.has(removed)),
    } satisfies DraftMenu);
  }
}

function speaksOfRemovals(items: readonly MenuItem[]): boolean {
  return items.some(({ removed, children }) => removed !== undefined || speaksOfRemovals(children));
}

function without(items: readonly MenuItem[], swept: ReadonlySet<number>): MenuItem[] {
  return items.flatMap((item) =>
    item.removed !== undefined && swept.has(item.removed) ? [] : [{ ...item, children: without(item.children, swept) }],
  );
}

export function hold(draft: MutableDraft, removals: readonly number[], held: Removal['held']): void {
  for (const seq of removals) {
    const removal = draft.removals.get(seq);
    if (removal) draft.removals.set(seq, { ...removal, held });
  }
}

/** What is swept stays out and cannot be put back; its place is still reckoned with. */
export function sweep(draft: MutableDraft, folding: Folding, { of: removals, stood }: Swept): void {
  for (const seq of removals) {
    if (!draft.removals.delete(seq)) continue;
    folding.swept.add(seq);
    for (const [id, { removal }] of [...draft.removedPatterns]) {
      if (removal !== seq) continue;
      draft.removedPatterns.delete(id);
      folding.patternOrder.delete(id);
    }
  }
  for (const [page, address] of Object.entries(stood)) draft.stood.set(page, address);
}
