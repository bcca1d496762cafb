/** Sending contents to a host: many at once where it takes them so, as pieces of what it has where that is shorter. */
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';
import { splitBatches, BATCHES_AT_ONCE, type ManifestEntry } from '@fastigium/core/release';
import type { Deps } from '../../deps.ts';
import type { JobRun } from '../../jobs/queue.ts';
import { readContent, readContentsByHash, readContentSize } from '../shared/contents.ts';
import { findRecipe } from './pieces.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

/** Contents on their way at once; a host answers each only after it has checked and kept it. */
const SENT_AT_ONCE = 8;

/** What is to be sent, and to where. */
export interface Sending {
  /** The release. */
  readonly id: string;
  readonly host: HostPort;
  readonly hostName: string;
  readonly rulesHash: string | null;
}

/** Sends what the host does not have yet. @returns files and bytes on the wire */
export async function sendContents(
  deps: Deps,
  release: Sending,
  put: readonly ManifestEntry[],
  olds: ReadonlyMap<string, string>,
  job: Pick<JobRun, 'signal' | 'report'>,
): Promise<{ readonly files: number; readonly bytes: number }> {
  const sizes = new Map(put.map(({ hash, sizeBytes }) => [hash, sizeBytes]));
  if (release.rulesHash !== null) sizes.set(release.rulesHash, await readContentSize(deps.db, release.rulesHash));
  const missing = await release.host.missing(release.hostName, sizes, job.signal);
  const total = missing.reduce((sum, hash) => sum + (sizes.get(hash) ?? 0), 0);
  let done = 0;
  let sentBytes = 0;
  const queue = missing.values();
  const report = () => job.report({ step: progressStep('sending'), done, total, unit: 'bytes' });
  report();
  const sendMany = release.host.putMany;
  if (sendMany && missing.length > FEW) {
    // In the order of their hashes, so that what lies together at the host comes together.
    const waiting = splitBatches([...queue].sort(), sizes);
    const entries = groupByHash(put);
    const sendBatches = async () => {
      for (const batch of waiting) {
        job.signal.throwIfAborted();
        const bytes = await readContentsByHash(deps.db, batch);
        const onTheWire = await sendMany(
          release.hostName,
          batch.map((hash) => ({ hash, bytes: bytes.get(hash) ?? throwLost(hash) })),
          { release: release.id, entries: batch.flatMap((hash) => entries.get(hash) ?? []) },
          job.signal,
        );
        sentBytes += onTheWire;
        done += batch.reduce((sum, hash) => sum + (sizes.get(hash) ?? 0), 0);
        report();
      }
    };
    // While one is unpacked there and one is on its way, the next is read here.
    await Promise.all(Array.from({ length: BATCHES_AT_ONCE }, sendBatches));
  }
  const sender = async () => {
    for (const hash of queue) {
      job.signal.throwIfAborted();
      const onTheWire = await sendOne(deps, release, hash, olds.get(hash), job.signal);
      // Not `+= await`, which would add to the sum as it was before the others came in.
      sentBytes += onTheWire;
      done += sizes.get(hash) ?? 0;
      report();
    }
  };
  await Promise.all(Array.from({ length: Math.min(SENT_AT_ONCE, missing.length) }, sender));
  return { files: missing.filter((hash) => hash !== release.rulesHash).length, bytes: sentBytes };
}

/** Up to here the pieces of what is there save more than sending at once. */
const FEW = 50;

function groupByHash(put: readonly ManifestEntry[]): ReadonlyMap<string, ManifestEntry[]> {
  const entries = new Map<string, ManifestEntry[]>();
  for (const entry of put) {
    const known = entries.get(entry.hash);
    if (known) known.push(entry);
    else entries.set(entry.hash, [entry]);
  }
  return entries;
}

function throwLost(hash: string): never {
  throw new Error(`content ${hash} is not kept`);
}

/** As pieces of what the host has, where that is shorter; whole where it is not, or where the host has lost the old one. */
async function sendOne(
  deps: Deps,
  { host, hostName }: Sending,
  hash: string,
  old: string | undefined,
  signal: AbortSignal,
): Promise<number> {
  if (old !== undefined && host.putFrom) {
    const recipe = await findRecipe(deps, old, hash, signal);
    try {
      if (recipe) return await host.putFrom(hostName, hash, old, recipe, signal);
    } catch (error) {
      if (!(error instanceof DomainError && error.code === 'host-refused')) throw error;
    }
  }
  return host.put(hostName, hash, await readContent(deps.db, hash), signal);
}
