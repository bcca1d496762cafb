/** Links of a page as people see them: their words and where they lead, in order. */
import { Parser } from 'htmlparser2';
import { baseOf, leadsTo } from './source.ts';

export interface SeenLink {
  readonly words: string;
  readonly to: string;
  readonly start: number;
  readonly end: number;
  /** Where the list items it stands in begin, the innermost last. */
  readonly within: readonly number[];
}

const fold = (text: string): string => text.replace(/[\s\u00a0]+/g, ' ').trim();

/** @param text words outside ASCII are compared as the bytes they are */
export function linksOf(text: string, address: string): SeenLink[] {
  const base = baseOf(text);
  const out: SeenLink[] = [];
  let open: { href: string; start: number; words: string; alt: string; within: readonly number[] } | undefined;
  const items: number[] = [];
  const parser = new Parser(
    {
      onopentag(tag, { href, alt }) {
        if (tag === 'li') items.push(parser.startIndex);
        if (tag === 'a' && href !== undefined)
          open = { href, start: parser.startIndex, words: '', alt: '', within: [...items] };
        else if (open && tag === 'img') open.alt ||= alt ?? '';
      },
      ontext(data) {
        if (open) open.words += data;
      },
      onclosetag(tag) {
        if (tag === 'li') items.pop();
        if (tag !== 'a' || !open) return;
        out.push({
          words: fold(open.words) || fold(open.alt),
          to: leadsTo(open.href, address, base)
            .replace(/(^|\/)index\.html?(?=$|[?#])/i, '$1')
            .replace(/^self(?=#|$)/, address),
          start: open.start,
          end: parser.endIndex + 1,
          within: open.within,
        });
        open = undefined;
      },
    },
    { decodeEntities: true, lowerCaseTags: true, lowerCaseAttributeNames: true },
  );
  parser.write(text);
  parser.end();
  return out;
}

export interface Run {
  readonly from: number;
  readonly to: number;
  readonly labels: readonly string[];
  /** By label: what stands below an item on this page only, where each page opens its own branch. */
  readonly below: ReadonlyMap<string, readonly string[]>;
}

/** Where a page has a menu: its links in their order, one of them perhaps no link on its own page. Undefined where it has not. */
export function runOf(links: readonly SeenLink[], labels: readonly string[]): Run | undefined {
  for (let from = 0; from < links.length; from += 1) {
    let at = from;
    const found: string[] = [];
    const below = new Map<string, string[]>();
    for (const [index, label] of labels.entries()) {
      const link = links[at];
      if (link?.words !== label) continue;
      found.push(label);
      at += 1;
      const item = link.within.at(-1);
      const own: string[] = [];
      while (item !== undefined && links[at]?.within.includes(item) && links[at]?.words !== labels[index + 1])
        own.push(links[at++]?.words ?? '');
      if (own.length > 0) below.set(label, own);
    }
    if (found.length >= Math.max(2, labels.length - 1)) return { from, to: at, labels: found, below };
  }
  return undefined;
}
