/** A section as its page will be published: what it is called there, and what is in it. */
import { parsePage, labelSection, collectText, type PageDocument, type findSections } from '@fastigium/core/html';
import { compileSpan, type PagePlan, type SharedPlan } from '@fastigium/core/release';

type Section = ReturnType<typeof findSections>[number];

/** Words of a section without a heading that name it. */
const MOST_WORDS = 6;

/**
 * Its source between its ends as it will be published, also where it is taken out; undefined where something around it
 * went.
 */
export function readSectionSource(
  plan: PagePlan,
  shared: SharedPlan,
  document: PageDocument,
  span: { readonly start: number; readonly end: number },
): string | undefined {
  return compileSpan({ ...plan, sectionsOut: [] }, shared, document, span);
}

const BLOCKS =
  /<\/?(?:p|div|h[1-6]|li|dt|dd|td|th|tr|br|hr|section|article|figure|figcaption|blockquote|pre|table|ul|ol|dl)\b/gi;

/** A part of a page's source as visitors read it, with a space between blocks. */
export function readText(source: string): string {
  return collectText(parsePage(Buffer.from(source.replace(BLOCKS, ' $&'))).root);
}

/** A section is known by what its source calls it, and called what the page will call it. */
export function readSectionLabel(
  plan: PagePlan,
  shared: SharedPlan,
  document: PageDocument,
  { name, start, end, heading }: Section,
): string {
  const now = readSectionSource(plan, shared, document, heading ?? { start, end });
  if (now === undefined || now === document.source.text.slice(start, end)) return name;
  const label = labelSection(now);
  return (heading ? label : label.split(' ').slice(0, MOST_WORDS).join(' ')) || name;
}
