import { decodePath } from '../../address/index.ts';
import type { Check, Finding } from '../check.ts';
import type { PageFacts } from '../facts.ts';

/** Where an address ends up in the draft, redirects followed; undefined where nothing answers. */
export type Landing = (address: string) => { readonly file: string } | 'elsewhere' | undefined;

export const deadLink: Check = {
  code: 'link-dead',
  severity: 'should',
  source: 'RFC 9110, section 15.5.5',
};

export const deadAnchor: Check = {
  code: 'anchor-dead',
  severity: 'should',
  source: 'HTML standard, section 7.4.6.3',
};

export function* findDeadLinks(page: PageFacts, landing: Landing): Generator<Finding> {
  for (const { href, to, start, end } of page.links) if (landing(to) === undefined) yield { detail: href, start, end };
}

/** @param idsOf what fragments can lead to in a page's file; undefined for files that are no pages */
export function* findDeadAnchors(
  page: PageFacts,
  landing: Landing,
  idsOf: (file: string) => ReadonlySet<string> | undefined,
): Generator<Finding> {
  for (const { href, to, fragment, element, start, end } of page.links) {
    // "" and "top" lead to the top of any page; text fragments to words in it.
    if (
      fragment === undefined ||
      fragment === '' ||
      fragment.toLowerCase() === 'top' ||
      fragment.startsWith(':~:') ||
      (element !== 'a' && element !== 'area')
    )
      continue;
    const there = landing(to);
    const ids = there !== undefined && there !== 'elsewhere' ? idsOf(there.file) : undefined;
    if (ids && !ids.has(fragment) && !ids.has(decodePath(fragment) ?? fragment)) yield { detail: href, start, end };
  }
}
