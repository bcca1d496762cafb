/** All checks of one page, in one parse. */
import { isTooDeep, createMatcher, readSheet, type Matcher, type StyleRule } from '../css/index.ts';
import { readAttribute, walkElements, isHtml, parsePage, type Element } from '../html/index.ts';
import { resolveHref } from '../address/index.ts';
import type { PictureSize } from '../picture/index.ts';
import type { CheckedPage, Finding } from './check.ts';
import { gatherPageFacts, type PageFacts } from './facts.ts';
import { snag, createCheckTitle, type CheckMessage } from './messages.ts';
import { uncheckedPage } from './page/unchecked.ts';
import { PAGE_CHECKS } from './page/index.ts';

export interface PageToCheck {
  readonly path: string;
  readonly address: string;
  readonly bytes: Uint8Array;
}

export interface CheckedResult {
  readonly facts: PageFacts;
  readonly findings: readonly { readonly code: string; readonly finding: Finding }[];
}

/** What pages of one site have in common while they are checked: sheets are read once. */
export interface CheckSurroundings {
  /** Text of a style sheet of the site by its address path. */
  readonly sheetAt: (path: string) => string | undefined;
  readonly pictureAt: (path: string) => PictureSize | undefined;
  /** See CheckedPage. */
  readonly ownNames?: readonly string[];
}

/** Enough for every site that is one; a page of a thousand faults is told about in its first. */
const MOST_FINDINGS = 50;

export function checkPage(
  { path, address, bytes }: PageToCheck,
  surroundings: CheckSurroundings,
  sheets: SheetCache = new SheetCache(),
): CheckedResult {
  const page = readCheckedPage({ path, address, bytes }, surroundings, sheets);
  const unchecked: CheckMessage[] = [];
  const findings = PAGE_CHECKS.flatMap(({ code, find }) => {
    const out: { code: string; finding: Finding }[] = [];
    try {
      for (const finding of find(page)) {
        if (out.length >= MOST_FINDINGS) break;
        out.push({ code, finding });
      }
    } catch (error) {
      // Out of stack: what stands in one another thousands of times is nobody's page.
      if (!(error instanceof RangeError)) throw error;
      unchecked.push(createCheckTitle(code));
    }
    return out;
  });
  if (unchecked.length > 0) {
    findings.push({ code: uncheckedPage.code, finding: { detail: snag('nested', { checks: unchecked }) } });
  }
  return { facts: gatherPageFacts(page), findings };
}

export function readCheckedPage(
  { path, address, bytes }: PageToCheck,
  { sheetAt, pictureAt, ownNames = [] }: CheckSurroundings,
  sheets: SheetCache = new SheetCache(),
): CheckedPage {
  const document = parsePage(bytes);
  const all = [...walkElements(document.root)];
  let matcher: Matcher | undefined;
  return {
    path,
    address,
    document,
    ownNames,
    elements: all,
    pictureAt,
    styles: () => (matcher ??= sheets.matcher(all, address, sheetAt)),
  };
}

/** Style sheets read, and matchers for the sets of them that pages use: most pages of a site use the same. */
export class SheetCache {
  private readonly rules = new Map<string, readonly StyleRule[]>();
  private readonly matchers = new Map<string, Matcher>();

  matcher(all: readonly Element[], address: string, sheetAt: (path: string) => string | undefined): Matcher {
    const texts: string[] = [];
    for (const element of all) {
      if (!isHtml(element)) continue;
      if (element.tagName === 'style' && holdsOnScreen(readAttribute(element, 'media'))) {
        texts.push(element.childNodes.map((node) => ('value' in node ? node.value : '')).join(''));
      } else if (
        element.tagName === 'link' &&
        /(^|\s)stylesheet(\s|$)/i.test(readAttribute(element, 'rel') ?? '') &&
        holdsOnScreen(readAttribute(element, 'media'))
      ) {
        const to = resolveHref(readAttribute(element, 'href') ?? '', address);
        if (to.kind === 'inside') texts.push(...withImports(to.address.path, sheetAt));
      }
    }
    const key = texts.join('\u0000');
    let matcher = this.matchers.get(key);
    if (!matcher)
      this.matchers.set(
        key,
        (matcher = createMatcher(
          texts.flatMap((text) => this.read(text)),
          texts.some(isTooDeep),
        )),
      );
    return matcher;
  }

  private read(text: string): readonly StyleRule[] {
    let rules = this.rules.get(text);
    if (!rules) this.rules.set(text, (rules = readSheet(text)));
    return rules;
  }
}

function holdsOnScreen(media: string | undefined): boolean {
  return media === undefined || /^\s*$|\b(all|screen)\b/i.test(media) || !/\b(print|speech)\b/i.test(media);
}

/** A sheet with those it imports before it (CSS Cascade 5, section 2). */
function withImports(path: string, sheetAt: (path: string) => string | undefined, seen = new Set<string>()): string[] {
  if (seen.has(path) || seen.size > 20) return [];
  seen.add(path);
  const text = sheetAt(path);
  if (text === undefined) return [];
  const imported = [...text.matchAll(/@import\s+(?:url\(\s*)?["']?([^"')\s;]+)["']?\s*\)?/g)].flatMap(
    ([, href = '']) => {
      const to = resolveHref(href, path);
      return to.kind === 'inside' ? withImports(to.address.path, sheetAt, seen) : [];
    },
  );
  return [...imported, text];
}
