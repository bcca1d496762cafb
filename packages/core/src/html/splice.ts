/**
 * Edits spliced into a page's source by position: everything outside an edit keeps its bytes.
 */
import { findBytePositions, type SourceText } from './decode.ts';

/** Replaces the text from `start` up to `end` (positions in the decoded text, UTF-16 units). */
export interface Edit {
  readonly start: number;
  readonly end: number;
  /** New text, or pieces of the same source that stand here instead, each with its own edits applied. */
  readonly text: string | SourcePiece | readonly (string | SourcePiece)[];
}

export interface SourcePiece {
  readonly from: number;
  readonly to: number;
  readonly edits: readonly Edit[];
}

/**
 * Edits that can be spliced together, out of edits that may overlap: an earlier one goes before those
 * that come after it in the list and lie in or across its span.
 */
export function withoutOverlaps(edits: readonly Edit[]): Edit[] {
  // In order of their places; what is kept never overlaps, so only the two neighbours can stand in the way.
  const kept: Edit[] = [];
  for (const edit of edits) {
    const at = placeAmong(kept, edit);
    if (!overlaps(kept[at - 1], edit) && !overlaps(kept[at], edit)) kept.splice(at, 0, edit);
  }
  return kept;
}

/**
 * An edit that moves pieces of the source, with what else is edited in them: other edits go along with the
 * piece they lie in, as far as the piece's own leave room for them.
 */
export function withInside(edit: Edit, others: readonly Edit[]): Edit {
  const complete = (part: string | SourcePiece): string | SourcePiece => {
    if (typeof part === 'string') return part;
    const inside = others.filter(({ start, end }) => start >= part.from && end <= part.to);
    return { ...part, edits: withoutOverlaps([...part.edits.map((edit) => withInside(edit, inside)), ...inside]) };
  };
  if (typeof edit.text === 'string') return edit;
  return { ...edit, text: Array.isArray(edit.text) ? edit.text.map(complete) : complete(edit.text as SourcePiece) };
}

function overlaps(other: Edit | undefined, edit: Edit): boolean {
  if (other === undefined) return false;
  // An insertion inside a replaced span has nowhere to go; at its ends it has.
  return edit.start < other.end && other.start < edit.end;
}

/** Behind those that start earlier, or at the same place and end no later. */
function placeAmong(sorted: readonly Edit[], { start, end }: Edit): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    const other = sorted[middle];
    if (other && (other.start < start || (other.start === start && other.end <= end))) low = middle + 1;
    else high = middle;
  }
  return low;
}

const utf8 = new TextEncoder();

/**
 * Text as bytes of an encoding. Only UTF-8 and UTF-16 can write every letter; elsewhere letters
 * outside ASCII become character references, which mean the same in text, titles and attributes
 * (HTML standard, section 13.1.4). Scripts are the exception: whoever writes one
 * makes sure that it needs no such letter.
 */
function encodeFor(text: string, encoding: string): Uint8Array {
  if (encoding === 'utf-8') return utf8.encode(text);
  if (encoding.startsWith('utf-16')) {
    const bytes = new Uint8Array(text.length * 2);
    for (let i = 0; i < text.length; i += 1) {
      const unit = text.charCodeAt(i);
      const [first, second] = encoding === 'utf-16be' ? [unit >> 8, unit & 0xff] : [unit & 0xff, unit >> 8];
      bytes[2 * i] = first;
      bytes[2 * i + 1] = second;
    }
    return bytes;
  }
  let ascii = '';
  for (const character of text) {
    const code = character.codePointAt(0) ?? 0;
    ascii += code < 0x80 ? character : `&#${code};`;
  }
  return utf8.encode(ascii);
}

/** Applies edits that do not overlap. With none, the very same bytes come back. Throws a RangeError on overlaps. */
export function splice(bytes: Uint8Array, source: SourceText, edits: readonly Edit[]): Uint8Array {
  if (edits.length === 0) return bytes;
  return spliceSpan(bytes, source, edits, { from: 0, to: source.text.length });
}

function spliceSpan(
  bytes: Uint8Array,
  source: SourceText,
  edits: readonly Edit[],
  span: { from: number; to: number },
): Uint8Array {
  const sorted = [...edits].sort((a, b) => a.start - b.start || a.end - b.end);
  const positions: number[] = [span.from];
  let reached = span.from;
  for (const { start, end } of sorted) {
    if (start < reached || end < start) throw new RangeError(`edits overlap at ${start}`);
    reached = end;
    positions.push(start, end);
  }
  if (reached > span.to) throw new RangeError(`an edit ends behind its span at ${reached}`);
  positions.push(span.to);
  const cuts = findBytePositions(bytes, source, positions);
  const isWhole = span.from === 0 && span.to === source.text.length;
  const pieces: Uint8Array[] = [];
  // The byte order mark is no part of the text, so the whole begins before its first letter.
  let last = isWhole ? 0 : (cuts[0] ?? 0);
  sorted.forEach(({ text }, index) => {
    pieces.push(bytes.subarray(last, cuts[2 * index + 1]));
    for (const part of Array.isArray(text) ? (text as (string | SourcePiece)[]) : [text as string | SourcePiece]) {
      pieces.push(
        typeof part === 'string' ? encodeFor(part, source.encoding) : spliceSpan(bytes, source, part.edits, part),
      );
    }
    last = cuts[2 * index + 2] ?? last;
  });
  pieces.push(isWhole ? bytes.subarray(last) : bytes.subarray(last, cuts.at(-1)));
  return concatenate(pieces);
}

function concatenate(pieces: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}

/** For the inside of an element such as `<title>`. HTML standard, section 13.1.2.2. */
export function escapeText(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;');
}

/** For a value between double quotes. HTML standard, section 13.1.2.3. */
export function escapeAttribute(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/"/g, '&quot;');
}
