/** In what shares many contents go to a host that takes them together. */

/** Batches that are under way at once. */
export const BATCHES_AT_ONCE = 3;

/** So many, and as many bytes, that progress is seen and memory is not filled. */
const MOST_A_BATCH = 1250;
const MOST_BATCH_BYTES = 24 * 1024 * 1024; // 24 MiB
const LEAST_A_BATCH = 300;
/** The first is small, so that the host has something to do while the next are read. */
const FIRST_BATCH = 150;

/**
 * Each twice as many as the one before at first, and a share of what is left in the end, so that the last ones are
 * small and all who send are done at about the same time (guided self-scheduling; Polychronopoulos and Kuck, IEEE
 * Transactions on Computers C-36, 1987).
 * @param sizes in bytes, by hash; one that is not known counts nothing
 */
export function* splitBatches(hashes: readonly string[], sizes: ReadonlyMap<string, number>): Generator<string[]> {
  let batch: string[] = [];
  let bytes = 0;
  let most = FIRST_BATCH;
  for (const [at, hash] of hashes.entries()) {
    const size = sizes.get(hash) ?? 0;
    if (batch.length > 0 && (batch.length >= most || bytes + size > MOST_BATCH_BYTES)) {
      yield batch;
      const share = Math.ceil((hashes.length - at) / BATCHES_AT_ONCE);
      [batch, bytes, most] = [[], 0, Math.min(2 * most, MOST_A_BATCH, Math.max(LEAST_A_BATCH, share))];
    }
    batch.push(hash);
    bytes += size;
  }
  if (batch.length > 0) yield batch;
}
