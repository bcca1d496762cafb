/** What a publish would send, asked of the host itself. */
import { deltaOf, type ReleaseDifference } from '@fastigium/core/release';
import type { Deps } from '../../deps.ts';
import { siteState } from '../draft/history.ts';
import { bases, sentBytes } from './pieces.ts';

export async function whatWillBeSent(
  deps: Deps,
  site: string,
  difference: ReleaseDifference,
): Promise<{ files: number; bytes: number }> {
  const { hostName } = await siteState(deps.db, site);
  const sizes = new Map(deltaOf(difference).put.map(({ hash, sizeBytes }) => [hash, sizeBytes]));
  const host = await deps.hosts.of(deps.db, site);
  const missing = await host.missing(hostName, sizes);
  const olds = host.putFrom ? bases(difference) : new Map<string, string>();
  let bytes = 0;
  for (const hash of missing) {
    const [size, old] = [sizes.get(hash) ?? 0, olds.get(hash)];
    bytes += old === undefined ? size : await sentBytes(deps, old, hash, size);
  }
  return { files: missing.length, bytes };
}
