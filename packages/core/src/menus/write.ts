/**
 * An edited menu written into a page in the page's own markup: items that are there keep their bytes and what
 * stands between them, new ones take the markup of their neighbours, and the item of the page one is on is
 * marked as this site marks it.
 */
import { isUnder } from '../address/index.ts';
import {
  readAttribute,
  editAttributes,
  walkElements,
  escapeAttribute,
  escapeText,
  listTextPlaces,
  findWordsWithin,
  type Edit,
  type Element,
  type PageDocument,
  type SourcePiece,
} from '../html/index.ts';
import type { MenuNode } from './linkLists.ts';
import { isSeparator, shiftSpan, type Span } from './shapes.ts';
import { keyItem, type CurrentMark } from './menu.ts';

/** An item as it is to stand in one page. */
export interface WrittenItem {
  /** Its `keyItem` in the imported pages, to find its own markup by; undefined for new ones. */
  readonly was: string | undefined;
  /** Where it leads, inside the site from its root on, or a whole URL; empty where it leads nowhere. */
  readonly to: string;
  readonly label: string;
  readonly newWindow: boolean;
  readonly isCurrent: boolean;
  readonly children: readonly WrittenItem[];
}

export interface MenuStyle {
  readonly mark: CurrentMark | undefined;
  /** Whether what is below each item is the page's own affair. */
  readonly opensBranch: boolean;
  /** Whether a link as it stands in the source leads to a place once the page is published. */
  readonly leadsTo: (href: string, to: string) => boolean;
  /** How a link to a place is written in this page; `like` is another link of the menu. */
  readonly hrefTo: (to: string, like: string | undefined) => string;
}

/** The edits that make a menu of a page another; none where it is as wanted. They move pieces of the source, see `withInside`. */
export function editMenu(
  document: PageDocument,
  nodes: readonly MenuNode[],
  items: readonly WrittenItem[],
  style: MenuStyle,
): Edit[] {
  return new Writer(document, nodes, style).level(nodes, items);
}

/** Whether the page's own address is the item's, or below it where this menu marks branches. */
export function isCurrentItem(itemAddress: string, pageAddress: string, marksBranch: boolean): boolean {
  if (itemAddress === pageAddress) return true;
  return marksBranch && itemAddress !== '/' && !itemAddress.includes('#') && isUnder(pageAddress, itemAddress);
}

type Piece = string | SourcePiece;

class Writer {
  private readonly text: string;
  private readonly document: PageDocument;
  private readonly all: readonly MenuNode[];
  private readonly style: MenuStyle;

  constructor(document: PageDocument, all: readonly MenuNode[], style: MenuStyle) {
    this.document = document;
    this.text = document.source.text;
    this.all = [...walkNodes(all)];
    this.style = style;
  }

  /** The edits of one level: in place where the same items stay in their order, else the whole of it put together anew. */
  level(nodes: readonly MenuNode[], wanted: readonly WrittenItem[]): Edit[] {
    const spans = nodes.flatMap(({ span }) => span ?? []);
    const [first, last] = [spans[0], spans.at(-1)];
    if (!first || !last || spans.length !== nodes.length) return [];
    const items = this.canNest(nodes)
      ? wanted
      : wanted.flatMap((item) => (this.nodeOf(item, nodes)?.list ? [item] : flattenItem(item)));
    const existing = items.map((item) => this.nodeOf(item, nodes));
    if (items.length === nodes.length && existing.every((node, index) => node === nodes[index])) {
      return items.flatMap((item, index) => this.itemEdits(nodes[index] as MenuNode, item, true, {}));
    }
    if (items.length === 0) return [{ start: first.start, end: last.end, text: '' }];
    return [{ start: first.start, end: last.end, text: this.pieces(nodes, items, existing) }];
  }

  private nodeOf({ was }: WrittenItem, nodes: readonly MenuNode[]): MenuNode | undefined {
    return was === undefined ? undefined : nodes.find((node) => keyItem(node) === was);
  }

  private canNest(nodes: readonly MenuNode[]): boolean {
    return nodes.some(({ holder, list }) => holder?.tagName === 'li' || list !== undefined);
  }

  private pieces(
    nodes: readonly MenuNode[],
    items: readonly WrittenItem[],
    existing: readonly (MenuNode | undefined)[],
  ): Piece[] {
    const gaps = new Gaps(this.text, nodes, new Set(existing));
    const ends = new Ends(this.text, nodes);
    const out: Piece[] = [...gaps.front];
    items.forEach((item, index) => {
      const at = { isFirst: index === 0, isLast: index === items.length - 1 };
      out.push(
        this.itemPiece(
          item,
          existing[index] ?? this.markupOf(item, nodes),
          nodes,
          ends.edits(existing[index] ?? this.template(nodes), at),
        ),
      );
      out.push(...gaps.after(existing[index], existing[index + 1], at.isLast));
    });
    return out;
  }

  /** The markup of an item that comes from another level, where that level is written alike. */
  private markupOf({ was }: WrittenItem, nodes: readonly MenuNode[]): MenuNode | undefined {
    const elsewhere = was === undefined ? undefined : this.all.find((node) => keyItem(node) === was);
    const like = nodes[0]?.holder;
    return elsewhere?.holder &&
      like &&
      elsewhere.holder.tagName === like.tagName &&
      readAttribute(elsewhere.holder, 'class') === readAttribute(like, 'class')
      ? elsewhere
      : undefined;
  }

  private itemPiece(
    item: WrittenItem,
    node: MenuNode | undefined,
    siblings: readonly MenuNode[],
    ends: readonly Edit[],
  ): Piece {
    const model = node ?? this.template(siblings);
    if (!model?.span) return writePlainItem(item, this.style.hrefTo(item.to, undefined));
    const isOwn = node !== undefined;
    return {
      from: model.span.start,
      to: model.span.end,
      edits: [...this.itemEdits(model, item, isOwn, isOwn ? {} : OF_ANOTHER), ...ends],
    };
  }

  /** The plainest item: a link, no list inside it, no mark, the fewest attributes. */
  private template(siblings: readonly MenuNode[]): MenuNode | undefined {
    const cost = ({ link, holder, isCurrent, list, form }: MenuNode) =>
      (link?.attrs.length ?? 50) +
      (holder?.attrs.length ?? 0) +
      (isCurrent ? 10 : 0) +
      (list ? 100 : 0) +
      (form === undefined ? 0 : 20);
    return [...(siblings.length > 0 ? siblings : this.all)].sort((a, b) => cost(a) - cost(b))[0];
  }

  private itemEdits(
    node: MenuNode,
    item: WrittenItem,
    isOwn: boolean,
    without: Readonly<Record<string, null>>,
  ): Edit[] {
    return [
      ...this.linkEdits(node, item, without),
      ...this.labelEdits(node, item.label),
      ...this.childEdits(node, item, isOwn),
    ];
  }

  private linkEdits(node: MenuNode, item: WrittenItem, without: Readonly<Record<string, null>>): Edit[] {
    const { link, holder } = node;
    const { mark } = this.style;
    if (!link) return item.to === '' || (item.isCurrent && mark?.kind === 'words') ? [] : this.madeLink(node, item);
    if (mark?.kind === 'words' && item.isCurrent) return node.form === 'words' ? [] : editUnlinked(link, mark.tag);
    const values: Record<string, string | null> = {};
    for (const name of Object.keys(without)) if (readAttribute(link, name) !== undefined) values[name] = null;
    const href = readAttribute(link, 'href') ?? '';
    if (item.to === '') {
      if (node.to !== '') values['href'] = '#';
    } else if (!this.style.leadsTo(href, item.to))
      values['href'] = this.style.hrefTo(item.to, node.to === '' ? this.likeHref() : href);
    if (node.newWindow !== item.newWindow) {
      values['target'] = item.newWindow ? '_blank' : null;
      if (item.newWindow) values['rel'] = 'noopener';
    }
    if (mark?.kind === 'attribute' && (readAttribute(link, mark.name) !== undefined) !== item.isCurrent)
      values[mark.name] = item.isCurrent ? mark.value : null;
    const edits: Edit[] = [];
    const marked = mark?.kind === 'class' ? (mark.on === 'link' ? link : holder) : undefined;
    if (mark?.kind === 'class' && marked) {
      const names = (readAttribute(marked, 'class') ?? '')
        .split(/\s+/)
        .filter((name) => name !== '' && name !== mark.name);
      const has = (readAttribute(marked, 'class') ?? '').split(/\s+/).includes(mark.name);
      if (has !== item.isCurrent) {
        const value = [...names, ...(item.isCurrent ? [mark.name] : [])].join(' ') || null;
        if (marked === link) values['class'] = value;
        else edits.push(...editAttributes(marked, { class: value }, this.text));
      }
    }
    return [...edits, ...editAttributes(link, values, this.text)];
  }

  private likeHref(): string | undefined {
    const link = this.all.find(({ to, link: each }) => each && to !== '')?.link;
    return link && readAttribute(link, 'href');
  }

  /** Words, or a head that led nowhere, that lead somewhere now. */
  private madeLink({ span, face, holder }: MenuNode, item: WrittenItem): Edit[] {
    const words = face ? findLongestText(this.document, face) : span;
    // A button holds no link (HTML standard, section 4.10.6), wherever in the item it stands.
    const isButton = [holder, face].some(
      (box) => box && [...walkElements(box)].some(({ tagName }) => tagName === 'button'),
    );
    if (!words || isButton) return [];
    const href = escapeAttribute(this.style.hrefTo(item.to, this.likeHref()));
    return [
      {
        start: words.start,
        end: words.start,
        text: `<a href="${href}"${item.newWindow ? ' target="_blank" rel="noopener"' : ''}>`,
      },
      { start: words.end, end: words.end, text: '</a>' },
    ];
  }

  /** The longest text in the link is its label; pictures and the like beside it stay. A picture's label is its `alt`. */
  private labelEdits({ face, span, label }: MenuNode, wanted: string): Edit[] {
    if (label === wanted) return [];
    const words = face ? findLongestText(this.document, face) : span;
    if (words) return [{ start: words.start, end: words.end, text: escapeText(wanted) }];
    if (!face) return [];
    for (const element of walkElements(face)) {
      for (const name of ['alt', 'aria-label', 'title'])
        if (readAttribute(element, name)?.trim() === label)
          return editAttributes(element, { [name]: wanted }, this.text);
    }
    const inside = face.sourceCodeLocation?.startTag?.endOffset;
    return inside === undefined ? [] : [{ start: inside, end: inside, text: escapeText(wanted) }];
  }

  private childEdits(node: MenuNode, item: WrittenItem, isOwn: boolean): Edit[] {
    if (this.style.opensBranch && isOwn) return [];
    const list = node.list?.sourceCodeLocation;
    if (node.list && list) {
      if (item.children.length > 0)
        return isOwn || node.children.length > 0 ? this.level(node.children, item.children) : [];
      // A definition list holds more than the items below this one.
      const isInside =
        node.span !== undefined && list.startOffset >= node.span.start && list.endOffset <= node.span.end;
      return isInside ? [{ start: list.startOffset, end: list.endOffset, text: '' }] : this.level(node.children, []);
    }
    if (item.children.length === 0 || node.holder?.tagName !== 'li') return [];
    const end = (node.link ?? node.face)?.sourceCodeLocation?.endOffset;
    return end === undefined ? [] : [{ start: end, end, text: this.newList(item.children) }];
  }

  /** A list below an item that had none: in the markup of another item's, else the plainest. */
  private newList(children: readonly WrittenItem[]): Piece[] {
    const like = this.all.find(({ list, children: below }) => list && below.length > 0);
    const location = like?.list?.sourceCodeLocation;
    const [first, last] = [like?.children[0]?.span, like?.children.at(-1)?.span];
    const leaves = this.all.filter(({ list }) => !list);
    if (!like || !location || !first || !last || first.start < location.startOffset || last.end > location.endOffset) {
      return ['<ul>', ...children.map((child) => this.itemPiece(child, undefined, leaves, [])), '</ul>'];
    }
    const open = {
      from: location.startOffset,
      to: first.start,
      edits: like.list ? editAttributes(like.list, findOwnNames(like.list), this.text) : [],
    };
    return [
      open,
      ...children.map((child) => this.itemPiece(child, undefined, like.children, [])),
      { from: last.end, to: location.endOffset, edits: [] },
    ];
  }
}

/** Another item's language and identity are not a new one's. */
const OF_ANOTHER = { id: null, lang: null, hreflang: null, title: null, rel: null, accesskey: null } as const;

function findOwnNames(list: Element): Record<string, null> {
  return readAttribute(list, 'id') === undefined ? {} : { id: null };
}

function editUnlinked(link: Element, tag: string | undefined): Edit[] {
  const { startTag, endTag } = link.sourceCodeLocation ?? {};
  if (!startTag || !endTag) return [];
  return [
    { start: startTag.startOffset, end: startTag.endOffset, text: tag === undefined ? '' : `<${tag}>` },
    { start: endTag.startOffset, end: endTag.endOffset, text: tag === undefined ? '' : `</${tag}>` },
  ];
}

function findLongestText(document: PageDocument, face: Element): Span | undefined {
  let best: Span | undefined;
  for (const element of walkElements(face)) {
    for (const { start, end, value } of listTextPlaces(document, element)) {
      const written = isSeparator(value) ? undefined : findWordsWithin(document.source.text.slice(start, end), value);
      if (written && written.end - written.start > (best ? best.end - best.start : 0)) best = shiftSpan(written, start);
    }
  }
  return best;
}

/** What stands between items. What is no mere separator, such as a title over the next ones, stays behind the item it follows. */
class Gaps {
  /** What followed items that are gone, where none before them stays. */
  readonly front: Piece[] = [];
  private readonly gaps: readonly Span[];
  private readonly text: string;
  private readonly nodes: readonly MenuNode[];
  private readonly typical: Span | undefined;
  private readonly behind = new Map<MenuNode, Span[]>();

  constructor(text: string, nodes: readonly MenuNode[], kept: ReadonlySet<MenuNode | undefined>) {
    this.text = text;
    this.nodes = nodes;
    this.gaps = nodes
      .slice(1)
      .map(({ span }, index) => ({ start: nodes[index]?.span?.end ?? 0, end: span?.start ?? 0 }));
    const counts = new Map<string, { gap: Span; count: number }>();
    for (const gap of this.gaps) {
      if (!this.isPlain(gap)) continue;
      const key = text.slice(gap.start, gap.end);
      counts.set(key, { gap, count: (counts.get(key)?.count ?? 0) + 1 });
    }
    this.typical = [...counts.values()].sort((a, b) => b.count - a.count)[0]?.gap;
    let last: MenuNode | undefined;
    nodes.forEach((node, index) => {
      if (kept.has(node)) last = node;
      const gap = this.gaps[index];
      if (!gap || this.isPlain(gap)) return;
      if (last) this.behind.set(last, [...(this.behind.get(last) ?? []), gap]);
      else this.front.push({ from: gap.start, to: gap.end, edits: [] });
    });
  }

  after(node: MenuNode | undefined, next: MenuNode | undefined, isLast: boolean): Piece[] {
    const fixed = (node && this.behind.get(node)) ?? [];
    if (fixed.length > 0) return fixed.map(({ start, end }) => ({ from: start, to: end, edits: [] }));
    if (isLast) return [];
    const at = node && next ? this.nodes.indexOf(node) : -1;
    const gap = at >= 0 && this.nodes[at + 1] === next ? this.gaps[at] : this.typical;
    return gap ? [{ from: gap.start, to: gap.end, edits: [] }] : [];
  }

  private isPlain({ start, end }: Span): boolean {
    const gap = this.text.slice(start, end);
    if (/<(a|button|form|input|select|img|svg|hr|h[1-6]|div|p)\b/i.test(gap)) return false;
    return isSeparator(gap.replace(/<!--[^]*?-->|<[^>]*>/g, '').replace(/&[a-z]+;?|&#\w+;?/gi, ' '));
  }
}

/** Separators in the items themselves, `<li>A |</li>`: the first or the last one is written without. */
class Ends {
  private readonly text: string;
  private readonly lead: Positional | undefined;
  private readonly tail: Positional | undefined;

  constructor(text: string, nodes: readonly MenuNode[]) {
    this.text = text;
    const slice = (span: Span | undefined) => (span ? text.slice(span.start, span.end) : undefined);
    this.lead = findPositional(nodes.map((node) => slice(leadOf(node))));
    this.tail = findPositional([...nodes].reverse().map((node) => slice(findTail(node))));
  }

  edits(
    node: MenuNode | undefined,
    { isFirst, isLast }: { readonly isFirst: boolean; readonly isLast: boolean },
  ): Edit[] {
    if (!node) return [];
    const out: Edit[] = [];
    for (const [span, way, isEnd] of [
      [leadOf(node), this.lead, isFirst],
      [findTail(node), this.tail, isLast],
    ] as const) {
      const wanted = isEnd ? way?.end : way?.other;
      if (span && wanted !== undefined && this.text.slice(span.start, span.end) !== wanted)
        out.push({ start: span.start, end: span.end, text: wanted });
    }
    return out;
  }
}

interface Positional {
  readonly end: string;
  readonly other: string;
}

/** @param ends of all items, the one at the end first; undefined where it makes no difference */
function findPositional([end, ...others]: readonly (string | undefined)[]): Positional | undefined {
  const [other] = others;
  if (end === undefined || other === undefined || others.some((each) => each?.trim() !== other.trim()))
    return undefined;
  return end.trim() === other.trim() ? undefined : { end, other };
}

/** Separators between the holder's start tag and the link. */
function leadOf({ holder, link }: MenuNode): Span | undefined {
  const [from, to] = [holder?.sourceCodeLocation?.startTag?.endOffset, link?.sourceCodeLocation?.startOffset];
  return holder === link || from === undefined || to === undefined || !isBareSeparator(holder, link)
    ? undefined
    : { start: from, end: to };
}

/** Separators between the link and the holder's end. */
function findTail({ holder, link, list }: MenuNode): Span | undefined {
  const location = holder?.sourceCodeLocation;
  const [from, to] = [link?.sourceCodeLocation?.endOffset, location?.endTag?.startOffset ?? location?.endOffset];
  return holder === link || list || from === undefined || to === undefined || !isBareSeparator(holder, link)
    ? undefined
    : { start: from, end: to };
}

/** Whether a link stands in its holder with nothing but text beside it. */
function isBareSeparator(holder: Element | undefined, link: Element | undefined): boolean {
  return (
    holder !== undefined &&
    link !== undefined &&
    holder.childNodes.every(
      (node) => node === link || (node.nodeName === '#text' && 'value' in node && isSeparator(node.value)),
    )
  );
}

function writePlainItem({ label, newWindow, isCurrent, children }: WrittenItem, href: string): string {
  const more = `${newWindow ? ' target="_blank" rel="noopener"' : ''}${isCurrent ? ' aria-current="page"' : ''}`;
  const list =
    children.length === 0 ? '' : `<ul>${children.map((child) => writePlainItem(child, child.to)).join('')}</ul>`;
  return `<li><a href="${escapeAttribute(href)}"${more}>${escapeText(label)}</a>${list}</li>`;
}

/** Where a menu's markup has no levels, what is below an item follows it. */
function flattenItem(item: WrittenItem): WrittenItem[] {
  return [{ ...item, children: [] }, ...item.children.flatMap(flattenItem)];
}

function* walkNodes(items: readonly MenuNode[]): Generator<MenuNode> {
  for (const item of items) {
    yield item;
    yield* walkNodes(item.children);
  }
}
