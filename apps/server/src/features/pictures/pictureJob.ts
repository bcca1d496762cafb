/** Taking pictures of a draft's pages: only of those whose appearance there is none of, while the draft stands still. */
import { findAddressOfFile } from '@fastigium/core/address';
import { availableParallelism } from 'node:os';
import { setTimeout as wait } from 'node:timers/promises';
import type { Photographer, Studio } from '../../adapters/browser/browser.ts';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue, type JobHandler, type JobRun } from '../../jobs/queue.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import type { PreviewLinks } from '../previews/links.ts';
import { readAppearances } from './appearances.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

/** Half of the machine: scheduling last does not help who shares a core's memory and caches. */
const AT_ONCE = Math.max(1, Math.floor(availableParallelism() / 2));
const QUIET_MS = 2000;
/** Shown as they come, but not one by one. */
const TELL_EVERY_MS = 2000;

/** After every change; one that waits already will see this change too. */
export async function enqueuePictures(deps: Deps, site: string, afterJob: string): Promise<void> {
  if (deps.config.chromium === undefined) return;
  await deps.db.transaction(async (tx) => {
    const waiting = await tx.maybeOne(
      `select 1 from job where site_id = $1 and kind = 'pictures' and state = 'waiting' limit 1`,
      [site],
    );
    if (waiting) return;
    const { by } = await tx.one<{ by: string }>('select created_by as by from job where id = $1', [afterJob]);
    await enqueue(tx, { kind: 'pictures', site, body: {}, by });
  });
}

/** @param studio none where there is no browser: then no picture is taken */
export function createPictureJob(deps: Deps, links: PreviewLinks, studio: Studio | undefined): JobHandler {
  return {
    async run(job) {
      const { db } = deps;
      // Who is working makes one change after another; pictures of those in between nobody looks at.
      await wait(QUIET_MS, undefined, { signal: job.signal });
      const state = await db.maybeOne<{ version: number; shards: string[] }>(
        'select version, shards from check_state where site_id = $1',
        [job.site],
      );
      if (!studio || !state || !(await isAtVersion(db, job.site, state.version))) return;
      const appearances = await readAppearances(db, job.site, state.shards);
      const wanted = await db.transaction((tx) => keepAppearances(tx, job.site, state.shards, appearances));
      if (wanted.length === 0) return;
      const { own: ownLink } = links.create(job.site);
      const photographer = await studio.enter(ownLink.seen);
      try {
        await takeAll(deps, job, { photographer, origin: ownLink.seen, version: state.version, wanted });
      } finally {
        await photographer.leave();
      }
    },
  };
}

async function isAtVersion(queries: Queries, site: string, version: number): Promise<boolean> {
  return (await queries.one<{ version: number }>('select version from site where id = $1', [site])).version === version;
}

interface Wanted {
  readonly path: string;
  readonly appearance: string;
}

/** Notes how the draft looks, and the live site where it is the same; what no page looks like any more goes. */
async function keepAppearances(
  tx: Queries,
  site: string,
  shards: readonly string[],
  appearances: ReadonlyMap<string, string>,
): Promise<Wanted[]> {
  await tx.run('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`appearances ${site}`]);
  const rows = [[...appearances.keys()], [...appearances.values()]];
  await tx.run('delete from page_appearance where site_id = $1 and release_id is null', [site]);
  await tx.run(
    'insert into page_appearance (site_id, path, appearance) select $1, * from unnest($2::text[], $3::text[])',
    [site, ...rows],
  );
  const live = await tx.maybeOne<{ id: string }>(
    'select r.id from site s join release r on r.id = s.live_release where s.id = $1 and r.shards = $2::text[]',
    [site, [...shards]],
  );
  if (live) {
    await tx.run('delete from page_appearance where site_id = $1 and release_id is not null', [site]);
    await tx.run(
      'insert into page_appearance (site_id, release_id, path, appearance) select $1, $2, * from unnest($3::text[], $4::text[])',
      [site, live.id, ...rows],
    );
  }
  await tx.run(
    'delete from page_picture p where site_id = $1 and not exists (select 1 from page_appearance l where l.site_id = p.site_id and l.appearance = p.appearance)',
    [site],
  );
  return tx.many<Wanted & Record<string, unknown>>(
    `select l.path, l.appearance from page_appearance l left join page_picture p using (site_id, appearance)
      where l.site_id = $1 and l.release_id is null and p.appearance is null order by length(l.path), l.path`,
    [site],
  );
}

async function takeAll(
  deps: Deps,
  job: JobRun,
  {
    photographer,
    origin,
    version,
    wanted,
  }: { photographer: Photographer; origin: string; version: number; wanted: readonly Wanted[] },
): Promise<void> {
  const waiting = [...wanted].reverse();
  let done = 0;
  let toldMs = performance.now();
  let stands = true;
  const takeOne = async ({ path, appearance }: Wanted) => {
    const bytes = await photographer.take(origin + findAddressOfFile(path)).catch(() => null);
    job.signal.throwIfAborted();
    // What was taken after somebody changed the draft may be a picture of something else; the next job sees to it.
    stands &&= await isAtVersion(deps.db, job.site, version);
    if (!stands) return;
    await deps.db.run(
      'insert into page_picture (site_id, appearance, bytes, hash) values ($1, $2, $3, $4) on conflict do nothing',
      [job.site, appearance, bytes, bytes && hashSha256(bytes)],
    );
    done += 1;
    job.report({ step: progressStep('taking-pictures'), done, total: wanted.length, unit: 'pages' });
    if (performance.now() - toldMs < TELL_EVERY_MS) return;
    toldMs = performance.now();
    await announce(deps.db, { kind: 'pictures', site: job.site });
  };
  const work = async () => {
    for (let next = waiting.pop(); next !== undefined && stands; next = waiting.pop()) {
      job.signal.throwIfAborted();
      await takeOne(next);
    }
  };
  const results = await Promise.allSettled(Array.from({ length: AT_ONCE }, work));
  const failed = results.find((result) => result.status === 'rejected');
  await announce(deps.db, { kind: 'pictures', site: job.site });
  if (failed) throw failed.reason;
}
