/** A draft's redirects as the rules a host applies. */
import { addressOfFile, inStyle } from '../address/index.ts';
import { isOver, type Redirect, type RedirectTarget, type Rule, type RuleOptions } from '../redirects/index.ts';
import { draftAddress, isAdded, isOut, siteAddress, spellings, standInAddress, standInOf, type Draft, type PageFile, type Removal } from '../site/index.ts';
import { underBase } from './basePath.ts';
import { publishedPath } from './plan.ts';

export interface CompiledRules {
  readonly rules: readonly Rule[];
  /** Redirects whose page is no longer there; they are left out and have to be settled again. */
  readonly withoutTarget: readonly string[];
}

/**
 * All rules of a draft: those decided, for each page that moved or was crawled one from every address it had, and for
 * what is removed one to whatever stands in for it, unless a person decided otherwise for that address. Exact
 * addresses come in their own order, so that the same decisions in another order make the same rules.
 *
 * @param pages every page that a redirect lands on, that moved, is removed or stands in for one, and all of them where the site itself
 *   stood elsewhere or in another address style before; others may be left out.
 * @param today `2026-11-25`: what has run out by then is left out
 */
export function compileRules(draft: Draft, pages: ReadonlyMap<string, PageFile>, today: string): CompiledRules {
  const rules = new Map<string, Rule>();
  const withoutTarget: string[] = [];
  const shown = [...pages.values()].filter(({ id }) => !draft.notReady.has(id) && !isOut(draft, id));
  const owned = new Set(shown.map((page) => draftAddress(draft, page)));
  for (const page of shown) {
    const to = draftAddress(draft, page);
    for (const inside of formerAddresses(draft, page)) {
      const from = draft.basePath + inside;
      // The old front page's "/" is the new home's now; and a live page always answers itself.
      if (inside !== '/' && from !== to && !owned.has(from)) rules.set(from, { from, status: 301, to });
    }
    // Known to the old site's visitors by these, wherever the new one stands.
    for (const from of draft.crawledFrom.get(page.id) ?? []) {
      if (from !== '/' && from !== to && !owned.has(from)) rules.set(from, { from, status: 301, to });
    }
    for (const rule of answerRules(draft, page, to)) rules.set(rule.from, rule);
  }
  for (const [from, path] of draft.crawledFiles) {
    const to = draft.basePath + addressOfFile(path);
    if (from !== to && !owned.has(from) && !rules.has(from)) rules.set(from, { from, status: 301, to });
  }
  for (const rule of baseRules(draft, shown)) if (!rules.has(rule.from)) rules.set(rule.from, rule);
  for (const rule of standInRules(draft, pages)) if (!rules.has(rule.from) && !owned.has(rule.from)) rules.set(rule.from, rule);
  for (const redirect of draft.redirects.values()) {
    if (isOver(redirect, today)) continue;
    const { from, status } = redirect;
    const options = optionsOf(redirect);
    if (status === 410) {
      rules.set(from, { from, status, ...options });
      continue;
    }
    const to = targetAddress(draft, redirect.target, pages);
    if (to === undefined) withoutTarget.push(from);
    else rules.set(from, { from, status, to, ...options });
  }
  const patterns = [...draft.patterns.values()].filter((pattern) => !isOver(pattern, today)).map((pattern): Rule => {
    const { text, status, target } = pattern;
    return { from: text, status, ...(target === undefined ? {} : { to: target }), isPattern: true, ...optionsOf(pattern) };
  });
  return { rules: [...[...rules.values()].sort((a, b) => (a.from < b.from ? -1 : 1)), ...patterns], withoutTarget };
}

/** From every address of what is removed to what stands in for it. */
export function* standInRules(draft: Draft, pages: ReadonlyMap<string, PageFile>, removals: Iterable<Removal> = draft.removals.values()): Generator<Rule> {
  for (const removal of removals) {
    const inside = standInAddress(draft, removal, pages);
    const to = inside === undefined ? undefined : draft.basePath + inside;
    if (to === undefined && standInOf(draft, removal).kind !== 'gone') continue;
    for (const from of addressesAway(draft, removal, pages)) {
      if (to === undefined) yield { from, status: 410 };
      else if (from !== to) yield { from, status: 301, to };
    }
  }
}

/** The same as decisions of their own, for what is removed for good: its addresses go on leading where they lead. */
export function standInRedirects(draft: Draft, removals: readonly Removal[], pages: ReadonlyMap<string, PageFile>): Redirect[] {
  return removals.flatMap((removal) => {
    const standsIn = standInOf(draft, removal);
    const target: RedirectTarget | undefined = standsIn.kind === 'page' ? standsIn : standsIn.kind === 'home' ? standsIn : undefined;
    const froms = [...standInRules(draft, pages, [removal])].map(({ from }) => from);
    return froms.map((from): Redirect => (target ? { from, status: 301, target } : { from, status: 410 }));
  });
}

function addressesAway(draft: Draft, { thing, left }: Removal, pages: ReadonlyMap<string, PageFile>): string[] {
  if (thing.kind === 'file') return [addressOfFile(underBase(draft.basePath, thing.path))];
  return left.flatMap((id) => {
    const page = pages.get(id);
    if (!page) return [];
    const inside = [siteAddress(draft, page), ...formerAddresses(draft, page)].filter((address) => address !== '/');
    return [...inside.map((address) => draft.basePath + address), ...(draft.crawledFrom.get(id) ?? [])];
  });
}

function optionsOf({ dropsQuery, ignoreCase, anySlash }: RuleOptions): RuleOptions {
  return { ...(dropsQuery ? { dropsQuery } : {}), ...(ignoreCase ? { ignoreCase } : {}), ...(anySlash ? { anySlash } : {}) };
}

/** Every address inside the site that the page had, in every style the site had. */
function formerAddresses(draft: Draft, page: PageFile): Set<string> {
  const imported = isAdded(draft, page.id) ? [] : [addressOfFile(page.sourcePath)];
  const plain = [...imported, ...(draft.formerAddresses.get(page.id) ?? []), ...(draft.addresses.has(page.id) || draft.formerStyles.size > 0 ? [draft.addresses.get(page.id) ?? ''] : [])];
  const styles = [draft.style, ...draft.formerStyles];
  const out = new Set(imported);
  for (const address of plain) if (address !== '') for (const style of styles) out.add(inStyle(address, style));
  out.delete(siteAddress(draft, page));
  return out;
}

/** `/about` answered by the file `about.html`; asked for by the file's own name, a visitor is sent on. */
function answerRules(draft: Draft, page: PageFile, to: string): Rule[] {
  if (draft.style !== 'bare' || to.endsWith('/')) return [];
  const file = addressOfFile(publishedPath(draft, page));
  return file === to ? [] : [{ from: to, status: 200, to: file }, { from: file, status: 301, to }];
}

/** From where the site stood before to where it stands now, page by page; and from the bare root to a site under a path. */
function* baseRules(draft: Draft, pages: readonly PageFile[]): Generator<Rule> {
  for (const former of draft.formerBasePaths) {
    for (const page of pages) {
      const to = draftAddress(draft, page);
      const own = siteAddress(draft, page);
      // However the file may have been asked for: with its name, or without the last slash.
      for (const inside of new Set([own, ...formerAddresses(draft, page), ...(isAdded(draft, page.id) ? [] : spellings(page.sourcePath))])) {
        // The front page that was replaced as home no longer owns "/".
        if ((inside === '/' || inside.startsWith('/index.htm')) && own !== '/') continue;
        if (former + inside !== to) yield { from: former + inside, status: 301, to };
      }
    }
  }
  // For now only: another site may stand at the root one day.
  if (draft.basePath !== '') yield { from: '/', status: 302, to: `${draft.basePath}/` };
}

function targetAddress(draft: Draft, target: RedirectTarget, pages: ReadonlyMap<string, PageFile>): string | undefined {
  if (target.kind === 'home') return `${draft.basePath}/`;
  if (target.kind === 'address') return target.address;
  if (target.kind === 'url') return target.url;
  const page = pages.get(target.page);
  return page && !draft.notReady.has(page.id) && !isOut(draft, page.id) ? draftAddress(draft, page) + (target.fragment === undefined ? '' : `#${target.fragment}`) : undefined;
}
