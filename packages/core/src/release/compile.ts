/** A draft's page and rules as they are published. */
import { addressOfFile, fileOfAddress } from '../address/index.ts';
import { linkEdits, parsePage, splice, titleEdit, type Edit } from '../html/index.ts';
import type { RedirectTarget, Rule } from '../redirects/index.ts';
import { draftAddress, siteAddress, spellings, type Draft, type PageFile } from '../site/index.ts';
import { underBase } from './basePath.ts';

export interface CompiledPage {
  /** Path of the published file. */
  readonly path: string;
  /** The source's own bytes, the very same array, where nothing about the page changed. */
  readonly bytes: Uint8Array;
  readonly encoding: string;
}

/** Where the page's file is published; known without reading it. */
export function publishedPath(draft: Draft, page: PageFile): string {
  const address = draft.addresses.get(page.id);
  return underBase(draft.basePath, address === undefined ? page.sourcePath : (fileOfAddress(address) ?? page.sourcePath));
}

/** @param movedTo see `LinkMoves.movedTo`, for this draft and its base path: {@link movedUnder}. */
export function compilePage(
  draft: Draft,
  page: PageFile,
  bytes: Uint8Array,
  movedTo: (path: string) => string | undefined,
): CompiledPage {
  const document = parsePage(bytes);
  const edits: Edit[] = linkEdits(document, {
    before: addressOfFile(page.sourcePath),
    after: draftAddress(draft, page),
    movedTo,
  });
  const title = draft.titles.get(page.id);
  if (title !== undefined) edits.push(titleEdit(document, title));
  return {
    path: publishedPath(draft, page),
    bytes: splice(bytes, document.source, edits),
    encoding: document.source.encoding,
  };
}

export interface CompiledRules {
  readonly rules: readonly Rule[];
  /** Redirects whose page is no longer there; they are left out and have to be settled again. */
  readonly withoutTarget: readonly string[];
}

/**
 * All rules of a draft: those decided, and for each page that moved one from its old address, unless
 * a person decided otherwise for that address.
 *
 * @param pages every page that a redirect lands on or that moved, and all of them where the site itself
 *   stood elsewhere before; others may be left out.
 */
export function compileRules(draft: Draft, pages: ReadonlyMap<string, PageFile>): CompiledRules {
  const rules = new Map<string, Rule>();
  const withoutTarget: string[] = [];
  for (const id of draft.addresses.keys()) {
    const page = pages.get(id);
    if (page === undefined) continue;
    const from = addressOfFile(page.sourcePath);
    const to = draftAddress(draft, page);
    // The old front page's "/" is the new home's now.
    if (from !== siteAddress(draft, page) && from !== '/') rules.set(draft.basePath + from, { from: draft.basePath + from, status: 301, to });
  }
  for (const rule of baseRules(draft, [...pages.values()])) if (!rules.has(rule.from)) rules.set(rule.from, rule);
  for (const redirect of draft.redirects.values()) {
    const { from, status } = redirect;
    if (status === 410) {
      rules.set(from, { from, status });
      continue;
    }
    const to = targetAddress(draft, redirect.target, pages);
    if (to === undefined) withoutTarget.push(from);
    else rules.set(from, { from, status, to });
  }
  return { rules: [...rules.values()], withoutTarget };
}

/** From where the site stood before to where it stands now, page by page; and from the bare root to a site under a path. */
function* baseRules(draft: Draft, pages: readonly PageFile[]): Generator<Rule> {
  for (const former of draft.formerBasePaths) {
    for (const page of pages) {
      const to = draftAddress(draft, page);
      // However the file may have been asked for: with its name, or without the last slash.
      for (const inside of new Set([siteAddress(draft, page), ...spellings(page.sourcePath)])) {
        // The front page that was replaced as home no longer owns "/".
        if ((inside === '/' || inside.startsWith('/index.htm')) && siteAddress(draft, page) !== '/') continue;
        if (former + inside !== to) yield { from: former + inside, status: 301, to };
      }
    }
  }
  // For now only: another site may stand at the root one day.
  if (draft.basePath !== '') yield { from: '/', status: 302, to: `${draft.basePath}/` };
}

function targetAddress(
  draft: Draft,
  target: RedirectTarget,
  pages: ReadonlyMap<string, PageFile>,
): string | undefined {
  if (target.kind === 'address') return target.address;
  if (target.kind === 'url') return target.url;
  const page = pages.get(target.page);
  return page && draftAddress(draft, page);
}
