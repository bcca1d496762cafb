/** How a menu marks the item of the page one is on. */
import { readAttribute, type Element } from '../html/index.ts';
import type { MenuNode } from './linkLists.ts';
import type { CurrentMark } from './menu.ts';

/** Names of classes for it (common practice). */
const CURRENT_CLASS = /^(is-)?(current|active|selected|here)([-_].*)?$|(^|[-_])(current|active|selected)$/i;

const readClasses = (element: Element | undefined): string[] =>
  (element ? (readAttribute(element, 'class') ?? '') : '').split(/\s+/).filter((name) => name !== '');

/** What one item has that the others do not; undefined where the page is in none of them. */
export function findCurrentMark(items: readonly MenuNode[]): CurrentMark | undefined {
  for (const { link } of items) {
    const value = link && readAttribute(link, 'aria-current');
    if (value !== undefined) return { kind: 'attribute', name: 'aria-current', value };
  }
  for (const on of ['link', 'holder'] as const) {
    const names = items.map((item) => readClasses(item[on]));
    const odd = names
      .flat()
      .find((name) => CURRENT_CLASS.test(name) && names.filter((each) => each.includes(name)).length === 1);
    if (odd !== undefined) return { kind: 'class', name: odd, on: on === 'link' ? 'link' : 'item' };
  }
  return undefined;
}

export function isMarked({ link, holder }: MenuNode, mark: CurrentMark | undefined): boolean {
  if (!mark || mark.kind === 'words') return false;
  if (mark.kind === 'attribute') return link !== undefined && readAttribute(link, mark.name) !== undefined;
  return readClasses(mark.on === 'link' ? link : holder).includes(mark.name);
}
