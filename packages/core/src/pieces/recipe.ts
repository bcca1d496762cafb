/** How to make one content out of another that the receiver has, and a few bytes it has not. */
import { cut } from './cut.ts';

/** Bytes of the old content from an offset, or as many of those that are sent. */
export type Part = { readonly copy: number; readonly length: number } | { readonly sent: number };

export interface Recipe {
  readonly parts: readonly Part[];
  /** What the old content does not have, in the order of the parts. */
  readonly sent: Uint8Array;
}

/**
 * Pieces that both have are copied; then each copy grows byte by byte into what lies beside it, so that what is sent
 * is little more than what was inserted.
 */
export function writeRecipe(old: Uint8Array, now: Uint8Array): Recipe {
  const copies = growRuns(old, now, findCommon(old, now));
  const parts: Part[] = [];
  const sent: Uint8Array[] = [];
  let at = 0;
  const send = (to: number) => {
    if (to <= at) return;
    parts.push({ sent: to - at });
    sent.push(now.subarray(at, to));
  };
  for (const { from, to, copy } of copies) {
    send(from);
    parts.push({ copy, length: to - from });
    at = to;
  }
  send(now.length);
  return { parts, sent: concatenate(sent) };
}

/** A run of the new content that stands in the old one at `copy`. */
interface Run {
  from: number;
  to: number;
  readonly copy: number;
}

function findCommon(old: Uint8Array, now: Uint8Array): Run[] {
  const known = new Map<number, { readonly from: number; readonly to: number }[]>();
  let start = 0;
  for (const end of cut(old)) {
    const key = hash(old, start, end);
    const list = known.get(key);
    if (list) list.push({ from: start, to: end });
    else known.set(key, [{ from: start, to: end }]);
    start = end;
  }
  const runs: Run[] = [];
  start = 0;
  for (const end of cut(now)) {
    const last = runs.at(-1);
    const expected = last?.to === start ? last.copy + (last.to - last.from) : -1;
    const places = (known.get(hash(now, start, end)) ?? []).filter(
      ({ from, to }) => to - from === end - start && isSame(old, from, now, start, end - start),
    );
    // The one that follows on what was copied last, where there are several: one long copy says less than many.
    const place = places.find(({ from }) => from === expected) ?? places[0];
    if (place) {
      if (last && place.from === expected) last.to = end;
      else runs.push({ from: start, to: end, copy: place.from });
    }
    start = end;
  }
  return runs;
}

function growRuns(old: Uint8Array, now: Uint8Array, runs: readonly Run[]): Run[] {
  const out: Run[] = [];
  let before = 0;
  runs.forEach((run, n) => {
    let { from, to, copy } = run;
    while (from > before && copy > 0 && now[from - 1] === old[copy - 1]) [from, copy] = [from - 1, copy - 1];
    const limit = runs[n + 1]?.from ?? now.length;
    while (to < limit && copy + (to - from) < old.length && now[to] === old[copy + (to - from)]) to += 1;
    out.push({ from, to, copy });
    before = to;
  });
  return out;
}

/**
 * The content a recipe makes.
 *
 * @throws RangeError where it asks for bytes that are not there
 */
export function follow(old: Uint8Array, { parts, sent }: Recipe): Uint8Array {
  const pieces: Uint8Array[] = [];
  let at = 0;
  for (const part of parts) {
    const [from, offset, length] = 'copy' in part ? [old, part.copy, part.length] : [sent, at, part.sent];
    if (offset < 0 || length < 0 || offset + length > from.length)
      throw new RangeError('the recipe asks for bytes that are not there');
    pieces.push(from.subarray(offset, offset + length));
    if (!('copy' in part)) at += length;
  }
  if (at !== sent.length) throw new RangeError('more bytes were sent than the recipe asks for');
  return concatenate(pieces);
}

function concatenate(pieces: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}

/** FNV-1a, 32 bits (draft-eastlake-fnv): finds candidates, which are compared byte by byte. */
function hash(bytes: Uint8Array, from: number, to: number): number {
  let value = 0x811c9dc5;
  for (let at = from; at < to; at += 1) value = Math.imul(value ^ (bytes[at] ?? 0), 0x01000193);
  return value;
}

function isSame(a: Uint8Array, aFrom: number, b: Uint8Array, bFrom: number, length: number): boolean {
  for (let n = 0; n < length; n += 1) if (a[aFrom + n] !== b[bFrom + n]) return false;
  return true;
}
