/**
 * Cutting bytes where their content says, so that what is inserted moves no cut but those beside it.
 *
 * FastCDC: Xia, Zhou, Jiang, Feng, Hua, Hu, Liu, Zhang, "FastCDC: a Fast and Efficient Content-Defined Chunking
 * Approach for Data Deduplication", USENIX ATC 2016, algorithm 1: a gear hash, no cut below a least size, a stricter
 * mask before the wanted size and a laxer one behind it. The hash has 32 bits here instead of 64, so it looks at 32
 * bytes; the masks have as many ones as the paper's (15 and 11), in the highest places, which every one of the 32
 * bytes reaches.
 */

export const LEAST_BYTES = 2048; // 2 KiB
export const WANTED_BYTES = 8192; // 8 KiB
export const MOST_BYTES = 65_536; // 64 KiB
const STRICT = 0xff_fe_00_00;
const LAX = 0xff_e0_00_00;

/** 256 numbers without a pattern; any would do, as long as they are always the same. Xorshift, 32 bits (Marsaglia 2003). */
const GEAR = createGear();
function createGear(): Int32Array {
  const table = new Int32Array(256);
  let state = 0x9e_37_79_b9 | 0;
  for (let n = 0; n < 256; n += 1) {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    table[n] = state;
  }
  return table;
}

/** @returns where each piece ends; the last is the length. None for no bytes. */
export function cut(bytes: Uint8Array): number[] {
  const ends: number[] = [];
  for (let from = 0; from < bytes.length;) {
    from = endOfPiece(bytes, from);
    ends.push(from);
  }
  return ends;
}

function endOfPiece(bytes: Uint8Array, from: number): number {
  const most = Math.min(bytes.length, from + MOST_BYTES);
  const wanted = Math.min(most, from + WANTED_BYTES);
  let at = from + LEAST_BYTES;
  if (at >= most) return most;
  let hash = 0;
  for (; at < wanted; at += 1) {
    hash = ((hash << 1) + (GEAR[bytes[at] ?? 0] ?? 0)) | 0;
    if ((hash & STRICT) === 0) return at + 1;
  }
  for (; at < most; at += 1) {
    hash = ((hash << 1) + (GEAR[bytes[at] ?? 0] ?? 0)) | 0;
    if ((hash & LAX) === 0) return at + 1;
  }
  return most;
}
