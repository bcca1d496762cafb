/**
 * Menus in a page: lists of links outside the main content. That a menu is a list in a landmark or
 * beside the content, and marks its current item by `aria-current`, a class or by not being a link, is
 * common practice; `aria-current` is WAI-ARIA 1.2, section 6.6.
 */
import { isUnder, resolveHref, formatAddress } from '../address/index.ts';
import { attribute, baseHref, elements, isHtml, mainElement, parentOf, textOf, type Element, type PageDocument } from '../html/index.ts';
import type { CurrentMark, FoundItem, FoundMenu } from './menu.ts';

/** An item with the elements it consists of. */
export interface MenuNode extends FoundItem {
  /** What is repeated for each item: `<li>`, or the link itself where links stand side by side. */
  readonly holder: Element;
  readonly link: Element;
  readonly children: readonly MenuNode[];
}

export interface MenuPlace extends FoundMenu {
  readonly list: Element;
  readonly items: readonly MenuNode[];
}

const LEAST_ITEMS = 2;

/** @param address of the page, as its source says it stands */
export function menusIn(document: PageDocument, address: string): MenuPlace[] {
  const main = mainElement(document);
  const hasMain = main !== undefined && main.tagName !== 'body';
  const base = baseHref(document);
  const resolve = (href: string): string | undefined => {
    const to = resolveHref(href, address, base);
    return to.kind === 'inside' ? formatAddress(to.address) : to.kind === 'outside' ? to.url : undefined;
  };
  const out: MenuPlace[] = [];
  const ways = new Map<string, number>();
  const taken = new Set<Element>();
  for (const element of elements(document.root)) {
    if (!isHtml(element) || !LISTS.has(element.tagName) || isInside(element, taken)) continue;
    const inMain = hasMain && (element === main || isInside(element, new Set([main])));
    if (inMain && !isInside(element, NAVS)) continue;
    const items = element.tagName === 'ul' || element.tagName === 'ol' ? listItems(element, resolve) : linkItems(element, resolve);
    if (items.length < LEAST_ITEMS) continue;
    // A list of a page without landmarks may be anything; one in a landmark, or beside the content, is there for the way.
    if (!hasMain && !isInside(element, LANDMARKS)) continue;
    taken.add(element);
    const way = wayOf(element);
    const nth = ways.get(way) ?? 0;
    ways.set(way, nth + 1);
    const mark = currentMark(items);
    const marked = items.map((item) => ({ ...item, isCurrent: isMarked(item, mark) }));
    const current = marked.find(({ isCurrent }) => isCurrent);
    out.push({
      way: nth === 0 ? way : `${way} (${nth + 1})`, list: element, items: marked, mark,
      marksBranch: current !== undefined && current.to !== address && isUnder(address, current.to),
    });
  }
  return out;
}

const LISTS = new Set(['ul', 'ol', 'nav', 'div', 'p']);
const isLandmark = ({ tagName }: Element) => tagName === 'nav' || tagName === 'header' || tagName === 'footer' || tagName === 'aside';
const LANDMARKS = { has: isLandmark };
const NAVS = { has: ({ tagName }: Element) => tagName === 'nav' };

function isInside(element: Element, these: { has(element: Element): boolean }): boolean {
  for (let at = parentOf(element); at; at = parentOf(at)) if (these.has(at)) return true;
  return false;
}

type Resolve = (href: string) => string | undefined;

function listItems(list: Element, resolve: Resolve): MenuNode[] {
  return children(list).flatMap((holder) => {
    if (holder.tagName !== 'li') return [];
    const link = linkOf(holder);
    const to = link && resolve(attribute(link, 'href') ?? '');
    if (!link || to === undefined) return [];
    const nested = [...elements(holder)].find(({ tagName }) => tagName === 'ul' || tagName === 'ol');
    return [{ to, label: textOf(link), newWindow: attribute(link, 'target') === '_blank', isCurrent: false, children: nested ? listItems(nested, resolve) : [], holder, link }];
  });
}

/** Links side by side, with nothing but them in the box. */
function linkItems(box: Element, resolve: Resolve): MenuNode[] {
  const inside = children(box);
  if (inside.some(({ tagName }) => tagName !== 'a' && tagName !== 'br' && tagName !== 'span')) return [];
  return inside.flatMap((link) => {
    const href = link.tagName === 'a' ? attribute(link, 'href') : undefined;
    const to = href === undefined ? undefined : resolve(href);
    return to === undefined ? [] : [{ to, label: textOf(link), newWindow: attribute(link, 'target') === '_blank', isCurrent: false, children: [], holder: link, link }];
  });
}

function children(element: Element): Element[] {
  return element.childNodes.filter((node): node is Element => 'tagName' in node);
}

/** The item's own link, which stands before any list inside it. */
function linkOf(holder: Element): Element | undefined {
  for (const element of elements(holder)) {
    if (element === holder) continue;
    if (element.tagName === 'ul' || element.tagName === 'ol') return undefined;
    if (element.tagName === 'a' && attribute(element, 'href') !== undefined) return element;
  }
  return undefined;
}

function wayOf(element: Element): string {
  const steps: string[] = [];
  for (let at: Element | undefined = element; at && at.tagName !== 'body' && at.tagName !== 'html'; at = parentOf(at)) {
    const id = attribute(at, 'id');
    const className = attribute(at, 'class')?.trim().split(/\s+/)[0];
    steps.unshift(at.tagName + (id ? `#${id}` : className ? `.${className}` : ''));
  }
  return steps.join(' > ');
}

const CURRENT_CLASS = /^(is-)?(current|active|selected|here)([-_].*)?$|(^|[-_])(current|active|selected)$/i;
const classes = (element: Element) => (attribute(element, 'class') ?? '').split(/\s+/).filter((name) => name !== '');

/** What one item has that the others do not. */
function currentMark(items: readonly MenuNode[]): CurrentMark | undefined {
  for (const { link } of items) {
    const value = attribute(link, 'aria-current');
    if (value !== undefined) return { kind: 'attribute', name: 'aria-current', value };
  }
  for (const on of ['link', 'holder'] as const) {
    const names = items.map((item) => classes(item[on]));
    const odd = names.flat().find((name) => CURRENT_CLASS.test(name) && names.filter((each) => each.includes(name)).length === 1);
    if (odd !== undefined) return { kind: 'class', name: odd, on: on === 'link' ? 'link' : 'item' };
  }
  return undefined;
}

function isMarked({ link, holder }: MenuNode, mark: CurrentMark | undefined): boolean {
  if (!mark) return false;
  if (mark.kind === 'attribute') return attribute(link, mark.name) !== undefined;
  return classes(mark.on === 'link' ? link : holder).includes(mark.name);
}
