/** Publishing at a set time: the draft as it was looked at, by the world's clock, by one process only. */
import { notice } from '@fastigium/contracts/messages/notice';
import type { SetTime } from '@fastigium/contracts/api/setTime';
import { DomainError } from '@fastigium/contracts/errors';
import type { Logger } from 'pino';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import type { Repeated } from '../../jobs/repeat.ts';
import { startSchedule } from '../../jobs/schedule.ts';
import { readSiteState } from '../draft/history.ts';
import { deriveInitials } from '../shared/initials.ts';
import { tell } from '../shared/notices.ts';
import { leaveOutAround } from './leaveOut.ts';
import { differsFromLive, publishAsSet, requireHost, requireNothingHolds } from './publish.ts';

const CHECK_EVERY_MS = 1000;
/** A time that passed while nothing ran is too late after this: people have made other plans by then. */
const MISSED_AFTER_MS = 5 * 60_000;

interface SetRow extends Record<string, unknown> {
  readonly site: string;
  readonly at: Date;
  readonly zone: string;
  readonly version: number;
  readonly importId: string;
  readonly note: string;
  readonly by: string;
}

export async function setTimeOf(queries: Queries, site: string): Promise<SetTime | null> {
  const row = await queries.maybeOne<{
    at: Date;
    zone: string;
    version: number;
    note: string;
    by: string;
    name: string;
    now: number;
  }>(
    'select t.at, t.zone, t.version, t.note, t.by, p.name, s.version as now from set_time t join person p on p.id = t.by join site s on s.id = t.site_id where t.site_id = $1',
    [site],
  );
  return row
    ? {
        at: row.at.toISOString(),
        zone: row.zone,
        note: row.note,
        by: { id: row.by, name: row.name, initials: deriveInitials(row.name) },
        version: row.version,
        since: row.now - row.version,
      }
    : null;
}

/** What must be fixed holds it now, while somebody is there to see. */
export async function setTimeFor(
  deps: Deps,
  site: string,
  by: { readonly id: string; readonly name: string },
  {
    at,
    zone,
    version,
    note,
    leaveOut,
  }: { at: string; zone: string; version: number; note: string; leaveOut: readonly number[] },
): Promise<SetTime> {
  if (new Date(at).getTime() <= deps.world.clock.nowMs()) throw new DomainError('time-is-past');
  await requireHost(deps, site);
  if (!(await differsFromLive(deps, site))) throw new DomainError('nothing-to-publish');
  await requireNothingHolds(deps, site);
  await deps.db.transaction(async (tx) => {
    const state = await readSiteState(tx, site, 'locked');
    if (state.version !== version) throw new DomainError('draft-stale');
    const setFor = (goesOut: number) =>
      tx.run(
        `insert into set_time (site_id, at, zone, version, import_id, note, by) values ($1, $2, $3, $4, $5, $6, $7)
       on conflict (site_id) do update set at = excluded.at, zone = excluded.zone, version = excluded.version, import_id = excluded.import_id, note = excluded.note, by = excluded.by`,
        [site, at, zone, goesOut, state.currentImport, note, by.id],
      );
    await (leaveOut.length === 0 ? setFor(version) : leaveOutAround(tx, deps, { site, by, of: leaveOut }, setFor));
    await announce(tx, { kind: 'release', site });
  });
  const set = await setTimeOf(deps.db, site);
  if (!set) throw new DomainError('not-found', { what: 'time' });
  return set;
}

export async function leaveSetTime(deps: Deps, site: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await tx.run('delete from set_time where site_id = $1', [site]);
    await announce(tx, { kind: 'release', site });
  });
}

export function startSetTimes(deps: Deps, log: Logger): Repeated {
  const startedMs = deps.world.clock.nowMs();
  return startSchedule(
    {
      name: 'a release at a set time',
      everyMs: CHECK_EVERY_MS,
      atOnce: 4,
      withinMs: 2 * 60_000,
      claim: (most) => readDueTimes(deps, most),
      keyOf: ({ site }) => site,
      work: (row) => goOut(deps, row, { startedMs, nowMs: deps.world.clock.nowMs() }),
    },
    log,
  );
}

/** They are claimed as they go out. */
const readDueTimes = (deps: Deps, most: number): Promise<SetRow[]> =>
  deps.db.many<SetRow>(
    'select site_id as site, at, zone, version, import_id as "importId", note, by from set_time where at <= $1 order by at limit $2',
    [new Date(deps.world.clock.nowMs()), most],
  );

/** Whoever takes the row away is the one process that publishes it; it comes back where another release is under way. */
async function goOut(
  deps: Deps,
  row: SetRow,
  { startedMs, nowMs }: { readonly startedMs: number; readonly nowMs: number },
): Promise<void> {
  const { site, by } = row;
  try {
    await deps.db.transaction(async (tx) => {
      if ((await tx.run('delete from set_time where site_id = $1 and at = $2', [site, row.at])) === 0) return;
      const { currentImport } = await readSiteState(tx, site, 'locked');
      const atMs = row.at.getTime();
      if (atMs < startedMs && nowMs - atMs > MISSED_AFTER_MS)
        await tell(tx, site, by, notice('set-time-missed', { at: formatZoned(row) }), nowMs);
      else if (currentImport !== row.importId)
        await tell(tx, site, by, notice('set-time-outdated', { at: formatZoned(row) }), nowMs);
      else await publishAsSet(tx, site, by, row);
      await announce(tx, { kind: 'release', site });
    });
  } catch (error) {
    // The row is back with the transaction; after the release that is under way it is this one's turn.
    if (!(error instanceof DomainError && error.code === 'publish-running')) throw error;
  }
}

/** `27 Nov 2026, 06:00 (Europe/London)` */
/** As RFC 9557 writes an instant that is told by a zone. */
const formatZoned = ({ at, zone }: SetRow): string => `${at.toISOString()}[${zone}]`;
