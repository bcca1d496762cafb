/** A draft's redirects as the rules a host applies. */
import { encodeFragment, findAddressOfFile, writeInStyle } from '../address/index.ts';
import { isOver, type Redirect, type RedirectTarget, type Rule, type RuleOptions } from '../redirects/index.ts';
import {
  findDraftAddress,
  isAdded,
  isOut,
  findReleasedAddress,
  findSiteAddress,
  listSpellings,
  findStandInAddress,
  findStandIn,
  type Draft,
  type PageFile,
  type Released,
  type Removal,
} from '../site/index.ts';
import { placeUnderBase } from './basePath.ts';
import { findPublishedPath } from './plan.ts';

export interface CompiledRules {
  readonly rules: readonly Rule[];
  /** Redirects whose page is no longer there; they are left out and have to be settled again. */
  readonly withoutTarget: readonly string[];
}

/** What visitors were answered at. */
export interface Answered {
  /** Where each release had its pages; addresses between two releases were nobody's. */
  readonly released: readonly Released[];
  /** Paths inside the site of files that are no pages; asked for only where the site stood at the root before and does not now. */
  readonly files: readonly string[];
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
export function compileRules(
  draft: Draft,
  pages: ReadonlyMap<string, PageFile>,
  today: string,
  answered?: Answered,
): CompiledRules {
  const rules = new Map<string, Rule>();
  const withoutTarget: string[] = [];
  const shown = [...pages.values()].filter(({ id }) => !draft.notReady.has(id) && !isOut(draft, id));
  const owned = new Set(shown.map((page) => findDraftAddress(draft, page)));
  for (const page of shown) {
    const to = findDraftAddress(draft, page);
    for (const from of listAddressesBefore(draft, page, answered)) {
      // The old front page's "/" is the new home's now; and a live page always answers itself.
      if (!isFrontOf(from, draft, answered) && from !== to && !owned.has(from))
        rules.set(from, { from, status: 301, to });
    }
    // Known to the old site's visitors by these, wherever the new one stands.
    for (const from of draft.crawledFrom.get(page.id) ?? []) {
      if (from !== '/' && from !== to && !owned.has(from)) rules.set(from, { from, status: 301, to });
    }
    for (const rule of answerRules(draft, page, to)) rules.set(rule.from, rule);
  }
  for (const [from, path] of draft.crawledFiles) {
    const to = draft.basePath + findAddressOfFile(path);
    if (from !== to && !owned.has(from) && !rules.has(from)) rules.set(from, { from, status: 301, to });
  }
  for (const rule of compileBaseRules(draft, shown, answered)) if (!rules.has(rule.from)) rules.set(rule.from, rule);
  for (const rule of compileStandInRules(draft, pages, draft.removals.values(), answered))
    if (!rules.has(rule.from) && !owned.has(rule.from)) rules.set(rule.from, rule);
  for (const redirect of draft.redirects.values()) {
    if (isOver(redirect, today)) continue;
    const { from, status } = redirect;
    const options = readOptions(redirect);
    if (status === 410) {
      rules.set(from, { from, status, ...options });
      continue;
    }
    const to = findTargetAddress(draft, redirect.target, pages);
    if (to === undefined) withoutTarget.push(from);
    else rules.set(from, { from, status, to, ...options });
  }
  const patterns = [...draft.patterns.values()]
    .filter((pattern) => !isOver(pattern, today))
    .map((pattern): Rule => {
      const { text, status, target } = pattern;
      return {
        from: text,
        status,
        ...(target === undefined ? {} : { to: target }),
        isPattern: true,
        ...readOptions(pattern),
      };
    });
  // Behind all that somebody decided: what stood under another path is found under this one.
  const prefixes = compilePrefixRules(draft, answered).filter(
    ({ from }) => !patterns.some((pattern) => pattern.from === from),
  );
  const exact = [...rules.values()]
    .filter((rule) => !isByPrefix(rule, prefixes))
    .sort((a, b) => (a.from < b.from ? -1 : 1));
  return { rules: [...exact, ...patterns, ...prefixes], withoutTarget };
}

/** From every address of what is removed to what stands in for it. */
export function* compileStandInRules(
  draft: Draft,
  pages: ReadonlyMap<string, PageFile>,
  removals: Iterable<Removal> = draft.removals.values(),
  answered?: Answered,
): Generator<Rule> {
  for (const removal of removals) {
    const inside = findStandInAddress(draft, removal, pages);
    const to = inside === undefined ? undefined : draft.basePath + inside;
    if (to === undefined && findStandIn(draft, removal).kind !== 'gone') continue;
    for (const from of listAddressesAway(draft, removal, pages, answered)) {
      if (to === undefined) yield { from, status: 410 };
      else if (from !== to) yield { from, status: 301, to };
    }
  }
}

/** The same as decisions of their own, for what is removed for good: its addresses go on leading where they lead. */
export function listStandInRedirects(
  draft: Draft,
  removals: readonly Removal[],
  pages: ReadonlyMap<string, PageFile>,
  answered?: Answered,
): Redirect[] {
  return removals.flatMap((removal) => {
    const standsIn = findStandIn(draft, removal);
    const target: RedirectTarget | undefined =
      standsIn.kind === 'page' ? standsIn : standsIn.kind === 'home' ? standsIn : undefined;
    const froms = [...compileStandInRules(draft, pages, [removal], answered)].map(({ from }) => from);
    return froms.map((from): Redirect => (target ? { from, status: 301, target } : { from, status: 410 }));
  });
}

function listAddressesAway(
  draft: Draft,
  { thing, left }: Removal,
  pages: ReadonlyMap<string, PageFile>,
  answered: Answered | undefined,
): string[] {
  if (thing.kind === 'file') return [findAddressOfFile(placeUnderBase(draft.basePath, thing.path))];
  return left.flatMap((id) => {
    const page = pages.get(id);
    if (!page) return [];
    const addresses = [findDraftAddress(draft, page), ...listAddressesBefore(draft, page, answered)].filter(
      (address) => !isFrontOf(address, draft, answered),
    );
    return [...addresses, ...(draft.crawledFrom.get(id) ?? [])];
  });
}

function readOptions({ dropsQuery, ignoreCase, anySlash }: RuleOptions): RuleOptions {
  return {
    ...(dropsQuery ? { dropsQuery } : {}),
    ...(ignoreCase ? { ignoreCase } : {}),
    ...(anySlash ? { anySlash } : {}),
  };
}

/** Every address inside the site that the page had, in every style the site had. */
function listFormerAddresses(draft: Draft, page: PageFile): Set<string> {
  const imported = isAdded(draft, page.id) ? [] : [findAddressOfFile(page.sourcePath)];
  const plain = [
    ...imported,
    ...(draft.formerAddresses.get(page.id) ?? []),
    ...(draft.addresses.has(page.id) || draft.formerStyles.size > 0 ? [draft.addresses.get(page.id) ?? ''] : []),
  ];
  const styles = [draft.style, ...draft.formerStyles];
  const out = new Set(imported);
  for (const address of plain) if (address !== '') for (const style of styles) out.add(writeInStyle(address, style));
  out.delete(findSiteAddress(draft, page));
  return out;
}

/** Every whole address the page was answered at; without knowing what was released, all it ever had. */
function listAddressesBefore(draft: Draft, page: PageFile, answered: Answered | undefined): Set<string> {
  const out = new Set<string>();
  if (!answered) {
    for (const inside of listFormerAddresses(draft, page)) out.add(draft.basePath + inside);
    return out;
  }
  const isAddedHere = isAdded(draft, page.id);
  // A finished site often takes the place of an older one with the same addresses, so those of its files count.
  if (!isAddedHere)
    for (const inside of [findAddressOfFile(page.sourcePath), ...(draft.exportAddresses.get(page.id) ?? [])])
      out.add(draft.basePath + inside);
  for (const release of answered.released) {
    const address = findReleasedAddress(release, page, isAddedHere);
    if (address !== undefined) out.add(address);
  }
  out.delete(findDraftAddress(draft, page));
  return out;
}

/** Whether an address is the front of the site, here or where a release had it. */
function isFrontOf(address: string, draft: Draft, answered: Answered | undefined): boolean {
  return (
    address === `${draft.basePath}/` || (answered?.released.some(({ basePath }) => address === `${basePath}/`) ?? false)
  );
}

/** Paths the site was published under before. */
function listBasesBefore(draft: Draft, answered: Answered | undefined): Set<string> {
  const bases = new Set(answered ? answered.released.map(({ basePath }) => basePath) : draft.formerBasePaths);
  bases.delete(draft.basePath);
  return bases;
}

/** One rule for all that stood under another path; none for the root, which everything stands under, nor where the two lie in each other. */
function compilePrefixRules(draft: Draft, answered: Answered | undefined): Rule[] {
  if (!answered) return [];
  return [...listBasesBefore(draft, answered)]
    .filter((base) => hasPrefixRule(base, draft.basePath))
    .map((base): Rule => ({ from: `${base}/*`, status: 301, to: `${draft.basePath}/:0`, isPattern: true }));
}

function hasPrefixRule(base: string, now: string): boolean {
  return base !== '' && !`${now}/`.startsWith(`${base}/`);
}

/** Whether a rule says no more than one of a prefix does. */
function isByPrefix({ from, to, status, ...options }: Rule, prefixes: readonly Rule[]): boolean {
  if (status !== 301 || Object.keys(options).length > 0) return false;
  return prefixes.some((prefix) => {
    const base = prefix.from.slice(0, -1);
    return from.startsWith(base) && to === (prefix.to ?? '').replace(':0', from.slice(base.length));
  });
}

/** `/about` answered by the file `about.html`; asked for by the file's own name, a visitor is sent on. */
function answerRules(draft: Draft, page: PageFile, to: string): Rule[] {
  if (draft.style !== 'bare' || to.endsWith('/')) return [];
  const file = findAddressOfFile(findPublishedPath(draft, page));
  return file === to
    ? []
    : [
        { from: to, status: 200, to: file },
        { from: file, status: 301, to },
      ];
}

/** From where the site stood before to where it stands now, page by page and file by file; and from the bare root to a site under a path. */
function* compileBaseRules(draft: Draft, pages: readonly PageFile[], answered: Answered | undefined): Generator<Rule> {
  for (const former of listBasesBefore(draft, answered)) {
    for (const page of pages) {
      const to = findDraftAddress(draft, page);
      // The front page that was replaced as home no longer owns "/".
      const isHome = findSiteAddress(draft, page) === '/';
      for (const inside of listInsideUnder(draft, page, former, answered)) {
        if ((inside === '/' || inside.startsWith('/index.htm')) && !isHome) continue;
        if (former + inside !== to) yield { from: former + inside, status: 301, to };
      }
    }
    for (const path of former === '' ? (answered?.files ?? []) : []) {
      const address = findAddressOfFile(path);
      yield { from: address, status: 301, to: draft.basePath + address };
    }
  }
  // For now only: another site may stand at the root one day.
  if (draft.basePath !== '') yield { from: '/', status: 302, to: `${draft.basePath}/` };
}

/** However a page may have been asked for under another path: with its file's name, or without the last slash. */
function listInsideUnder(draft: Draft, page: PageFile, base: string, answered: Answered | undefined): Set<string> {
  const imported = isAdded(draft, page.id) ? [] : listSpellings(page.sourcePath);
  if (!answered) return new Set([findSiteAddress(draft, page), ...listFormerAddresses(draft, page), ...imported]);
  const out = new Set<string>();
  for (const release of answered.released) {
    const address = release.basePath === base ? findReleasedAddress(release, page, isAdded(draft, page.id)) : undefined;
    if (address === undefined) continue;
    const inside = address.slice(base.length);
    if (hasPrefixRule(base, draft.basePath)) {
      // Other spellings are found by the rule for all, and sent on from there as ever.
      out.add(inside);
      continue;
    }
    for (const spelling of inside === findAddressOfFile(page.sourcePath) ? imported : [inside]) out.add(spelling);
    if (inside !== '/' && inside.endsWith('/')) out.add(inside.slice(0, -1));
  }
  return out;
}

function findTargetAddress(
  draft: Draft,
  target: RedirectTarget,
  pages: ReadonlyMap<string, PageFile>,
): string | undefined {
  if (target.kind === 'home') return `${draft.basePath}/`;
  if (target.kind === 'address') return target.address;
  if (target.kind === 'url') return target.url;
  const page = pages.get(target.page);
  return page && !draft.notReady.has(page.id) && !isOut(draft, page.id)
    ? findDraftAddress(draft, page) + (target.fragment === undefined ? '' : encodeFragment(target.fragment))
    : undefined;
}
