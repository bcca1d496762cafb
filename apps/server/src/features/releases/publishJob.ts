/**
 * Publishing as a job. Each step can be repeated: contents travel by hash, staging the same release
 * twice is staging it once, and the switch names the release it expects to find. So a job taken up
 * after a crash simply goes through all of them again, and what was done already costs a question.
 */
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';
import { addressOfFile, candidateFiles, fileOfAddress, isPageFile, splitAddress } from '@fastigium/core/address';
import { deltaOf, emptyManifest, rootOf, type ManifestEntry, type ReleaseDifference, type ShardHashes } from '@fastigium/core/release';
import { z } from 'zod';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { errorRow, type JobHandler, type JobRun } from '../../jobs/queue.ts';
import { sha256 } from '../../threads/tasks.ts';
import { contentBytes, keepContents } from '../contents.ts';
import { lookSoon } from '../address/schedule.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { inspectSoon } from '../inspection/inspectJob.ts';
import { tellOthers } from '../telling/outbox.ts';
import { differenceBetween } from './changes.ts';
import { letOldGo, tellHost } from './keeping.ts';
import { entriesOf } from '../manifests.ts';
import { driftOf } from '../watch/drift.ts';
import { bases } from './pieces.ts';
import { sendContents } from './sendContents.ts';
import { servingContent } from './serving.ts';

const body = z.object({ release: z.uuid(), /** Nothing is taken to be at the host as it was sent. */ whole: z.boolean().default(false) });

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
      const [current, changes] = await Promise.all([host.current(hostName), differenceFrom(deps, release, release.live)]);
      if (current !== release.id) {
        if (whole) await sendAnew(deps, release, job);
        // A host that does not stand on our live release (it was emptied, or restored) is told everything.
        const base = whole || current !== release.live?.id ? undefined : release.live;
        await stage(deps, release, base, base === release.live ? changes : await differenceFrom(deps, release, base), job);
        job.signal.throwIfAborted();
        await host.switchTo(hostName, release.id, current);
      }
      await markLive(deps, release, changes);
      await tellHost(deps, release.site, host, hostName);
    },
    async undo(job, error) {
      const { release } = body.parse(job.body);
      await deps.db.transaction(async (tx) => {
        await tx.run(`update release set state = $2, error = $3 where id = $1 and state = 'sending'`, [
          release, error.code === 'cancelled' ? 'cancelled' : 'failed', JSON.stringify(errorRow(error)),
        ]);
        if (error.code !== 'cancelled') {
          const { number, note, by } = await tx.one<{ number: number; note: string; by: string }>('select r.number, r.note, p.name as by from release r join person p on p.id = r.created_by where r.id = $1', [release]);
          await tellOthers(tx, deps, job.site, 'release-failed', { words: `Release ${number} did not go out: ${error.message}`, release: { number, note, by } });
        }
        await announce(tx, { kind: 'release', site: job.site });
      });
    },
  };
}

/** Fixes what the release consists of, the first time; afterwards it never changes. */
async function prepare(deps: Deps, id: string, job: JobRun): Promise<Prepared> {
  const row = await deps.db.one<{
    site: string; hostName: string; version: number; shards: string[] | null; rulesHash: string | null; liveId: string | null; liveShards: string[] | null;
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
      id, compiled.shards, rulesHash, compiled.files, compiled.bytes,
    ]);
  });
  return { ...common, shards: compiled.shards, rulesHash };
}

function differenceFrom(deps: Deps, { shards }: Prepared, base: Prepared['live']): Promise<ReleaseDifference> {
  return differenceBetween(deps.db, base?.shards ?? emptyManifest, shards);
}

async function stage(deps: Deps, release: Prepared, base: Prepared['live'], difference: ReleaseDifference, job: JobRun): Promise<void> {
  const delta = deltaOf(difference);
  const sent = await sendContents(deps, release, delta.put, bases(difference), job);
  await countSent(deps, release.id, sent.files, sent.bytes);
  const describedBytes = await release.host.stage(release.hostName, {
    id: release.id, base: base?.id ?? null, ...delta, rules: release.rulesHash, root: rootOf(release.shards, sha256),
  }, job.signal);
  await countSent(deps, release.id, 0, describedBytes);
}

/** Added up over attempts: what a first one sent before it was killed was sent all the same. */
async function countSent(deps: Deps, release: string, files: number, bytes: number): Promise<void> {
  await deps.db.run('update release set files_sent = files_sent + $2, bytes_sent = bytes_sent + $3 where id = $1', [release, files, bytes]);
}

/** Contents of which the live host gave something else, as the last look found it: what is there under their hash may not have it any more. */
async function sendAnew(deps: Deps, release: Prepared, job: JobRun): Promise<void> {
  const { findings } = (await driftOf(deps.db, release.site)) ?? { findings: [] };
  const drifted = new Set(findings.flatMap(({ address }) => { const { path } = splitAddress(address); return [...candidateFiles(path), fileOfAddress(path) ?? '']; }));
  for (const { hash } of (await entriesOf(deps.db, release.shards, [...drifted])).values()) {
    job.signal.throwIfAborted();
    const sent = await release.host.put(release.hostName, hash, await contentBytes(deps.db, hash), job.signal);
    await countSent(deps, release.id, 1, sent);
  }
}

/** Since when visitors get each page as it is. */
async function keepChanges(tx: Queries, { site }: Prepared, day: string, { added, changed, moved, removed }: ReleaseDifference): Promise<void> {
  const now = [...added, ...[...changed, ...moved].map(({ after }) => after)].filter(({ path }) => isPageFile(path));
  const gone = [...removed, ...moved.map(({ before }) => before)].map(({ path }) => path);
  if (gone.length > 0) await tx.run('delete from page_changed where site_id = $1 and path = any($2)', [site, gone]);
  if (now.length > 0) await tx.run(
    `insert into page_changed (site_id, path, hash, day) select $1, r.path, r.hash, $2 from unnest($3::text[], $4::text[]) as r(path, hash)
     on conflict (site_id, path) do update set hash = excluded.hash, day = excluded.day`, [site, day, now.map(({ path }) => path), now.map(({ hash }) => hash)],
  );
}

/** @param changes what visitors get otherwise than before */
async function markLive(deps: Deps, release: Prepared, changes: ReleaseDifference): Promise<void> {
  const { id, site } = release;
  await deps.db.transaction(async (tx) => {
    await tx.run('select 1 from site where id = $1 for no key update', [site]);
    const { state, by } = await tx.one<{ state: string; by: string }>('select state, created_by as by from release where id = $1', [id]);
    // Killed between this and the end of its job, it is taken up again although everything is done.
    if (state === 'live') return;
    if (state !== 'sending') throw new DomainError('job-ended');
    await tx.run(`update release set state = 'past' where site_id = $1 and state = 'live'`, [site]);
    await tx.run(`update release set state = 'live', live_at = $2 where id = $1`, [id, new Date(deps.world.clock.nowMs())]);
    await tx.run('update site set live_release = $2 where id = $1', [site, id]);
    await letOldGo(tx, site, by);
    await keepChanges(tx, release, new Date(deps.world.clock.nowMs()).toISOString().slice(0, 10), changes);
    await tx.run('insert into watched_log (site_id, next_read_at) values ($1, $2) on conflict do nothing', [site, new Date(deps.world.clock.nowMs())]);
    await inspectSoon(tx, { release: id, site, by });
    await lookSoon(tx, site, deps.world.clock.nowMs());
    await tellLive(tx, deps, release, changes);
    await announce(tx, { kind: 'release', site });
  });
}

const MOST_TOLD = 500;

async function tellLive(tx: Queries, deps: Deps, { id, site }: Prepared, { added, changed, moved, removed }: ReleaseDifference): Promise<void> {
  const pages = (entries: readonly ManifestEntry[]) => entries.filter(({ path }) => isPageFile(path)).slice(0, MOST_TOLD).map(({ path }) => addressOfFile(path));
  const { number, note, by } = await tx.one<{ number: number; note: string; by: string }>('select r.number, r.note, p.name as by from release r join person p on p.id = r.created_by where r.id = $1', [id]);
  await tellOthers(tx, deps, site, 'release-live', {
    words: `Release ${number} is live, published by ${by}.`, release: { number, note, by },
    pages: { new: pages([...added, ...moved.map(({ after }) => after)]), changed: pages(changed.map(({ after }) => after)), gone: pages([...removed, ...moved.map(({ before }) => before)]) },
  });
}
