/** Reading what the host's access log has gained since the last time, whole lines only. */
import { OPEN_TO_ALL, type SiteAccess } from '@fastigium/core/access';
import { DomainError } from '@fastigium/contracts/errors';
import type { HostAccessLog } from '@fastigium/contracts/ports/host';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import type { CountedLog } from '../../threads/countLog.ts';
import { readServing } from '../shared/serving.ts';
import { suggestSoon } from '../shared/suggestSoon.ts';
import { takeLost } from './lost.ts';
import { explainError } from '../../words.ts';

const PIECE_BYTES = 4 * 1024 * 1024;
/** A line without an end within a whole piece is no log. */
const NO_LINE = 'it holds no whole line within 4 MiB';
/** Looked into this often, by the world's clock. */
export const READ_EVERY_MS = 60_000;

/** How far the log was read. */
interface Place extends Record<string, unknown> {
  readonly begun: string;
  readonly readTo: number;
}

/** @returns how many requests by people it had gained */
export async function readLogNow(deps: Deps, site: string): Promise<number> {
  const { label, hostName } = await deps.db.one<{ label: string | null; hostName: string }>(
    'select live_release as label, host_name as "hostName" from site where id = $1',
    [site],
  );
  if (label === null) throw new DomainError('nothing-live');
  const { accessLog } = await deps.hosts.of(deps.db, site);
  if (!accessLog) throw new DomainError('no-access-log');
  try {
    let requests = 0;
    for (;;) {
      const gained = await readPiece(deps, site, hostName, accessLog);
      if (gained === undefined) return requests;
      requests += gained;
    }
  } catch (error) {
    await deps.db.run('update watched_log set problem = $2 where site_id = $1', [
      site,
      JSON.stringify(explainError(error)),
    ]);
    throw error;
  }
}

/** Who may visit now; what was logged under an earlier release is taken by it too. */
async function readLiveAccess(tx: Queries, site: string): Promise<SiteAccess> {
  const live = await tx.maybeOne<{ rulesHash: string | null }>(
    'select r.rules_hash as "rulesHash" from site s join release r on r.id = s.live_release where s.id = $1',
    [site],
  );
  return live ? (await readServing(tx, live.rulesHash)).access : OPEN_TO_ALL;
}

/**
 * A piece is read and counted first, and kept then, together with its place in the log and only where nobody has kept it
 * meanwhile: none counts twice, and no slow host holds a row or a connection.
 *
 * @returns undefined at the end
 */
async function readPiece(deps: Deps, site: string, hostName: string, log: HostAccessLog): Promise<number | undefined> {
  const place = await placeOf(deps.db, site, deps.world.clock.nowMs());
  let piece = await log.read(hostName, { begun: place.begun, fromByte: place.readTo }, PIECE_BYTES);
  let from = place.readTo;
  if (from > 0 && (piece.begun !== place.begun || piece.sizeBytes < from)) {
    from = 0;
    piece = await log.read(hostName, { begun: '', fromByte: 0 }, PIECE_BYTES);
  }
  const end = piece.bytes.lastIndexOf(10) + 1;
  if (end === 0 && piece.bytes.length === PIECE_BYTES) throw new DomainError('log-unreadable', { why: NO_LINE });
  const access = await readLiveAccess(deps.db, site);
  const counted = end === 0 ? undefined : await deps.threads.countLog({ bytes: piece.bytes.slice(0, end), access });
  const isKept = await keepPiece(deps, site, place, { begun: piece.begun, readTo: from + end }, counted);
  // Whoever kept it told of it; there may be more behind it.
  if (!isKept) return 0;
  return counted?.hours.reduce(
    (sum, { found, redirected, lost, gone, failed }) => sum + found + redirected + lost + gone + failed,
    0,
  );
}

/** @returns false where another reader was quicker, and then nothing is kept */
async function keepPiece(
  deps: Deps,
  site: string,
  before: Place,
  after: Place,
  counted: CountedLog | undefined,
): Promise<boolean> {
  return deps.db.transaction(async (tx) => {
    const kept = await tx.run(
      `update watched_log set begun = $2, read_to = $3, read_at = $4, problem = null, not_read = not_read + $5
        where site_id = $1 and begun = $6 and read_to = $7`,
      [
        site,
        after.begun,
        after.readTo,
        new Date(deps.world.clock.nowMs()),
        counted?.notRead ?? 0,
        before.begun,
        before.readTo,
      ],
    );
    if (kept === 0) return false;
    if (!counted) return true;
    await keepCounts(tx, site, counted);
    if (await takeLost(tx, site, counted.addresses)) {
      const { by } = await tx.one<{ by: string }>(
        'select r.created_by as by from site s join release r on r.id = s.live_release where s.id = $1',
        [site],
      );
      await suggestSoon(tx, site, by);
      await announce(tx, { kind: 'redirects', site });
    }
    await announce(tx, { kind: 'watch', site });
    return true;
  });
}

async function placeOf(db: Queries, site: string, nowMs: number): Promise<Place> {
  await db.run('insert into watched_log (site_id, next_read_at) values ($1, $2) on conflict do nothing', [
    site,
    new Date(nowMs),
  ]);
  return db.one<Place>('select begun, read_to::float8 as "readTo" from watched_log where site_id = $1', [site]);
}

async function keepCounts(tx: Queries, site: string, { hours, addresses }: CountedLog): Promise<void> {
  await tx.run(
    `insert into visit_hour as v (site_id, hour, found, redirected, lost, gone, failed, robots)
     select $1, t.* from unnest($2::timestamptz[], $3::bigint[], $4::bigint[], $5::bigint[], $6::bigint[], $7::bigint[], $8::bigint[]) as t
     on conflict (site_id, hour) do update set found = v.found + excluded.found, redirected = v.redirected + excluded.redirected, lost = v.lost + excluded.lost,
       gone = v.gone + excluded.gone, failed = v.failed + excluded.failed, robots = v.robots + excluded.robots`,
    [
      site,
      hours.map(({ hourMs }) => new Date(hourMs)),
      hours.map(({ found }) => found),
      hours.map(({ redirected }) => redirected),
      hours.map(({ lost }) => lost),
      hours.map(({ gone }) => gone),
      hours.map(({ failed }) => failed),
      hours.map(({ robots }) => robots),
    ],
  );
  await tx.run(
    `insert into visit_address as v (site_id, day, outcome, address, visits, robot_visits, last_at, referrer)
     select $1, t.* from unnest($2::date[], $3::text[], $4::text[], $5::bigint[], $6::bigint[], $7::timestamptz[], $8::text[]) as t
     on conflict (site_id, outcome, address, day) do update set visits = v.visits + excluded.visits, robot_visits = v.robot_visits + excluded.robot_visits,
       last_at = greatest(v.last_at, excluded.last_at), referrer = coalesce(excluded.referrer, v.referrer)`,
    [
      site,
      addresses.map(({ day }) => day),
      addresses.map(({ outcome }) => outcome),
      addresses.map(({ address }) => address),
      addresses.map(({ visits }) => visits),
      addresses.map(({ robotVisits }) => robotVisits),
      addresses.map(({ lastMs }) => new Date(lastMs)),
      addresses.map(({ referrer }) => referrer?.replaceAll('\0', '') ?? null),
    ],
  );
}
