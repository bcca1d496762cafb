/**
 * Publishing as a job. Each step can be repeated: contents travel by hash, staging the same release
 * twice is staging it once, and the switch names the release it expects to find. So a job taken up
 * after a crash simply goes through all of them again, and what was done already costs a question.
 */
import type { HostPort } from '@fastigium/contracts/ports/host';
import { candidateFiles, fileOfAddress, splitAddress } from '@fastigium/core/address';
import { deltaOf, emptyManifest, rootOf, type ReleaseDifference, type ShardHashes } from '@fastigium/core/release';
import { z } from 'zod';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { errorRow, type JobHandler, type JobRun } from '../../jobs/queue.ts';
import { sha256 } from '../../threads/tasks.ts';
import { contentBytes, keepContents } from '../contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { tellOthers } from '../telling/outbox.ts';
import { differenceBetween } from './changes.ts';
import { goLive } from './goLive.ts';
import { tellHost } from './keeping.ts';
import { entriesOf } from '../manifests.ts';
import { driftOf } from '../watch/drift.ts';
import { bases } from './pieces.ts';
import { sendContents } from './sendContents.ts';
import { servingContent } from './serving.ts';

const body = z.object({
  release: z.uuid(),
  /** Nothing is taken to be at the host as it was sent. */ whole: z.boolean().default(false),
});

interface Prepared {
  readonly id: string;
  readonly site: string;
  readonly hostName: string;
  readonly host: HostPort;
  readonly shards: ShardHashes;
  readonly rulesHash: string | null;
  readonly live: { readonly id: string; readonly shards: ShardHashes } | undefined;
}

export function publishJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const { release: id, whole } = body.parse(job.body);
      const release = await prepare(deps, id, job);
      const { hostName, host } = release;
      // Reckoned while the host is asked, since it stands on our live release but for once in a while.
      const [current, changes] = await Promise.all([
        host.current(hostName),
        differenceFrom(deps, release, release.live),
      ]);
      if (current === release.id)
        await goLive(deps, release, changes, { stage: () => Promise.resolve(0), switchOver: () => Promise.resolve() });
      else {
        if (whole) await sendAnew(deps, release, job);
        // A host that does not stand on our live release (it was emptied, or restored) is told everything.
        const base = whole || current !== release.live?.id ? undefined : release.live;
        const difference = base === release.live ? changes : await differenceFrom(deps, release, base);
        await send(deps, release, difference, job);
        await goLive(deps, release, changes, {
          stage: () =>
            host.stage(
              hostName,
              {
                id: release.id,
                base: base?.id ?? null,
                ...deltaOf(difference),
                rules: release.rulesHash,
                root: rootOf(release.shards, sha256),
              },
              job.signal,
            ),
          switchOver: async () => {
            job.signal.throwIfAborted();
            await host.switchTo(hostName, release.id, current);
          },
        });
      }
      await tellHost(deps, release.site, host, hostName);
    },
    async undo(job, error) {
      const { release } = body.parse(job.body);
      await deps.db.transaction(async (tx) => {
        await tx.run(`update release set state = $2, error = $3 where id = $1 and state = 'sending'`, [
          release,
          error.code === 'cancelled' ? 'cancelled' : 'failed',
          JSON.stringify(errorRow(error)),
        ]);
        if (error.code !== 'cancelled') {
          const { number, note, by } = await tx.one<{ number: number; note: string; by: string }>(
            'select r.number, r.note, p.name as by from release r join person p on p.id = r.created_by where r.id = $1',
            [release],
          );
          await tellOthers(tx, deps, job.site, 'release-failed', {
            words: `Release ${number} did not go out: ${error.message}`,
            release: { number, note, by },
          });
        }
        await announce(tx, { kind: 'release', site: job.site });
      });
    },
  };
}

/** Fixes what the release consists of, the first time; afterwards it never changes. */
async function prepare(deps: Deps, id: string, job: JobRun): Promise<Prepared> {
  const row = await deps.db.one<{
    site: string;
    hostName: string;
    version: number;
    shards: string[] | null;
    rulesHash: string | null;
    liveId: string | null;
    liveShards: string[] | null;
  }>(
    `select r.site_id as site, s.host_name as "hostName", r.version, r.shards, r.rules_hash as "rulesHash",
            l.id as "liveId", l.shards as "liveShards"
       from release r join site s on s.id = r.site_id left join release l on l.id = s.live_release where r.id = $1`,
    [id],
  );
  const live = row.liveId !== null && row.liveShards !== null ? { id: row.liveId, shards: row.liveShards } : undefined;
  const common = { id, site: row.site, hostName: row.hostName, host: await deps.hosts.of(deps.db, row.site), live };
  if (row.shards !== null) return { ...common, shards: row.shards, rulesHash: row.rulesHash };
  const compiled = await compileDraft(deps, row.site, { version: row.version, signal: job.signal, report: job.report });
  const serving = servingContent({ rules: compiled.rules.rules, access: compiled.access });
  const rulesHash = serving?.hash ?? null;
  await deps.db.transaction(async (tx) => {
    if (serving) await keepContents(tx, [serving], null);
    await tx.run('update release set shards = $2, rules_hash = $3, files = $4, bytes = $5 where id = $1', [
      id,
      compiled.shards,
      rulesHash,
      compiled.files,
      compiled.bytes,
    ]);
  });
  return { ...common, shards: compiled.shards, rulesHash };
}

function differenceFrom(deps: Deps, { shards }: Prepared, base: Prepared['live']): Promise<ReleaseDifference> {
  return differenceBetween(deps.db, base?.shards ?? emptyManifest, shards);
}

async function send(deps: Deps, release: Prepared, difference: ReleaseDifference, job: JobRun): Promise<void> {
  const sent = await sendContents(deps, release, deltaOf(difference).put, bases(difference), job);
  await countSent(deps, release.id, sent.files, sent.bytes);
}

/** Added up over attempts: what a first one sent before it was killed was sent all the same. */
async function countSent(deps: Deps, release: string, files: number, bytes: number): Promise<void> {
  await deps.db.run('update release set files_sent = files_sent + $2, bytes_sent = bytes_sent + $3 where id = $1', [
    release,
    files,
    bytes,
  ]);
}

/** Contents of which the live host gave something else, as the last look found it: what is there under their hash may not have it any more. */
async function sendAnew(deps: Deps, release: Prepared, job: JobRun): Promise<void> {
  const { findings } = (await driftOf(deps.db, release.site)) ?? { findings: [] };
  const drifted = new Set(
    findings.flatMap(({ address }) => {
      const { path } = splitAddress(address);
      return [...candidateFiles(path), fileOfAddress(path) ?? ''];
    }),
  );
  for (const { hash } of (await entriesOf(deps.db, release.shards, [...drifted])).values()) {
    job.signal.throwIfAborted();
    const sent = await release.host.put(release.hostName, hash, await contentBytes(deps.db, hash), job.signal);
    await countSent(deps, release.id, 1, sent);
  }
}
