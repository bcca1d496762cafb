/** Deleting a site: nobody sees it from then on, and for some time its owners can take it back. */
import type { GoingSite, SiteSummary } from '@fastigium/contracts/api/sites';
import { DomainError } from '@fastigium/contracts/errors';
import type { Logger } from 'pino';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import type { Repeated } from '../../jobs/repeat.ts';
import { startSchedule } from '../../jobs/schedule.ts';
import { refuseWhilePublishing } from '../releases/publish.ts';
import { readSiteSummary, SUMMARY, summarise, type SiteRow } from './sites.ts';

const TAKEN_BACK_WITHIN_DAYS = 30;
const DAY_MS = 24 * 60 * 60 * 1000;
const CHECK_EVERY_MS = 5000;
/** A deletion that failed is tried again after this. */
const AGAIN_AFTER_MS = 60 * 60_000;

interface GoingRow extends SiteRow {
  readonly deletedAt: Date;
  readonly by: string | null;
  readonly goneAt: Date;
}

async function readGoingRows(deps: Deps, team: string, site: string | null): Promise<GoingSite[]> {
  const rows = await deps.db.many<GoingRow>(
    `select x.*, s.deleted_at as "deletedAt", s.gone_at as "goneAt", p.name as by
       from (${SUMMARY}) x join site s using (id) left join person p on p.id = s.deleted_by
      where s.team_id = $1 and s.deleted_at is not null and ($2::uuid is null or s.id = $2) order by s.gone_at, s.name`,
    [team, site],
  );
  return rows.map(({ deletedAt, goneAt, by, ...row }) => {
    const { id, name, answersAt, liveRelease } = summarise(deps, row);
    return {
      id,
      name,
      answersAt,
      isLive: liveRelease !== null,
      by,
      deletedAt: deletedAt.toISOString(),
      goneAt: goneAt.toISOString(),
    };
  });
}

export const readGoingSites = (deps: Deps, team: string): Promise<GoingSite[]> => readGoingRows(deps, team, null);

/**
 * What is live stays as it is at its host; nothing goes out any more, and nothing is looked at.
 *
 * @param confirmed the site's name, typed again
 */
export async function deleteSite(
  deps: Deps,
  { team, id: person }: { readonly team: string; readonly id: string },
  site: string,
  confirmed: string,
): Promise<GoingSite> {
  const nowMs = deps.world.clock.nowMs();
  await deps.db.transaction(async (tx) => {
    const { name } = await tx.one<{ name: string }>('select name from site where id = $1 for update', [site]);
    if (confirmed.trim() !== name) throw new DomainError('site-name-differs', { name });
    await refuseWhilePublishing(tx, site);
    await tx.run('delete from set_time where site_id = $1', [site]);
    await tx.run('update site set deleted_at = $2, deleted_by = $3, gone_at = $4 where id = $1', [
      site,
      new Date(nowMs),
      person,
      new Date(nowMs + TAKEN_BACK_WITHIN_DAYS * DAY_MS),
    ]);
  });
  const [going] = await readGoingRows(deps, team, site);
  if (!going) throw new DomainError('not-found', { what: 'site' });
  return going;
}

/** Under a name of its own, where another site has its name by now. */
export async function takeSiteBack(deps: Deps, team: string, site: string): Promise<SiteSummary> {
  await deps.db.transaction(async (tx) => {
    const gone = await tx.maybeOne<{ name: string }>(
      'select name from site where id = $1 and team_id = $2 and deleted_at is not null for update',
      [site, team],
    );
    if (!gone) throw new DomainError('not-found', { what: 'site' });
    await tx.run('update site set deleted_at = null, deleted_by = null, gone_at = null, name = $2 where id = $1', [
      site,
      await findFreeName(tx, team, gone.name),
    ]);
  });
  return readSiteSummary(deps, site);
}

/** `Lanternmoor`, or `Lanternmoor 2` where there is one. */
async function findFreeName(tx: Queries, team: string, name: string): Promise<string> {
  const taken = new Set(
    (
      await tx.many<{ name: string }>('select name from site where team_id = $1 and deleted_at is null for share', [
        team,
      ])
    ).map((site) => site.name),
  );
  for (let n = 1; ; n += 1) {
    const free = n === 1 ? name : `${name} ${n}`;
    if (!taken.has(free)) return free;
  }
}

/** Takes sites away whose time is over. */
export function startDeleting(deps: Deps, log: Logger): Repeated {
  return startSchedule(
    {
      name: 'taking a deleted site away',
      everyMs: CHECK_EVERY_MS,
      atOnce: 1,
      withinMs: 30 * 60_000,
      claim: (most) => claimGone(deps, most),
      keyOf: (site) => site,
      work: async (site) => {
        await takeAway(deps, site);
      },
    },
    log,
  );
}

async function claimGone(deps: Deps, most: number): Promise<string[]> {
  const nowMs = deps.world.clock.nowMs();
  const due = await deps.db.many<{ id: string }>(
    `update site set gone_at = $2
      where id in (select id from site where gone_at <= $1 order by gone_at for update skip locked limit $3) returning id`,
    [new Date(nowMs), new Date(nowMs + AGAIN_AFTER_MS), most],
  );
  return due.map(({ id }) => id);
}

/** All that is the site's own; contents it alone had go with what nothing refers to any more. @returns whether it was still deleted */
export async function takeAway(deps: Deps, site: string): Promise<boolean> {
  return (await deps.db.run('delete from site where id = $1 and deleted_at is not null', [site])) > 0;
}
