/** A draft's word on who may visit, as a host applies it. */
import { type AccessRule, type SiteAccess } from '../access/index.ts';
import { findDraftAddress, isOut, type Draft, type PageFile } from '../site/index.ts';
import { findPublishedPath } from './plan.ts';

/**
 * @param pages every page that who may visit is said for, removed ones too: what lies below them stays as closed as it was; and the one shown instead
 * @param filesOf paths of the files that a published page loads
 */
export function compileAccess(
  draft: Draft,
  pages: ReadonlyMap<string, PageFile>,
  filesOf: (path: string) => readonly string[],
): SiteAccess {
  const rules: AccessRule[] = [...draft.entries].flatMap(([place, entry]) => {
    if (place === null) return [{ branch: '/', entry }];
    const page = pages.get(place);
    return page ? [{ branch: findDraftAddress(draft, page), entry }] : [];
  });
  const shown = draft.shownInstead === undefined ? undefined : pages.get(draft.shownInstead);
  const isThere = shown && !draft.notReady.has(shown.id) && !isOut(draft, shown.id);
  const path = isThere ? findPublishedPath(draft, shown) : undefined;
  return {
    rules: rules.sort((a, b) => (a.branch < b.branch ? -1 : 1)),
    ...(path === undefined ? {} : { instead: { page: path, files: [...filesOf(path)].sort() } }),
    ...(draft.lastDay === undefined ? {} : { lastDay: draft.lastDay }),
  };
}
