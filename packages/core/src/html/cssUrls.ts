/** The addresses a style sheet refers to. Source: CSS Syntax Level 3, section 4.3.6, by css-tree's tokenizer. */
import { ident, string, tokenize, tokenNames, tokenTypes, url as urlToken } from 'css-tree';

export interface CssUrl {
  readonly url: string;
  /** The whole token, `url(…)` or a string, as positions in the style sheet's text. */
  readonly start: number;
  readonly end: number;
  /** Writes another address into the token's place. */
  readonly write: (url: string) => string;
}

const isBlank = (type: number) => tokenNames[type] === 'whitespace-token' || tokenNames[type] === 'comment-token';

export function findCssUrls(css: string): CssUrl[] {
  const out: CssUrl[] = [];
  let before: 'import' | 'url' | undefined;
  tokenize(css, (type, start, end) => {
    if (type === tokenTypes.Url) {
      out.push({ url: urlToken.decode(css.slice(start, end)), start, end, write: (to) => urlToken.encode(to) });
    } else if (type === tokenTypes.String && before !== undefined) {
      out.push({ url: string.decode(css.slice(start, end)), start, end, write: (to) => string.encode(to) });
    }
    if (isBlank(type)) return;
    const text = css.slice(start, end).toLowerCase();
    before = undefined;
    if (type === tokenTypes.AtKeyword && ident.decode(text) === '@import') before = 'import';
    if (type === tokenTypes.Function && text === 'url(') before = 'url';
  });
  return out.filter(({ url }) => url !== '');
}
