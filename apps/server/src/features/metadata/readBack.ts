/** After a publish, heads are read back from the live host: what was sent is only what visitors get once it is seen there. */
import { addressOfFile, isPageFile } from '@fastigium/core/address';
import { headSource } from '@fastigium/core/head';
import { parsePage } from '@fastigium/core/html';
import { setTimeout as wait } from 'node:timers/promises';
import { z } from 'zod';
import { readLive } from '../../adapters/web/liveReader.ts';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue, type JobHandler } from '../../jobs/queue.ts';
import { contentBytes } from '../contents.ts';
import { entriesOf } from '../manifests.ts';

const body = z.object({ release: z.uuid(), paths: z.array(z.string()) });

/** The home page and as many of the changed ones as are asked for in a few seconds. */
const MOST_PAGES = 200;
const AT_ONCE = 4;
/** A host may need a moment, and so may whoever publishes again at once. */
const SETTLE_MS = 1000;
const LIMITS = { bytes: 16 * 1024 * 1024, withinMs: 15_000 } as const;

export async function readBackSoon(tx: Queries, release: { readonly id: string; readonly site: string; readonly by: string }, changed: readonly string[]): Promise<void> {
  const pages = changed.filter((path) => isPageFile(path) && !path.endsWith('404.html')).sort((a, b) => a.length - b.length || (a < b ? -1 : 1));
  // An older release is not live any more, so there is nothing to be read back of it.
  await tx.run(`delete from job where site_id = $1 and kind = 'read-back' and state = 'waiting'`, [release.site]);
  if (pages.length > 0) await enqueue(tx, { kind: 'read-back', site: release.site, body: { release: release.id, paths: pages.slice(0, MOST_PAGES) }, by: release.by });
}

export function readBackJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const { release, paths } = body.parse(job.body);
      await wait(SETTLE_MS, undefined, { signal: job.signal });
      const row = await deps.db.one<{ shards: string[]; label: string; isLive: boolean }>(`select r.shards, s.temporary_label as label, s.live_release = r.id as "isLive" from release r join site s on s.id = r.site_id where r.id = $1`, [release]);
      if (!row.isLive) return;
      const entries = await entriesOf(deps.db, row.shards, paths);
      const base = new URL((await deps.hosts.of(deps.db, job.site)).urlOf(row.label));
      const found: { path: string; problem: string | null }[] = [];
      const waiting = paths.values();
      const work = async () => {
        for (const path of waiting) {
          const entry = entries.get(path);
          if (!entry) continue;
          const sent = headText(await contentBytes(deps.db, entry.hash));
          found.push({ path, problem: await problemAt(new URL(addressOfFile(path), base), sent, job.signal) });
          job.report({ step: 'Reading heads back', done: found.length, total: paths.length, unit: 'pages' });
        }
      };
      await Promise.all(Array.from({ length: AT_ONCE }, work));
      await deps.db.transaction(async (tx) => {
        await tx.run('delete from head_proof where site_id = $1', [job.site]);
        await tx.run('insert into head_proof (site_id, path, release_id, asked_at, problem) select $1, r.path, $2, $3, r.problem from unnest($4::text[], $5::text[]) as r(path, problem)', [
          job.site, release, new Date(deps.world.clock.nowMs()), found.map(({ path }) => path), found.map(({ problem }) => problem),
        ]);
        await announce(tx, { kind: 'release', site: job.site });
      });
    },
  };
}

const headText = (bytes: Uint8Array): string[] => headSource(parsePage(bytes)).map(({ source }) => source);

/** What differs, in words; null where the head is as it was sent. */
async function problemAt(url: URL, sent: readonly string[], signal: AbortSignal): Promise<string | null> {
  try {
    const { status, body: bytes } = await readLive(url, LIMITS, signal);
    if (status !== 200) return `the host answers ${status}`;
    const given = headText(bytes);
    const missing = sent.find((line) => !given.includes(line));
    if (missing !== undefined) return `not there: ${missing.slice(0, 300)}`;
    const more = given.find((line) => !sent.includes(line));
    return more === undefined ? null : `added on the way: ${more.slice(0, 300)}`;
  } catch (error) {
    signal.throwIfAborted();
    return `no answer: ${error instanceof Error ? error.message.slice(0, 200) : 'unknown'}`;
  }
}
