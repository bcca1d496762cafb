/** Links of a page as people see them: their words and where they lead, in order. */
import { Parser } from 'htmlparser2';
import { baseOf, leadsTo } from './source.ts';

export interface SeenLink {
  readonly words: string;
  readonly to: string;
  readonly start: number;
  readonly end: number;
}

const fold = (text: string): string => text.replace(/[\s\u00a0]+/g, ' ').trim();

/** @param text see `letters`; words outside ASCII are compared as the bytes they are */
export function linksOf(text: string, address: string): SeenLink[] {
  const base = baseOf(text);
  const out: SeenLink[] = [];
  let open: { href: string; start: number; words: string; alt: string } | undefined;
  const parser = new Parser(
    {
      onopentag(tag, { href, alt }) {
        if (tag === 'a' && href !== undefined) open = { href, start: parser.startIndex, words: '', alt: '' };
        else if (open && tag === 'img') open.alt ||= alt ?? '';
      },
      ontext(data) {
        if (open) open.words += data;
      },
      onclosetag(tag) {
        if (tag !== 'a' || !open) return;
        out.push({
          words: fold(open.words) || fold(open.alt),
          to: leadsTo(open.href, address, base)
            .replace(/(^|\/)index\.html?(?=$|[?#])/i, '$1')
            .replace(/^self(?=#|$)/, address),
          start: open.start,
          end: parser.endIndex + 1,
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

/** Where a page has a menu: its links in their order, one of them perhaps no link on its own page. Undefined where it has not. */
export function runOf(
  links: readonly SeenLink[],
  labels: readonly string[],
): { readonly from: number; readonly to: number; readonly labels: readonly string[] } | undefined {
  for (let from = 0; from < links.length; from += 1) {
    let at = from;
    const found: string[] = [];
    for (const label of labels) {
      if (links[at]?.words !== label) continue;
      found.push(label);
      at += 1;
    }
    if (found.length >= Math.max(2, labels.length - 1)) return { from, to: at, labels: found };
  }
  return undefined;
}
