/** Suggestions from a page's own words; they stay suggestions until somebody takes them. */
import { COMMON_LIMITS, countLetters } from './titleWidth.ts';

/** A description from the first paragraph: whole sentences as far as they fit, else whole words. Empty where there is nothing to say. */
export function suggestDescription(lead: string, limitLetters: number = COMMON_LIMITS.descriptionLetters): string {
  const text = lead.replace(/\s+/g, ' ').trim();
  if (countLetters(text) <= limitLetters) return text;
  let out = '';
  for (const [sentence] of text.matchAll(/[^.!?…]+[.!?…]+["'”’)\]]*\s*|[^.!?…]+$/g)) {
    if (countLetters(out + sentence.trimEnd()) > limitLetters) break;
    out += sentence;
  }
  // A first sentence that is too long is cut at a word, and says so.
  if (out.trim() !== '') return out.trim();
  const start = [...text].slice(0, limitLetters - 1).join('');
  return `${start.slice(0, Math.max(start.lastIndexOf(' '), 1)).replace(/[\s,;:–—-]+$/, '')}…`;
}

/** A title from the first heading; empty where the page has one that differs from nothing. */
export function suggestTitle(heading: string): string {
  return heading.replace(/\s+/g, ' ').trim();
}
