/**
 * Lists of links in a page, whatever their markup: what may be a menu if other pages have it too. A menu may be
 * a list, a definition list, cells of a table, boxes with a link each, or links side by side between separators;
 * its current item is marked by `aria-current` (WAI-ARIA 1.2, section 6.6), by a class, or by being no link
 * (common practice).
 */
import { isUnder } from '../address/index.ts';
import {
  readAttribute,
  walkElements,
  findFirstElement,
  isHtml,
  findMainElement,
  findParent,
  type Element,
  type PageDocument,
} from '../html/index.ts';
import { LinkLists, LEAST_ITEMS, type MenuNode } from './linkLists.ts';
import { findCurrentMark, isMarked } from './mark.ts';
import type { FoundMenu } from './menu.ts';

export interface MenuPlace extends FoundMenu {
  /** The box it stands in; with links side by side there may be more in it. */
  readonly list: Element;
  readonly items: readonly MenuNode[];
}

/** A page that has more lists of links than this is an index of something. */
const MOST_LISTS = 150;

const NONE: ReadonlySet<string> = new Set();

/**
 * @param address of the page, as its source says it stands
 * @param pointed ways to lists that somebody said are menus, wherever they stand
 */
export function findMenus(document: PageDocument, address: string, pointed: ReadonlySet<string> = NONE): MenuPlace[] {
  const lists = new LinkLists(document, address);
  const main = findMainElement(document);
  const content = main !== undefined && main.tagName !== 'body' ? main : undefined;
  const base = findFirstElement(document, 'base');
  const baseTarget = base && readAttribute(base, 'target');
  const out: MenuPlace[] = [];
  const places = new Map<Element, Standing>();
  for (const element of walkElements(document.root)) {
    if (out.length >= MOST_LISTS) break;
    if (!isHtml(element)) continue;
    const above = findParent(element);
    const standing = judgeStanding(element, (above && places.get(above)) ?? NOWHERE);
    places.set(element, standing);
    if (lists.linksIn(element) < LEAST_ITEMS) continue;
    const isPointed = pointed.size > 0 && pointed.has(describeWay(element));
    // Where a page says what its content is, lists in there are content, but for those in a landmark of their own.
    if (!isPointed && (standing.isTaken || (standing.isContent && !standing.isNavigation))) continue;
    for (const items of lists.groupsIn(element)) {
      if (!isPointed && items.every(({ to }) => to === '') && !standing.isBeside) continue;
      for (const { holder } of items) if (holder) places.set(holder, { ...standing, isTaken: true });
      if (ITSELF.has(element.tagName)) places.set(element, { ...standing, isTaken: true });
      const opensFrame = areForAFrame(items, baseTarget);
      out.push({ ...placeOf(element, items, address, standing.isBeside), ...(opensFrame ? { opensFrame } : {}) });
    }
    if (element === content) places.set(element, { ...standing, isContent: true });
  }
  return out;
}

/** Whether all links open in one and the same other frame, by its name (HTML 4.01, section 16.3.2: names begin with a letter). */
function areForAFrame(items: readonly MenuNode[], baseTarget: string | undefined): boolean {
  const targets = new Set(items.map(({ link }) => (link && readAttribute(link, 'target')) ?? baseTarget ?? ''));
  const [target = ''] = targets;
  return items.length >= LEAST_ITEMS && targets.size === 1 && /^[a-z]/i.test(target);
}

function placeOf(list: Element, items: readonly MenuNode[], address: string, isBeside: boolean): MenuPlace {
  const mark = findCurrentMark(items);
  const marked = items.map((item) => ({ ...item, isCurrent: isMarked(item, mark) }));
  const current = marked.find(({ isCurrent }) => isCurrent);
  const marksBranch =
    current !== undefined && current.to !== '' && current.to !== address && isUnder(address, current.to);
  return { way: describeWay(list), list, items: marked, mark, isBeside, marksBranch };
}

/**
 * The list of links around a place of the source, wherever it stands; of lists in each other the whole.
 *
 * @param offset of a link's start tag in the decoded text, UTF-16 units
 * @returns undefined where no links stand side by side there
 */
export function findMenuAt(document: PageDocument, address: string, offset: number): MenuPlace | undefined {
  const lists = new LinkLists(document, address);
  const start = [...walkElements(document.root)].find(
    (element) => isHtml(element) && element.sourceCodeLocation?.startOffset === offset,
  );
  let found: { list: Element; items: readonly MenuNode[] } | undefined;
  for (let at: Element | undefined = start; at; at = findParent(at)) {
    const items = lists.groupsIn(at).find((group) => group.some((item) => holds(item, offset)));
    if (!items) continue;
    // A wider list counts where the one found so far is what stands below one of its items.
    const isWhole = found === undefined || items.some(({ list }) => list !== undefined && list === found?.list);
    if (isWhole) found = { list: at, items };
  }
  return found && placeOf(found.list, found.items, address, true);
}

const holds = ({ span }: MenuNode, offset: number): boolean =>
  span !== undefined && span.start <= offset && offset < span.end;

/** What is known of an element by what it stands in. */
interface Standing {
  readonly isTaken: boolean;
  readonly isContent: boolean;
  readonly isNavigation: boolean;
  readonly isBeside: boolean;
}

const NOWHERE: Standing = { isTaken: false, isContent: false, isNavigation: false, isBeside: false };

function judgeStanding(element: Element, above: Standing): Standing {
  const isNavigation =
    above.isNavigation || element.tagName === 'nav' || readAttribute(element, 'role') === 'navigation';
  const isBeside = above.isBeside || isForTheWay(element);
  // Asked of every element, and seldom other than above.
  return isNavigation === above.isNavigation && isBeside === above.isBeside
    ? above
    : { ...above, isNavigation, isBeside };
}

/** These are a list as a whole; other boxes may have a menu among other things. */
const ITSELF = new Set(['ul', 'ol', 'menu', 'dir', 'dl', 'table']);
const LANDMARKS = new Set(['nav', 'header', 'footer', 'aside']);
const LANDMARK_ROLES = new Set(['navigation', 'banner', 'contentinfo', 'complementary', 'menubar']);
/** Names that boxes for the way have (common practice). */
const NAMED =
  /(^|[\s_-])(nav|navi|navbar|navigation|menu|mainmenu|submenu|sidebar|topbar|toolbar|tabs|breadcrumbs?)([\s_-]|$)/i;

function isForTheWay(element: Element): boolean {
  if (LANDMARKS.has(element.tagName)) return true;
  return element.attrs.some(({ name, value }) =>
    name === 'role' ? LANDMARK_ROLES.has(value) : (name === 'id' || name === 'class') && NAMED.test(value),
  );
}

function describeWay(element: Element): string {
  const steps: string[] = [];
  for (
    let at: Element | undefined = element;
    at && at.tagName !== 'body' && at.tagName !== 'html';
    at = findParent(at)
  ) {
    const id = readAttribute(at, 'id');
    const className = readAttribute(at, 'class')?.trim().split(/\s+/)[0];
    steps.unshift(at.tagName + (id ? `#${id}` : className ? `.${className}` : ''));
  }
  return steps.join(' > ') || 'body';
}
