/** A release that is at its host becomes the live one: what is kept of it, and who hears of it. */
import { told } from '@fastigium/contracts/messages/told';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, isPageFile } from '@fastigium/core/address';
import type { ManifestEntry, ReleaseDifference } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { lookUpSoon } from '../address/schedule.ts';
import { inspectSoon } from '../inspection/inspectJob.ts';
import { tellOthers } from '../telling/outbox.ts';
import { letOldGo } from './keeping.ts';

interface Going {
  /** The release. */
  readonly id: string;
  readonly site: string;
}

/**
 * Kept in one transaction, and may be repeated: a process that was killed behind it, or whose connection broke, does it
 * again.
 *
 * @param changes what visitors get otherwise than before
 * @param describedBytes on the wire for putting the release in place at the host
 */
export async function goLive(
  deps: Deps,
  release: Going,
  changes: ReleaseDifference,
  describedBytes: number,
): Promise<void> {
  const { id, site } = release;
  await deps.db.transaction(async (tx) => {
    await tx.run('select 1 from site where id = $1 for no key update', [site]);
    const state = await readState(tx, id);
    if (state === 'live') return;
    if (state !== 'sending') throw new DomainError('job-ended');
    await keepChanges(tx, release, readDay(deps), changes);
    const now = new Date(deps.world.clock.nowMs());
    await tx.run(`update release set state = 'past' where site_id = $1 and state = 'live'`, [site]);
    const { by } = await tx.one<{ by: string }>(
      `update release set state = 'live', live_at = $2, bytes_sent = bytes_sent + $3 where id = $1 returning created_by as by`,
      [id, now, describedBytes],
    );
    await tx.run('update site set live_release = $2 where id = $1', [site, id]);
    await letOldGo(tx, site, by);
    await tx.run('insert into watched_log (site_id, next_read_at) values ($1, $2) on conflict do nothing', [site, now]);
    await inspectSoon(tx, { release: id, site, by });
    await lookUpSoon(tx, site, now.getTime());
    await tellLive(tx, deps, release, changes);
    await announce(tx, { kind: 'release', site });
  });
}

async function readState(tx: Queries, id: string): Promise<string> {
  return (await tx.one<{ state: string }>('select state from release where id = $1', [id])).state;
}

const readDay = (deps: Deps): string => new Date(deps.world.clock.nowMs()).toISOString().slice(0, 10);

/** Since when visitors get each page as it is. */
async function keepChanges(
  tx: Queries,
  { site }: Going,
  day: string,
  { added, changed, moved, removed }: ReleaseDifference,
): Promise<void> {
  const now = new Map(
    [...added, ...[...changed, ...moved].map(({ after }) => after)].map(({ path, hash }) => [path, hash]),
  );
  for (const { path } of [...removed, ...moved.map(({ before }) => before)]) if (!now.has(path)) now.set(path, GONE);
  const pages = [...now].filter(([path]) => isPageFile(path));
  if (pages.length === 0) return;
  await tx.run('insert into pages_changed (site_id, day, paths, hashes) values ($1, $2, $3, $4)', [
    site,
    day,
    pages.map(([path]) => path),
    pages.map(([, hash]) => hash),
  ]);
}

const GONE = '';

const MOST_TOLD = 500;

async function tellLive(
  tx: Queries,
  deps: Deps,
  { id, site }: Going,
  { added, changed, moved, removed }: ReleaseDifference,
): Promise<void> {
  const pages = (entries: readonly ManifestEntry[]) =>
    entries
      .filter(({ path }) => isPageFile(path))
      .slice(0, MOST_TOLD)
      .map(({ path }) => findAddressOfFile(path));
  const { number, note, by } = await tx.one<{ number: number; note: string; by: string }>(
    'select r.number, r.note, p.name as by from release r join person p on p.id = r.created_by where r.id = $1',
    [id],
  );
  await tellOthers(tx, deps, site, 'release-live', told('release-live', { number, by }), {
    release: { number, note, by },
    pages: {
      new: pages([...added, ...moved.map(({ after }) => after)]),
      changed: pages(changed.map(({ after }) => after)),
      gone: pages([...removed, ...moved.map(({ before }) => before)]),
    },
  });
}
