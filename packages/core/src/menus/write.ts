/**
 * An edited menu written into a page in the page's own markup: items that are there keep theirs, new ones
 * take that of their neighbours, and the item of the page one is on is marked as this site marks it.
 */
import { isUnder } from '../address/index.ts';
import { attribute, attributeEdits, elements, escapeAttribute, escapeText, type Edit, type PageDocument } from '../html/index.ts';
import type { MenuNode, MenuPlace } from './find.ts';
import type { CurrentMark } from './menu.ts';

/** An item as it is to stand in one page. */
export interface WrittenItem {
  /** What it leads to as the imported page says it, to find the item's own markup by; undefined for new ones. */
  readonly was: string | undefined;
  readonly href: string;
  readonly label: string;
  readonly newWindow: boolean;
  readonly isCurrent: boolean;
  readonly children: readonly WrittenItem[];
}

export interface MenuStyle {
  readonly mark: CurrentMark | undefined;
}

/** The edit of the whole list; undefined where the menu's source cannot be told from its surroundings. */
export function menuEdit(document: PageDocument, place: MenuPlace, items: readonly WrittenItem[], style: MenuStyle): Edit | undefined {
  const spans = place.items.map(({ holder }) => holder.sourceCodeLocation);
  const [first, last] = [spans[0], spans.at(-1)];
  if (!first || !last || spans.some((span) => !span)) return undefined;
  const { text } = document.source;
  const second = spans[1];
  const between = second ? text.slice(first.endOffset, second.startOffset) : '';
  const writer = new Writer(document, place.items, style);
  return { start: first.startOffset, end: last.endOffset, text: items.map((item) => writer.item(item, place.items)).join(between) };
}

/** Whether the page's own address is the item's, or below it where this menu marks branches. */
export function isCurrentItem(itemAddress: string, pageAddress: string, marksBranch: boolean): boolean {
  if (itemAddress === pageAddress) return true;
  return marksBranch && itemAddress !== '/' && isUnder(pageAddress, itemAddress);
}

class Writer {
  private readonly document: PageDocument;
  private readonly all: readonly MenuNode[];
  private readonly style: MenuStyle;

  constructor(document: PageDocument, all: readonly MenuNode[], style: MenuStyle) {
    this.document = document;
    this.all = [...flat(all)];
    this.style = style;
  }

  item(item: WrittenItem, siblings: readonly MenuNode[]): string {
    const own = item.was === undefined ? undefined : this.all.find(({ to }) => to === item.was);
    const node = own ?? this.template(siblings);
    if (!node) return plainItem(item);
    const span = node.holder.sourceCodeLocation;
    if (!span) return plainItem(item);
    const edits = [...this.linkEdits(node, item, own !== undefined), ...this.listEdits(node, item)];
    return apply(this.document.source.text, span.startOffset, span.endOffset, edits);
  }

  /** The plainest item: no list inside it, no mark, the fewest attributes. */
  private template(siblings: readonly MenuNode[]): MenuNode | undefined {
    const cost = ({ link, holder, isCurrent, children }: MenuNode) => link.attrs.length + holder.attrs.length + (isCurrent ? 10 : 0) + (children.length > 0 ? 100 : 0);
    return [...(siblings.length > 0 ? siblings : this.all)].sort((a, b) => cost(a) - cost(b))[0];
  }

  private linkEdits(node: MenuNode, item: WrittenItem, isOwn: boolean): Edit[] {
    const { link, holder } = node;
    const values: Record<string, string | null> = { href: item.href };
    if (node.newWindow !== item.newWindow) {
      values['target'] = item.newWindow ? '_blank' : null;
      if (item.newWindow) values['rel'] = 'noopener';
    }
    // Another item's language and identity are not this one's.
    if (!isOwn) for (const name of ['id', 'lang', 'hreflang', 'title']) if (attribute(link, name) !== undefined) values[name] = null;
    const { mark } = this.style;
    if (mark?.kind === 'attribute') {
      const has = attribute(link, mark.name) !== undefined;
      if (has !== item.isCurrent) values[mark.name] = item.isCurrent ? mark.value : null;
    }
    const edits: Edit[] = [];
    if (mark?.kind === 'class') {
      const on = mark.on === 'link' ? link : holder;
      const names = (attribute(on, 'class') ?? '').split(/\s+/).filter((name) => name !== '' && name !== mark.name);
      if (item.isCurrent) names.push(mark.name);
      const value = names.length > 0 ? names.join(' ') : null;
      if ((attribute(on, 'class') ?? null) !== value) {
        if (on === link) values['class'] = value;
        else edits.push(...attributeEdits(on, { class: value }));
      }
    }
    edits.push(...attributeEdits(link, values), ...this.labelEdits(node, item.label));
    return edits;
  }

  /** The longest text in the link is its label; pictures and the like beside it stay. */
  private labelEdits({ link, label }: MenuNode, wanted: string): Edit[] {
    if (label === wanted) return [];
    let best: { start: number; end: number; length: number } | undefined;
    for (const element of elements(link)) {
      for (const node of element.childNodes) {
        if (node.nodeName !== '#text' || !('value' in node) || !node.sourceCodeLocation) continue;
        const text = node.value.trim();
        if (text !== '' && text.length > (best?.length ?? 0)) {
          const lead = node.value.length - node.value.trimStart().length;
          const trail = node.value.length - node.value.trimEnd().length;
          best = { start: node.sourceCodeLocation.startOffset + lead, end: node.sourceCodeLocation.endOffset - trail, length: text.length };
        }
      }
    }
    if (best) return [{ start: best.start, end: best.end, text: escapeText(wanted) }];
    const inside = link.sourceCodeLocation?.startTag?.endOffset;
    return inside === undefined ? [] : [{ start: inside, end: inside, text: escapeText(wanted) }];
  }

  private listEdits(node: MenuNode, item: WrittenItem): Edit[] {
    const nested = node.holder.tagName === 'li' ? [...elements(node.holder)].find(({ tagName }) => tagName === 'ul' || tagName === 'ol') : undefined;
    const span = nested?.sourceCodeLocation;
    if (nested && span) {
      if (item.children.length === 0) return [{ start: span.startOffset, end: span.endOffset, text: '' }];
      const inside = node.children.map(({ holder }) => holder.sourceCodeLocation);
      const [first, last] = [inside[0], inside.at(-1)];
      const written = item.children.map((child) => this.item(child, node.children)).join('');
      if (first && last) return [{ start: first.startOffset, end: last.endOffset, text: written }];
      const at = span.startTag?.endOffset;
      return at === undefined ? [] : [{ start: at, end: at, text: written }];
    }
    if (item.children.length === 0) return [];
    const end = node.link.sourceCodeLocation?.endOffset;
    if (end === undefined || node.holder.tagName !== 'li') return [];
    return [{ start: end, end, text: `<ul>${item.children.map((child) => this.item(child, this.all.filter(({ children }) => children.length === 0))).join('')}</ul>` }];
  }
}

function plainItem({ href, label, newWindow, isCurrent, children }: WrittenItem): string {
  const more = `${newWindow ? ' target="_blank" rel="noopener"' : ''}${isCurrent ? ' aria-current="page"' : ''}`;
  const list = children.length === 0 ? '' : `<ul>${children.map(plainItem).join('')}</ul>`;
  return `<li><a href="${escapeAttribute(href)}"${more}>${escapeText(label)}</a>${list}</li>`;
}

function* flat(items: readonly MenuNode[]): Generator<MenuNode> {
  for (const item of items) {
    yield item;
    yield* flat(item.children);
  }
}

/** Edits of a piece of the text; those that overlap an earlier one are left out. */
function apply(text: string, from: number, to: number, edits: readonly Edit[]): string {
  let out = '';
  let at = from;
  for (const { start, end, text: written } of [...edits].sort((a, b) => a.start - b.start || a.end - b.end)) {
    if (start < at || end > to || typeof written !== 'string') continue;
    out += text.slice(at, start) + written;
    at = end;
  }
  return out + text.slice(at, to);
}

