/** The draft: what the decisions add up to, over the files as they were imported. */
import { addressOfFile } from '../address/index.ts';
import type { Redirect } from '../redirects/index.ts';
import { activeDecisions, type Decision, type PageId, type RecordedDecision } from './decisions.ts';

export interface Draft {
  /** Titles set here; every other page keeps the one in its source. */
  readonly titles: ReadonlyMap<PageId, string>;
  /** Addresses that differ from the one the page's file gives it. */
  readonly addresses: ReadonlyMap<PageId, string>;
  /** The page chosen as home; undefined while the imported front page is it. */
  readonly home: PageId | undefined;
  /** By the normal form of the old address. */
  readonly redirects: ReadonlyMap<string, Redirect>;
  /** The path the whole site is published under, `/museum`; empty at the root. */
  readonly basePath: string;
  /** Where it stood before; what was found there redirects. */
  readonly formerBasePaths: ReadonlySet<string>;
}

interface MutableDraft {
  titles: Map<PageId, string>;
  addresses: Map<PageId, string>;
  home: PageId | undefined;
  redirects: Map<string, Redirect>;
  basePath: string;
  formerBasePaths: Set<string>;
}

const fresh = (): MutableDraft => ({ titles: new Map(), addresses: new Map(), home: undefined, redirects: new Map(), basePath: '', formerBasePaths: new Set() });

export const emptyDraft: Draft = fresh();

/** Adds up a history. The same history gives the same draft, on whatever machine. */
export function foldDecisions(history: readonly RecordedDecision[]): Draft {
  const draft = fresh();
  for (const { decision } of activeDecisions(history)) apply(draft, decision);
  return draft;
}

function apply(draft: MutableDraft, decision: Decision): void {
  switch (decision.kind) {
    case 'title':
      draft.titles.set(decision.page, decision.title);
      return;
    case 'home':
      // Each home decision stands alone, so that undoing an earlier one cannot leave two pages at "/".
      if (draft.home !== undefined) draft.addresses.delete(draft.home);
      draft.home = decision.page;
      if (decision.importedHome?.page === decision.page) {
        draft.addresses.delete(decision.page);
        return;
      }
      draft.addresses.set(decision.page, '/');
      if (decision.importedHome) draft.addresses.set(decision.importedHome.page, decision.importedHome.address);
      return;
    case 'redirect':
      draft.redirects.set(decision.redirect.from, decision.redirect);
      return;
    case 'redirect-removed':
      draft.redirects.delete(decision.from);
      return;
    case 'base-path':
      draft.formerBasePaths.add(draft.basePath);
      draft.formerBasePaths.delete(decision.path);
      draft.basePath = decision.path;
      return;
    case 'undo':
      return;
  }
}

/** A page as the draft needs to know it. */
export interface PageFile {
  readonly id: PageId;
  /** The imported file's path, `visit/index.html`. */
  readonly sourcePath: string;
}

/** Where a page answers in the draft, the path the site is under included. */
export function draftAddress(draft: Draft, page: PageFile): string {
  return draft.basePath + siteAddress(draft, page);
}

/** The same inside the site, as if it stood at the root. */
export function siteAddress(draft: Draft, page: PageFile): string {
  return draft.addresses.get(page.id) ?? addressOfFile(page.sourcePath);
}

/** What a change of the draft touches; everything else stays as it was compiled. */
export interface Affected {
  /** Pages whose own output may differ. */
  readonly pages: ReadonlySet<PageId>;
  /** Pages whose address differs; whoever links to them is affected too. */
  readonly moved: ReadonlySet<PageId>;
}

export function affectedBetween(before: Draft, after: Draft): Affected {
  const moved = differingKeys(before.addresses, after.addresses);
  const pages = differingKeys(before.titles, after.titles);
  for (const id of moved) pages.add(id);
  return { pages, moved };
}

function differingKeys<V>(before: ReadonlyMap<string, V>, after: ReadonlyMap<string, V>): Set<string> {
  const out = new Set<string>();
  for (const [key, value] of before) if (after.get(key) !== value) out.add(key);
  for (const key of after.keys()) if (!before.has(key)) out.add(key);
  return out;
}
