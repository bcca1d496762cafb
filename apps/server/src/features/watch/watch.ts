/** The days after as people see them: reckoned from what was counted, the live release and the draft. */
import {
  WATCH_DAYS,
  type LostAddress,
  type UsedRule,
  type Watch,
  type WatchedDay,
} from '@fastigium/contracts/api/watch';
import { splitAddress } from '@fastigium/core/address';
import { indexRules, prove, type FileSet, type RuleIndex } from '@fastigium/core/redirects';
import { isSpike, countRuleUse } from '@fastigium/core/watch';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { readLiveRelease } from '../changes/changes.ts';
import { readRules } from '../shared/serving.ts';
import { readAlerts, readWatchedDates } from './alerts.ts';
import { readDrift } from '../inspection/drift.ts';
import { readUp } from './up.ts';
import type { Part } from '@fastigium/core/messages';

const DAY_MS = 86_400_000;
/** No more than a ledger shows smoothly; what was visited most stands first. */
const MOST_LOST = 20_000;

export async function watchOf(deps: Deps, site: string): Promise<Watch> {
  const { db } = deps;
  const days = listLastDays(deps.world.clock.nowMs());
  const live = await readLiveRelease(db, site);
  const log = await db.maybeOne<{ readAt: Date | null; problem: Part | null; notRead: number }>(
    'select read_at as "readAt", problem, not_read::int as "notRead" from watched_log where site_id = $1',
    [site],
  );
  const hasLog = (await deps.hosts.of(db, site)).accessLog !== undefined;
  const dates = await readWatchedDates(db, site);
  const iso = (ms: number) => new Date(ms).toISOString();
  const ahead = {
    certificates: dates.certificates.map(({ name, notAfterMs }) => ({ name, at: iso(notAfterMs) })),
    registrations: dates.registrations.map(({ name, expiresAtMs }) => ({ name, at: iso(expiresAtMs) })),
    comesDown: dates.comesDown?.day ?? null,
  };
  const alerts = (await readAlerts(deps, db, site)).map(({ kind, weight, message }) => ({ kind, weight, message }));
  const empty = {
    up: await readUp(deps, site),
    drift: await readDrift(deps.db, site),
    alerts,
    dates: ahead,
    readAt: log?.readAt?.toISOString() ?? null,
    problem: log?.problem ?? null,
    notRead: log?.notRead ?? 0,
    days: await readDayRows(db, site, days),
  };
  if (!live) return { state: 'none', ...empty, lost: [], rules: [], since: null };
  const rules = await readRules(db, live.rulesHash);
  const [index, files] = [indexRules(rules), await readAllEntries(db, live.shards)];
  const uses = await db.many<{ address: string; visits: number; lastAt: Date }>(
    `select address, sum(visits)::int as visits, max(last_at) as "lastAt" from visit_address where site_id = $1 and outcome in ('redirected', 'gone') group by address having sum(visits) > 0`,
    [site],
  );
  const { since } = await db.one<{ since: Date | null }>(
    'select min(hour) as since from visit_hour where site_id = $1',
    [site],
  );
  return {
    state: hasLog ? 'reading' : 'no-log',
    ...empty,
    lost: await readLostRows(deps, site, days, { index, files }),
    rules: countRuleUse(
      rules,
      index,
      files,
      uses.map(({ address, visits, lastAt }) => ({ address, visits, lastMs: lastAt.getTime() })),
    ).map(({ lastMs, to, ...use }): UsedRule => ({
      ...use,
      to: to ?? null,
      lastAt: lastMs === undefined ? null : new Date(lastMs).toISOString(),
    })),
    since: since?.toISOString() ?? null,
  };
}

/** `2026-11-26`, in UTC, the oldest first. */
function listLastDays(nowMs: number): string[] {
  return Array.from({ length: WATCH_DAYS }, (_, n) =>
    new Date(nowMs - (WATCH_DAYS - 1 - n) * DAY_MS).toISOString().slice(0, 10),
  );
}

async function readDayRows(db: Queries, site: string, days: readonly string[]): Promise<WatchedDay[]> {
  const rows = await db.many<WatchedDay & Record<string, unknown>>(
    `select to_char(hour at time zone 'UTC', 'YYYY-MM-DD') as day, sum(found)::int as found, sum(redirected)::int as redirected, sum(lost)::int as lost, sum(gone)::int as gone, sum(failed)::int as failed, sum(robots)::int as robots
       from visit_hour where site_id = $1 and hour >= $2 group by 1`,
    [site, `${days[0] ?? ''}T00:00:00Z`],
  );
  const known = new Map(rows.map((row) => [row.day, row]));
  return days.map((day) => known.get(day) ?? { day, found: 0, redirected: 0, lost: 0, gone: 0, failed: 0, robots: 0 });
}

interface LostRow extends Record<string, unknown> {
  readonly address: string;
  readonly visits: number;
  readonly robotVisits: number;
  readonly lastAt: Date;
  readonly referrer: string | null;
  readonly isApart: boolean;
}

async function readLostRows(
  deps: Deps,
  site: string,
  days: readonly string[],
  live: { readonly index: RuleIndex; readonly files: FileSet },
): Promise<LostAddress[]> {
  const { db } = deps;
  const rows = await db.many<LostRow>(
    `select v.address, sum(v.visits)::int as visits, sum(v.robot_visits)::int as "robotVisits", max(v.last_at) as "lastAt", (array_agg(v.referrer order by v.day desc) filter (where v.referrer is not null))[1] as referrer,
            coalesce(bool_or(o.kind = 'noise'), true) as "isApart"
       from visit_address v left join old_address o on o.site_id = v.site_id and o.address = v.address
      where v.site_id = $1 and v.outcome = 'lost' group by v.address having sum(v.visits) > 0 order by 2 desc, v.address limit $2`,
    [site, MOST_LOST],
  );
  if (rows.length === 0) return [];
  const byDay = new Map<string, number[]>();
  for (const { address, day, visits } of await db.many<{ address: string; day: string; visits: number }>(
    `select address, to_char(day, 'YYYY-MM-DD') as day, visits::int from visit_address where site_id = $1 and outcome = 'lost' and day >= $2::date`,
    [site, days[0]],
  )) {
    const list = byDay.get(address) ?? days.map(() => 0);
    const at = days.indexOf(day);
    if (at >= 0) list[at] = visits;
    byDay.set(address, list);
  }
  const compiled = await compileDraft(deps, site);
  const draft = { index: indexRules(compiled.rules.rules), files: await readAllEntries(db, compiled.shards) };
  const isLost = (address: string, { index, files }: typeof live) => {
    const { kind } = prove(splitAddress(address), files, index).end;
    return kind === 'missing' || kind === 'loop';
  };
  return rows.map(({ lastAt, ...row }): LostAddress => {
    const list = byDay.get(row.address) ?? days.map(() => 0);
    return {
      ...row,
      byDay: list,
      lastAt: lastAt.toISOString(),
      isSpike: isSpike(list.at(-1) ?? 0, list.slice(0, -1)),
      standing: isLost(row.address, draft) ? 'lost' : isLost(row.address, live) ? 'settled' : 'answers',
    };
  });
}
