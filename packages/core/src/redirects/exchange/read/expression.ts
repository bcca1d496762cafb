/**
 * The plain regular expressions of servers' redirects as patterns: text, and groups in it. What a pattern could
 * say only differently is not read.
 */
import { escapePattern } from '../../pattern/source.ts';

export interface PlainExpression {
  /** Of an address without any group: that address; else a pattern. */
  readonly from: string;
  readonly isPattern: boolean;
}

/**
 * @param source `^/news/(\d+)\.html$`, with or without its first slash
 * @returns undefined where it is more than text and groups
 */
export function readPlainExpression(source: string): PlainExpression | undefined {
  const inside = /^\^(.*?)(\$?)$/s.exec(source);
  if (!inside) return undefined;
  const [, body = '', end = ''] = inside;
  const read = splitGroups(body.replace(/^\\?\//, ''));
  if (!read) return undefined;
  const { text, groups } = read;
  const isPattern = groups > 0 || end === '';
  return {
    from: `/${isPattern ? text : text.replace(/\\(.)/g, '$1')}${end === '' && !text.endsWith('(.*)') ? '*' : ''}`,
    isPattern,
  };
}

/** `$1` becomes `:0`, and a question mark at the end says that the visitor's query goes. */
export function readTargetOfGroups(target: string): { readonly to: string; readonly dropsQuery: boolean } {
  const dropsQuery = /\?$/.test(target);
  return {
    to: target
      .replace(/\?$/, '')
      .replace(/:(?=[A-Za-z0-9_])(?!\/\/)/g, '\\:')
      .replace(/\$(\d)/g, (_, n: string) => `:${Number(n) - 1}`),
    dropsQuery,
  };
}

/** Text with what means something in a pattern written as the letter itself; undefined where it is more than text and groups. */
function splitGroups(body: string): { text: string; groups: number } | undefined {
  let text = '';
  let groups = 0;
  for (let at = 0; at < body.length; at += 1) {
    const letter = body[at] ?? '';
    if (letter === '(') {
      const end = body.indexOf(')', at);
      const group = body.slice(at + 1, end);
      if (end < 0 || group.includes('(') || group.startsWith('?') || group === '') return undefined;
      text += group === '.*' || group === '.+' ? '(.*)' : `(${group})`;
      groups += 1;
      at = end;
    } else if (letter === '\\') {
      at += 1;
      const next = body[at] ?? '';
      if (/[A-Za-z0-9]/.test(next) || next === '') return undefined;
      text += escapePattern(next);
    } else if (/[[\]{}*+?|^$]/.test(letter)) return undefined;
    else text += escapePattern(letter);
  }
  return { text, groups };
}
