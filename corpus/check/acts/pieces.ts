/** Pieces of a page's source, as an act looks for them: a text to change, and what two sources have in common. */
import { Parser } from 'htmlparser2';

export function commonStart(a: string, b: string): number {
  let at = 0;
  while (at < a.length && a[at] === b[at]) at += 1;
  return at;
}

export function commonEnd(a: string, b: string): number {
  let at = 0;
  while (at < a.length && a[a.length - 1 - at] === b[b.length - 1 - at]) at += 1;
  return at;
}

/** A paragraph's or heading's first text, written plainly and once in its page. */
export function plainText(
  text: string,
): { readonly start: number; readonly words: string; readonly from: number } | undefined {
  let open: number | undefined;
  let found: { start: number; words: string; from: number } | undefined;
  const parser = new Parser(
    {
      onopentag(tag) {
        open = ['p', 'h1', 'h2', 'h3', 'li'].includes(tag) ? parser.startIndex : undefined;
      },
      ontext(data) {
        const from = parser.startIndex;
        if (
          !found &&
          open !== undefined &&
          /^[A-Za-z][\w ,.-]{12,}$/.test(data.trim()) &&
          text.slice(from, from + data.length) === data &&
          text.split(data.trim()).length === 2
        )
          found = { start: open, words: data.trim(), from: from + data.indexOf(data.trim()) };
        open = undefined;
      },
      oncomment() {
        open = undefined;
      },
    },
    { decodeEntities: false, lowerCaseTags: true },
  );
  parser.write(text);
  parser.end();
  return found;
}
