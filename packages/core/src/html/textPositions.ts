/** Where each letter of a text stands in its source, which writes some letters as character references. */
import { parseFragment } from 'parse5';

/** `&copy;`, `&#169;`, `&#xA9;`, and the old names that stand without their semicolon. */
const REFERENCE = /&(?:#[0-9]+|#x[0-9a-f]+|[a-z][a-z0-9]*);?/iy;

/**
 * Follows a text node and its source side by side, character references and line ends read as a parser reads them (HTML
 * standard, 13.2.5.72 and 13.2.3.5).
 *
 * @param raw the source of the text node, without tags
 * @param value what the node says
 * @returns for each letter of `value`, and for its end, its position in `raw`; undefined where the two do not go together
 */
export function mapTextPositions(raw: string, value: string): readonly number[] | undefined {
  const out: number[] = [];
  let at = 0;
  while (at < raw.length) {
    const [length, letters] = raw[at] === '&' ? readReferenceAt(raw, at) : readPlainAt(raw, at);
    if (value.slice(out.length, out.length + letters.length) !== letters) return undefined;
    for (let nth = 0; nth < letters.length; nth += 1) out.push(at);
    at += length;
  }
  if (out.length !== value.length) return undefined;
  out.push(raw.length);
  return out;
}

/** Of what begins at a position: its length in the source, and what it says. */
type Unit = readonly [length: number, letters: string];

function readPlainAt(raw: string, at: number): Unit {
  const letter = raw[at] ?? '';
  if (letter === '\r') return raw[at + 1] === '\n' ? [2, '\n'] : [1, '\n'];
  // Left out of the tree wherever text may stand (HTML standard, 13.2.6.4.7).
  return letter === '\0' ? [1, ''] : [1, letter];
}

const known = new Map<string, string>();

function readReferenceAt(raw: string, at: number): Unit {
  REFERENCE.lastIndex = at;
  const [written] = REFERENCE.exec(raw) ?? [];
  if (written === undefined) return [1, '&'];
  let letters = known.get(written);
  if (letters === undefined) {
    const [node] = parseFragment(written).childNodes;
    letters = node && 'value' in node ? node.value : '';
    // Pages use few of them; one made to fill the memory is read each time anew.
    if (known.size < MOST_KNOWN) known.set(written, letters);
  }
  return [written.length, letters];
}

const MOST_KNOWN = 1000;

export interface Span {
  readonly start: number;
  readonly end: number;
}

/** A part of what a text node says, as it stands in the node's source; undefined where the two do not go together. */
export function findPartWithin(raw: string, value: string, { start, end }: Span): Span | undefined {
  if (raw === value) return { start, end };
  const positions = mapTextPositions(raw, value);
  const [from, to] = [positions?.[start], positions?.[end]];
  return from === undefined || to === undefined ? undefined : { start: from, end: to };
}

/** The words of a text node in its source, without the white space around them, hard spaces too. */
export function findWordsWithin(raw: string, value: string): Span | undefined {
  const words = value.trim();
  if (words === '') return undefined;
  const start = value.indexOf(words);
  return findPartWithin(raw, value, { start, end: start + words.length });
}
