/** Boxes whose children repeat: the lists of links in a page, read item by item. */
import { formatAddress, resolveHref } from '../address/index.ts';
import {
  readAttribute,
  readBaseHref,
  walkElements,
  fold,
  findParent,
  findPartWithin,
  collectText,
  type Element,
  type PageDocument,
} from '../html/index.ts';
import { keyItem, plainTarget, type FoundItem } from './menu.ts';
import {
  BOXES,
  EDGES,
  GAPS,
  HAS_SEPARATOR,
  INLINE,
  LISTS,
  MOST_WORDS_LETTERS,
  SPLIT,
  UNSEEN,
  listChildElements,
  findFirstLink,
  hasControl,
  findHeadWords,
  isBefore,
  isEmpty,
  isLink,
  isSeparator,
  isShort,
  isWithin,
  joinSpans,
  readLinkLabel,
  countLettersBeside,
  findLongest,
  findNearestTable,
  findOwnTag,
  shiftSpan,
  readSpan,
  readShortText,
  type ChildNode,
  type Span,
} from './shapes.ts';

/** An item with where it stands. */
export interface MenuNode extends FoundItem {
  /** Undefined where the page was parsed without positions. */
  readonly span: Span | undefined;
  /** What is repeated for each item: `<li>`, a cell, a box, the link itself; undefined for bare words. */
  readonly holder: Element | undefined;
  /** Undefined where it is no link. */
  readonly link: Element | undefined;
  /** What its words stand in: the link, a button, the holder. */
  readonly face: Element | undefined;
  /** What holds the items below it. */
  readonly list: Element | undefined;
  readonly children: readonly MenuNode[];
}

export const LEAST_ITEMS = 2;
/** A longer list is an index. */
const MOST_ITEMS = 400;
/** Menus are three levels deep; what lies deeper is an index too. */
const MOST_LEVELS = 4;
/** More is a text with a link in it. */
const MOST_LABEL_LETTERS = 80;
const MOST_LETTERS_BESIDE = 24;
/** Boxes in an item that are looked at for the list it heads. */
const MOST_TRIES = 8;

type Token =
  | {
      readonly kind: 'item';
      readonly node: MenuNode;
      readonly shape: string;
      /** Bare words count only between separators. */ readonly isBare: boolean;
    }
  | { readonly kind: 'separator'; readonly isStrong: boolean }
  | { readonly kind: 'other'; readonly isText: boolean };

/** Words, or a button with nothing below it: what a menu may have beside its links. */
const isWordsOnly = ({ form, link, children }: MenuNode): boolean =>
  form === 'words' || (link === undefined && children.length === 0);

/** Whether items are a list of links: several that lead to different places, and few that are only words. */
function isList(items: readonly MenuNode[]): boolean {
  const links = items.filter((item) => !isWordsOnly(item));
  if (links.length < LEAST_ITEMS || items.length > MOST_ITEMS) return false;
  if (new Set(links.map(keyItem)).size < LEAST_ITEMS) return false;
  return items.length - links.length <= Math.max(1, links.length / 2);
}

/** Reads one page; what was read is remembered, since every box around a list asks for it. */
export class LinkLists {
  private readonly text: string;
  private readonly resolve: (href: string) => string | undefined;
  private readonly counts = new Map<Element, number>();
  private readonly kept = new Map<Element, readonly MenuNode[][]>();
  private readonly lists = new Map<Element, MenuNode[] | undefined>();
  private readonly labels = new Map<Element, string>();

  constructor(document: PageDocument, address: string) {
    this.text = document.source.text;
    const base = readBaseHref(document);
    const resolved = new Map<string, string | undefined>();
    const read = (href: string): string | undefined => {
      // The many references to places in the page itself need no reading.
      if (base === undefined && /^#[\w.-]/.test(href)) return address + href;
      // A link to nothing at all means the page itself, as good as none.
      if (base === undefined && href.trim() === '') return '';
      if (/^\s*(#!?|javascript:.*)\s*$/is.test(href)) return '';
      const to = resolveHref(href, address, base);
      if (to.kind === 'inside')
        return plainTarget(formatAddress(to.address) + (to.fragment === undefined ? '' : `#${to.fragment}`));
      if (to.kind === 'outside') return to.url;
      return to.kind === 'other' && /^(mailto|tel)$/.test(to.scheme) ? href.trim() : undefined;
    };
    this.resolve = (href) => {
      if (!resolved.has(href)) resolved.set(href, read(href));
      return resolved.get(href);
    };
    for (const element of walkElements(document.root)) {
      if (!isLink(element)) continue;
      for (let at: Element | undefined = element; at; at = findParent(at))
        this.counts.set(at, (this.counts.get(at) ?? 0) + 1);
    }
  }

  /** How many links stand in an element, itself counted. */
  linksIn(element: Element): number {
    return this.counts.get(element) ?? 0;
  }

  /** The lists of links an element is, or has among its children. */
  groupsIn(element: Element, level = 0): readonly MenuNode[][] {
    const known = this.kept.get(element);
    if (known) return known;
    if (level >= MOST_LEVELS) return [];
    const read = LISTS.has(element.tagName)
      ? [this.listItems(element, level)]
      : element.tagName === 'dl'
        ? [this.definitionItems(element, level)]
        : element.tagName === 'table'
          ? [this.cellItems(element, level)]
          : this.runs(element, level);
    const groups = read.filter((items): items is MenuNode[] => items !== undefined && isList(items));
    this.kept.set(element, groups);
    return groups;
  }

  /** Asked for by every box around a list, so it is remembered. */
  private listItems(list: Element, level: number): MenuNode[] | undefined {
    if (!this.lists.has(list)) this.lists.set(list, this.readList(list, level));
    return this.lists.get(list);
  }

  private readList(list: Element, level: number): MenuNode[] | undefined {
    const items: MenuNode[] = [];
    let others = 0;
    for (const child of listChildElements(list)) {
      if (child.tagName !== 'li') continue;
      const node = this.holderItem(child, level);
      if (node) items.push(node);
      else if (!isEmpty(child)) others += 1;
    }
    return others * 2 > items.length ? undefined : items;
  }

  /** A term that heads what its descriptions hold, or terms and descriptions with a link each. */
  private definitionItems(list: Element, level: number): MenuNode[] | undefined {
    const items: MenuNode[] = [];
    let others = 0;
    for (const child of listChildElements(list)) {
      if (child.tagName !== 'dt' && child.tagName !== 'dd') continue;
      const node = this.holderItem(child, level);
      const last = items.at(-1);
      const below =
        child.tagName === 'dd' && last?.holder?.tagName === 'dt' ? this.itemsBelow(child, node, level) : undefined;
      if (below && last)
        items[items.length - 1] = {
          ...last,
          list,
          children: [...last.children, ...below],
          span: joinSpans(last.span, readSpan(child)),
          form: last.form === 'words' ? 'head' : last.form,
        } as MenuNode;
      else if (node) items.push(node);
      else if (!isEmpty(child)) others += 1;
    }
    return others * 2 > items.length ? undefined : items;
  }

  private itemsBelow(holder: Element, node: MenuNode | undefined, level: number): readonly MenuNode[] | undefined {
    if (node && node.children.length === 0) return [node];
    for (const element of walkElements(holder)) {
      const [group, ...more] = element === holder ? [] : this.groupsIn(element, level + 1);
      if (group && more.length === 0) return group;
    }
    return undefined;
  }

  /** Cells with a link each, in one row or below each other; a table with texts or whole lists in its cells is none. */
  private cellItems(table: Element, level: number): MenuNode[] | undefined {
    const rows = [...walkElements(table)].filter(
      (element) => element.tagName === 'tr' && findNearestTable(element) === table,
    );
    const items: MenuNode[] = [];
    let others = 0;
    for (const row of rows) {
      const cells = listChildElements(row).filter(({ tagName }) => tagName === 'td' || tagName === 'th');
      const read = cells.map((cell) => ({ cell, node: this.holderItem(cell, level) }));
      for (const { cell, node } of read) if (!node && !isEmpty(cell)) others += 1;
      const found = read.flatMap(({ node }) => node ?? []);
      const [only] = found;
      // A row for each item is repeated with all it has.
      if (only && found.length === 1 && rows.length > 1) items.push({ ...only, holder: row, span: readSpan(row) });
      else items.push(...found);
    }
    const words = items.filter(isWordsOnly).length;
    return others > 0 || words > 1 + items.length / 3 ? undefined : items;
  }

  /** What a box holds as one item: a link and hardly anything else, a head with a list below it, or a few words. */
  private holderItem(holder: Element, level: number): MenuNode | undefined {
    const links = this.linksIn(holder);
    if (links === 0) return isEmpty(holder) || hasControl(holder) ? undefined : this.wordsItem(holder);
    if (links > MOST_ITEMS) return undefined;
    const first = findFirstLink(holder);
    if (links === 1 && first)
      return countLettersBeside(holder, [first]) <= MOST_LETTERS_BESIDE ? this.linkItem(holder, first) : undefined;
    // A long text with links in it is no item; a head with a long list below it may be.
    if (readShortText(holder) === undefined) return this.headItem(holder, level);
    const all = [...walkElements(holder)].filter(isLink);
    const places = new Set(all.map((link) => this.resolve(readAttribute(link, 'href') ?? '')));
    if (places.size === 1 && !places.has('') && first && countLettersBeside(holder, all) <= MOST_LETTERS_BESIDE)
      return this.linkItem(holder, findLongest(all) ?? first);
    return this.headItem(holder, level);
  }

  private headItem(holder: Element, level: number): MenuNode | undefined {
    if (INLINE.has(holder.tagName)) return undefined;
    const whole = this.linksIn(holder);
    let tries = 0;
    for (const element of walkElements(holder)) {
      if (element === holder || this.linksIn(element) < LEAST_ITEMS - 1) continue;
      if (
        !LISTS.has(element.tagName) &&
        (element.tagName === 'table' || this.linksIn(element) < LEAST_ITEMS || INLINE.has(element.tagName))
      )
        continue;
      if ((tries += 1) > MOST_TRIES) return undefined;
      const children = LISTS.has(element.tagName)
        ? this.listItems(element, level + 1)
        : this.groupsIn(element, level + 1)[0];
      if (!children || children.length === 0 || level + 1 >= MOST_LEVELS) continue;
      const heads = [...walkElements(holder)].filter(
        (each) => isLink(each) && !isWithin(each, element) && isBefore(holder, each, element),
      );
      const [head] = heads;
      if (heads.length > 1 && new Set(heads.map((link) => readAttribute(link, 'href'))).size > 1) return undefined;
      if (whole - this.linksIn(element) > heads.length) return undefined;
      if (head) {
        const item = this.linkItem(holder, head);
        return item && { ...item, list: element, children };
      }
      const face = findHeadWords(holder, element);
      if (!face) return undefined;
      return {
        ...this.common(holder, face.label),
        to: '',
        link: undefined,
        face: face.element,
        list: element,
        children,
        newWindow: false,
        form: 'head',
      };
    }
    return undefined;
  }

  private linkItem(holder: Element, link: Element): MenuNode | undefined {
    const to = this.resolve(readAttribute(link, 'href') ?? '');
    if (to === undefined) return undefined;
    const label = this.labelOf(link, to);
    if (label === '' || label.length > (to === '' ? MOST_WORDS_LETTERS : MOST_LABEL_LETTERS)) return undefined;
    // Written out, since there are more of them than of anything else.
    const node = {
      label,
      isCurrent: false,
      holder,
      span: readSpan(holder),
      to,
      link: link as Element | undefined,
      face: link,
      list: undefined,
      children: [],
      newWindow: readAttribute(link, 'target') === '_blank',
    };
    if (to !== '') return node;
    return { ...node, form: readAttribute(link, 'href')?.trim() === '' ? 'words' : 'head' };
  }

  /** Every box around a link reads it. */
  private labelOf(link: Element, to: string): string {
    let label = this.labels.get(link);
    if (label === undefined) this.labels.set(link, (label = readLinkLabel(link, to)));
    return label;
  }

  private wordsItem(holder: Element): MenuNode | undefined {
    const label = (readShortText(holder) ?? '').replace(EDGES, '');
    if (!isShort(label) || [...walkElements(holder)].some(({ tagName }) => /^h[1-3]$/.test(tagName))) return undefined;
    return {
      ...this.common(holder, label),
      to: '',
      link: undefined,
      face: holder,
      list: undefined,
      children: [],
      newWindow: false,
      form: holder.tagName === 'button' ? 'head' : 'words',
      ...findOwnTag(holder),
    };
  }

  private common(holder: Element, label: string) {
    return { label, isCurrent: false, holder, span: readSpan(holder) };
  }

  /** Links side by side, or boxes with one each, among the children of a box; anything else ends them. */
  private runs(box: Element, level: number): MenuNode[][] {
    // Below a head, titles and rules between links only part them.
    const isTitle = (node: ChildNode) =>
      level > 0 && /^h[1-6r]$/.test(node.nodeName) && 'tagName' in node && this.linksIn(node) === 0;
    const tokens = box.childNodes.flatMap((node): Token[] =>
      isTitle(node) ? [{ kind: 'separator', isStrong: false }] : [...this.tokens(node, level)],
    );
    const out: MenuNode[][] = [];
    let from = 0;
    for (let at = 0; at <= tokens.length; at += 1) {
      const token = tokens[at];
      const ends =
        token === undefined ||
        token.kind === 'other' ||
        (token.kind === 'item' && !isOfRun(tokens.slice(from, at), token, tokens, at));
      if (!ends) continue;
      const run = tokens.slice(from, at);
      const touchesText = isText(tokens[from - 1]) || isText(token);
      if (!touchesText || hasStrongSeparators(run))
        out.push(run.flatMap((each) => (each.kind === 'item' ? [each.node] : [])));
      from = token?.kind === 'item' && !token.isBare ? at : at + 1;
    }
    return out;
  }

  private *tokens(node: ChildNode, level: number): Generator<Token> {
    if (node.nodeName === '#text' && 'value' in node) {
      yield* this.textTokens(node.value, 'sourceCodeLocation' in node ? node.sourceCodeLocation : undefined);
      return;
    }
    if (!('tagName' in node)) return;
    const { tagName } = node;
    if (UNSEEN.has(tagName)) return;
    if (tagName === 'br') yield { kind: 'separator', isStrong: true };
    else if (GAPS.has(tagName)) yield { kind: 'separator', isStrong: false };
    else if (isLink(node)) {
      const item = this.linkItem(node, node);
      yield item ? { kind: 'item', node: item, shape: 'inline', isBare: false } : { kind: 'other', isText: false };
    } else if (INLINE.has(tagName) || BOXES.has(tagName)) {
      if (isEmpty(node)) {
        yield { kind: 'separator', isStrong: collectText(node) !== '' };
        return;
      }
      const item = this.holderItem(node, level);
      if (item) yield { kind: 'item', node: item, shape: INLINE.has(tagName) ? 'inline' : tagName, isBare: false };
      else yield { kind: 'other', isText: INLINE.has(tagName) && this.linksIn(node) === 0 };
    } else yield { kind: 'other', isText: false };
  }

  private *textTokens(
    value: string,
    location: { startOffset: number; endOffset: number } | null | undefined,
  ): Generator<Token> {
    if (isSeparator(value)) {
      yield { kind: 'separator', isStrong: HAS_SEPARATOR.test(value) };
      return;
    }
    const raw = location && this.text.slice(location.startOffset, location.endOffset);
    let at = 0;
    for (const part of value.split(SPLIT)) {
      const start = value.indexOf(part, at);
      if (start > at || at > 0) yield { kind: 'separator', isStrong: true };
      at = start + part.length;
      if (isSeparator(part)) {
        if (part !== '') yield { kind: 'separator', isStrong: HAS_SEPARATOR.test(part) };
        continue;
      }
      const label = fold(part);
      const lead = start + part.length - part.trimStart().length;
      const written =
        raw === undefined || raw === null
          ? undefined
          : findPartWithin(raw, value, { start: lead, end: lead + part.trim().length });
      const span = written && location ? shiftSpan(written, location.startOffset) : undefined;
      const node: MenuNode = {
        to: '',
        label,
        newWindow: false,
        isCurrent: false,
        form: 'words',
        children: [],
        span,
        holder: undefined,
        link: undefined,
        face: undefined,
        list: undefined,
      };
      yield isShort(label) ? { kind: 'item', node, shape: 'inline', isBare: true } : { kind: 'other', isText: true };
    }
    if (at < value.length) yield { kind: 'separator', isStrong: true };
  }
}

/** Whether an item goes on with a run: of the same shape; bare words only between separators, or at the box's end. */
function isOfRun(
  run: readonly Token[],
  token: Token & { kind: 'item' },
  tokens: readonly Token[],
  at: number,
): boolean {
  const shape = run.find((each) => each.kind === 'item')?.shape;
  if (shape !== undefined && shape !== token.shape) return false;
  if (!token.isBare) return true;
  const isGap = (each: Token | undefined) => each === undefined || (each.kind === 'separator' && each.isStrong);
  return (
    isGap(tokens[at - 1]) && isGap(tokens[at + 1]) && !(tokens[at - 1] === undefined && tokens[at + 1] === undefined)
  );
}

const isText = (token: Token | undefined): boolean =>
  (token?.kind === 'other' && token.isText) || (token?.kind === 'item' && token.isBare);

function hasStrongSeparators(run: readonly Token[]): boolean {
  const items = run.flatMap((token, index) => (token.kind === 'item' ? [index] : []));
  return (
    items.length > 2 &&
    items
      .slice(1)
      .every((index, nth) => run.slice(items[nth], index).some((token) => token.kind === 'separator' && token.isStrong))
  );
}
