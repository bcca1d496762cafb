/** What a publish would send, asked of the host itself. */
import { deriveDelta, type ReleaseDifference } from '@fastigium/core/release';
import type { Deps } from '../../deps.ts';
import { readSiteState } from '../draft/history.ts';
import { pairBases, countSentBytes } from './pieces.ts';

export async function reckonWhatIsSent(
  deps: Deps,
  site: string,
  difference: ReleaseDifference,
): Promise<{ files: number; bytes: number }> {
  const { hostName } = await readSiteState(deps.db, site);
  const sizes = new Map(deriveDelta(difference).put.map(({ hash, sizeBytes }) => [hash, sizeBytes]));
  const host = await deps.hosts.of(deps.db, site);
  const missing = await host.missing(hostName, sizes);
  const olds = host.putFrom ? pairBases(difference) : new Map<string, string>();
  let bytes = 0;
  for (const hash of missing) {
    const [size, old] = [sizes.get(hash) ?? 0, olds.get(hash)];
    bytes += old === undefined ? size : await countSentBytes(deps, old, hash, size);
  }
  return { files: missing.length, bytes };
}
