/** What a page's change says to people who publish, and which kind of change it is. */
import type { PageChange } from './pageChange.ts';
import { change, type ChangeMessage } from './messages.ts';

export function describePageChange({ title, head, menuPlaces, textPlaces, linksChanged }: PageChange): ChangeMessage {
  const parts: ChangeMessage[] = [];
  if (title)
    parts.push(title.before === '' ? change('page-title-new', { title: title.after }) : change('page-title', title));
  if (head.length > 0) parts.push(change('page-head', { lines: head }));
  if (menuPlaces > 0) parts.push(change('page-menus', { places: menuPlaces }));
  if (textPlaces > 0) parts.push(change('page-text', { places: textPlaces }));
  if (linksChanged > 0) parts.push(change('page-links', { places: linksChanged }));
  const [only] = parts;
  if (!only) return change('page-source-only');
  return parts.length === 1 ? only : change('page', { parts });
}

/** Nothing but what machines and previews read. */
export function isHeadOnly({ title, head, menuPlaces, textPlaces, linksChanged }: PageChange): boolean {
  return head.length > 0 && !title && menuPlaces + textPlaces + linksChanged === 0;
}

/** Nothing but entries of menus. */
export function isMenuOnly({ title, head, menuPlaces, textPlaces, linksChanged }: PageChange): boolean {
  return menuPlaces > 0 && !title && head.length + textPlaces + linksChanged === 0;
}

/** Nothing but links that follow pages to their new addresses. */
export function isLinksOnly({ title, head, menuPlaces, textPlaces, linksChanged }: PageChange): boolean {
  return linksChanged > 0 && !title && head.length + menuPlaces + textPlaces === 0;
}
