/**
 * How alike two texts are, told from a few numbers of each: the least hashes of their runs of three
 * words, in bins (one permutation hashing: Li, Owen and Zhang, 2012, after Broder's min-wise hashing).
 */

/** As many bins as are kept: the error of the estimate is about 1 over their root. */
export const FINGERPRINT_LENGTH = 32;

/** Signed 32-bit numbers, one a bin; -1 for an empty one. A text of fewer than three words has none. */
export function computeFingerprint(text: string): number[] {
  const words = text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  const bins = new Array<number>(FINGERPRINT_LENGTH).fill(-1);
  // Each word once; a run of three is made of the hashes of its words, in their order.
  const hashes = words.map(hashFnv1a);
  for (let at = 0; at + 3 <= hashes.length; at += 1) {
    const hash = mixBits(mixBits(hashes[at] ?? 0, hashes[at + 1] ?? 0), hashes[at + 2] ?? 0);
    const bin = hash % FINGERPRINT_LENGTH;
    const value = (hash >>> 5) & 0x7ffffff;
    const kept = bins[bin] ?? -1;
    if (kept < 0 || value < kept) bins[bin] = value;
  }
  return words.length < 3 ? [] : bins;
}

/** Order counts, and every bit of both reaches the low ones that choose the bin (the finaliser of MurmurHash3, public domain). */
function mixBits(a: number, b: number): number {
  let hash = Math.imul(a, 31) ^ b;
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}

/** FNV-1a, 32 bit (draft-eastlake-fnv, section 2). */
function hashFnv1a(text: string): number {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at += 1) {
    hash ^= text.charCodeAt(at);
    hash = Math.imul(hash, 0x01000193);
  }
  return hash >>> 0;
}

/** From 0 to 1; an estimate of the Jaccard index of their runs of words. */
export function computeAlikeness(a: readonly number[], b: readonly number[]): number {
  if (a.length !== FINGERPRINT_LENGTH || b.length !== FINGERPRINT_LENGTH) return 0;
  let same = 0;
  let counted = 0;
  for (let bin = 0; bin < FINGERPRINT_LENGTH; bin += 1) {
    const [x = -1, y = -1] = [a[bin], b[bin]];
    if (x < 0 && y < 0) continue;
    counted += 1;
    if (x === y) same += 1;
  }
  return counted === 0 ? 0 : same / counted;
}
