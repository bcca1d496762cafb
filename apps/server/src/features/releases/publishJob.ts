/**
 * Publishing as a job. Each step can be repeated: contents travel by hash, staging the same release
 * twice is staging it once, and the switch names the release it expects to find. So a job taken up
 * after a crash simply goes through all of them again, and what was done already costs a question.
 */
import { told } from '@fastigium/contracts/messages/told';
import { DomainError, passes } from '@fastigium/contracts/errors';
import type { HostPort } from '@fastigium/contracts/ports/host';
import { listCandidateFiles, findFileOfAddress, splitAddress } from '@fastigium/core/address';
import {
  deriveDelta,
  emptyManifest,
  computeRoot,
  type ReleaseDifference,
  type ShardHashes,
} from '@fastigium/core/release';
import { setTimeout as pause } from 'node:timers/promises';
import { z } from 'zod';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { describeError, type JobHandler, type JobRun } from '../../jobs/queue.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { readContent, keepContents } from '../shared/contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { tellOthers } from '../telling/outbox.ts';
import { readDifference } from '../changes/changes.ts';
import { goLive } from './goLive.ts';
import { tellHost } from './keeping.ts';
import { readEntries } from '../shared/manifests.ts';
import { readDrift } from '../inspection/drift.ts';
import { pairBases } from './pieces.ts';
import { sendContents } from './sendContents.ts';
import { createServingContent } from '../shared/serving.ts';
import { explainError } from '../../words.ts';

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
        readDifferenceFrom(deps, release, release.live),
      ]);
      let describedBytes = 0;
      if (current !== release.id) {
        if (whole) await sendAnew(deps, release, job);
        // A host that does not stand on our live release (it was emptied, or restored) is told everything.
        const base = whole || current !== release.live?.id ? undefined : release.live;
        describedBytes = await putInPlace(deps, release, base, changes, job);
        await switchOver(deps, release, current, job);
      }
      await goLive(deps, release, changes, describedBytes);
      await tellHost(deps, release.site, host, hostName);
    },
    async undo(job, error) {
      const { release: id } = body.parse(job.body);
      // Whatever went wrong on this side of it: what visitors get decides.
      const release = await readPrepared(deps, id);
      if (release && (await release.host.current(release.hostName).catch(() => null)) === id) {
        await goLive(deps, release, await readDifferenceFrom(deps, release, release.live), 0);
        return 'done';
      }
      await deps.db.transaction(async (tx) => {
        await tx.run(`update release set state = $2, error = $3 where id = $1 and state = 'sending'`, [
          id,
          error.code === 'cancelled' ? 'cancelled' : 'failed',
          JSON.stringify(describeError(error)),
        ]);
        if (error.code !== 'cancelled') {
          const { number, note, by } = await tx.one<{ number: number; note: string; by: string }>(
            'select r.number, r.note, p.name as by from release r join person p on p.id = r.created_by where r.id = $1',
            [id],
          );
          await tellOthers(
            tx,
            deps,
            job.site,
            'release-failed',
            told('release-failed', { number, reason: error.told }),
            {
              release: { number, note, by },
            },
          );
        }
        await announce(tx, { kind: 'release', site: job.site });
      });
      return undefined;
    },
  };
}

/** Sends what the host lacks and has it put the release in place beside the live one. @returns bytes on the wire for the latter */
async function putInPlace(
  deps: Deps,
  release: Prepared,
  base: Prepared['live'],
  changes: ReleaseDifference,
  job: JobRun,
): Promise<number> {
  const difference = base === release.live ? changes : await readDifferenceFrom(deps, release, base);
  await send(deps, release, difference, job);
  try {
    return await release.host.stage(
      release.hostName,
      {
        id: release.id,
        base: base?.id ?? null,
        ...deriveDelta(difference),
        rules: release.rulesHash,
        root: computeRoot(release.shards, hashSha256),
      },
      job.signal,
    );
  } catch (error) {
    if (!base || !(error instanceof DomainError && error.code === 'host-lost-base')) throw error;
    // What the host has is spoiled: it is told everything, and gets what is not whole there.
    return putInPlace(deps, release, undefined, changes, job);
  }
}

/** Times a host is asked what it has, after the line to it broke in the very moment of the switch. */
const ASKED_AFTER_SWITCH = 5;
const ASK_AGAIN_MS = 500;

/** From here on visitors get the release; where the host's answer is lost, it is asked which one it has. */
async function switchOver(deps: Deps, release: Prepared, expected: string | null, job: JobRun): Promise<void> {
  const { id, host, hostName } = release;
  await refuseEnded(deps, id);
  job.signal.throwIfAborted();
  try {
    await host.switchTo(hostName, id, expected);
  } catch (error) {
    if (!(error instanceof DomainError && passes(error))) throw error;
    for (let asked = 0; asked < ASKED_AFTER_SWITCH; asked += 1) {
      const current = await host.current(hostName).catch(() => undefined);
      if (current === id) return;
      if (current !== undefined) throw error;
      await pause(ASK_AGAIN_MS);
    }
    throw new DomainError('host-silent', { detail: explainError(error) }, { cause: error });
  }
}

/** Nothing is switched on that somebody was told has failed. */
async function refuseEnded(deps: Deps, release: string): Promise<void> {
  const { state } = await deps.db.one<{ state: string }>('select state from release where id = $1', [release]);
  if (state !== 'sending' && state !== 'live') throw new DomainError('job-ended');
}

/** A release whose files are fixed; undefined before that. */
async function readPrepared(deps: Deps, id: string): Promise<Prepared | undefined> {
  const row = await readReleaseRow(deps, id);
  return row.shards === null ? undefined : asPrepared(deps, id, row, { shards: row.shards, rulesHash: row.rulesHash });
}

/** Fixes what the release consists of, the first time; afterwards it never changes. */
async function prepare(deps: Deps, id: string, job: JobRun): Promise<Prepared> {
  const row = await readReleaseRow(deps, id);
  if (row.shards !== null) return asPrepared(deps, id, row, { shards: row.shards, rulesHash: row.rulesHash });
  const compiled = await compileDraft(deps, row.site, { version: row.version, signal: job.signal, report: job.report });
  const serving = createServingContent({ rules: compiled.rules.rules, access: compiled.access });
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
  return asPrepared(deps, id, row, { shards: compiled.shards, rulesHash });
}

interface ReleaseRow extends Record<string, unknown> {
  site: string;
  hostName: string;
  version: number;
  shards: string[] | null;
  rulesHash: string | null;
  liveId: string | null;
  liveShards: string[] | null;
}

function readReleaseRow(deps: Deps, id: string): Promise<ReleaseRow> {
  return deps.db.one<ReleaseRow>(
    `select r.site_id as site, s.host_name as "hostName", r.version, r.shards, r.rules_hash as "rulesHash",
            l.id as "liveId", l.shards as "liveShards"
       from release r join site s on s.id = r.site_id left join release l on l.id = s.live_release where r.id = $1`,
    [id],
  );
}

async function asPrepared(
  deps: Deps,
  id: string,
  { site, hostName, liveId, liveShards }: ReleaseRow,
  files: Pick<Prepared, 'shards' | 'rulesHash'>,
): Promise<Prepared> {
  return {
    id,
    site,
    hostName,
    host: await deps.hosts.of(deps.db, site),
    ...files,
    live: liveId !== null && liveShards !== null ? { id: liveId, shards: liveShards } : undefined,
  };
}

function readDifferenceFrom(deps: Deps, { shards }: Prepared, base: Prepared['live']): Promise<ReleaseDifference> {
  return readDifference(deps.db, base?.shards ?? emptyManifest, shards);
}

async function send(deps: Deps, release: Prepared, difference: ReleaseDifference, job: JobRun): Promise<void> {
  const sent = await sendContents(deps, release, deriveDelta(difference).put, pairBases(difference), job);
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
  const { findings } = (await readDrift(deps.db, release.site)) ?? { findings: [] };
  const drifted = new Set(
    findings.flatMap(({ address }) => {
      const { path } = splitAddress(address);
      return [...listCandidateFiles(path), findFileOfAddress(path) ?? ''];
    }),
  );
  for (const { hash } of (await readEntries(deps.db, release.shards, [...drifted])).values()) {
    job.signal.throwIfAborted();
    const sent = await release.host.put(release.hostName, hash, await readContent(deps.db, hash), job.signal);
    await countSent(deps, release.id, 1, sent);
  }
}
