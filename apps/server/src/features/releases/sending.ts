/** What a publish would send, asked of the host itself. */
import { deltaOf, type ReleaseDifference } from '@fastigium/core/release';
import type { Deps } from '../../deps.ts';
import { siteState } from '../draft/history.ts';

export async function whatWillBeSent(deps: Deps, site: string, difference: ReleaseDifference): Promise<{ files: number; bytes: number }> {
  const { hostName } = await siteState(deps.db, site);
  const sizes = new Map(deltaOf(difference).put.map(({ hash, sizeBytes }) => [hash, sizeBytes]));
  const missing = await (await deps.hosts.of(deps.db, site)).missing(hostName, [...sizes.keys()]);
  return { files: missing.length, bytes: missing.reduce((sum, hash) => sum + (sizes.get(hash) ?? 0), 0) };
}
