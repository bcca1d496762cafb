/** Changes in words, for people who publish. */
import type { PageChange } from './pageChange.ts';

export function pageChangeInWords(change: PageChange): string {
  const parts: string[] = [];
  if (change.title) {
    const { before, after } = change.title;
    parts.push(before === '' ? `gets the title “${after}”` : `title “${before}” becomes “${after}”`);
  }
  if (change.head.length > 0) parts.push(`in the head: ${change.head.join(', ')}`);
  if (change.menuPlaces > 0) parts.push(`menu in ${places(change.menuPlaces)}`);
  if (change.textPlaces > 0) parts.push(`text in ${places(change.textPlaces)}`);
  if (change.linksChanged > 0) parts.push(`links in ${places(change.linksChanged)}`);
  return parts.length === 0 ? 'source only, nothing a visitor sees' : parts.join('; ');
}

function places(count: number): string {
  return count === 1 ? '1 place' : `${count} places`;
}
