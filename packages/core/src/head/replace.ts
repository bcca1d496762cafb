/** Find and replace over one column of the table. */
import { escapeExpression } from '../text/index.ts';

export interface Replacing {
  readonly find: string;
  readonly replace: string;
  readonly matchCase: boolean;
  /** Only whole words, as letters and digits of any script make them. */
  readonly wholeWords: boolean;
}

/** The text with every place replaced; the very same text where there is none. The texts mean only themselves: no patterns. */
export function replaceText(text: string, { find, replace, matchCase, wholeWords }: Replacing): string {
  if (find === '') return text;
  const literal = escapeExpression(find);
  const pattern = wholeWords ? `(?<![\\p{L}\\p{N}_])${literal}(?![\\p{L}\\p{N}_])` : literal;
  return text.replace(new RegExp(pattern, matchCase ? 'gu' : 'giu'), () => replace);
}
