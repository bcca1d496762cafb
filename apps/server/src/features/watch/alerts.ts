/** What somebody should know of a live site today: facts gathered for the core to say, and told to others once. */
import { told } from '@fastigium/contracts/messages/told';
import { deriveAlerts, isSpike, outage, type Alert, type AlertFacts } from '@fastigium/core/watch';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readLatestLookup } from '../address/history.ts';
import { readSiteAddress } from '../shared/siteAddress.ts';
import { findDomainFacts } from '../address/view.ts';
import { readServing } from '../shared/serving.ts';
import { tellOthers } from '../telling/outbox.ts';
import { readDrift } from '../inspection/drift.ts';
import type { Part } from '@fastigium/core/messages';

const DAY_MS = 86_400_000;
const DAYS_BEFORE = 13;

export async function readAlerts(deps: Deps, queries: Queries, site: string): Promise<Alert[]> {
  const nowMs = deps.world.clock.nowMs();
  return deriveAlerts(await readFacts(queries, site, nowMs), nowMs);
}

export interface WatchedDates {
  readonly certificates: NonNullable<AlertFacts['certificates']>;
  readonly registrations: NonNullable<AlertFacts['registrations']>;
  readonly comesDown: AlertFacts['comesDown'];
}

/** Days ahead that are known: of each domain's certificate and registration, and of the site itself. */
export async function readWatchedDates(db: Queries, site: string): Promise<WatchedDates> {
  const [address, lookup] = [await readSiteAddress(db, site), await readLatestLookup(db, site)];
  const live = await db.maybeOne<{ rulesHash: string | null }>(
    'select r.rules_hash as "rulesHash" from site s join release r on r.id = s.live_release where s.id = $1',
    [site],
  );
  const lastDay = live ? (await readServing(db, live.rulesHash)).access.lastDay : undefined;
  const made = await db.many<{ zone: string; notAfter: Date }>(
    'select zone, not_after as "notAfter" from certificate where site_id = $1 and chain is not null',
    [site],
  );
  const domains =
    address?.zones.flatMap(({ zone }, index) => {
      const facts = lookup && findDomainFacts(lookup.facts, address, zone);
      return facts ? [{ zone, name: index === 0 ? address.main : zone, ...facts }] : [];
    }) ?? [];
  return {
    certificates: domains.flatMap(({ zone, name, certificate }) => {
      if (certificate.kind !== 'served') return [];
      const { notAfterMs } = certificate.seen;
      // What answers may be a certificate of the host's own, beside one that was made here.
      const renewsItself = made.some((each) => each.zone === zone && each.notAfter.getTime() === notAfterMs);
      return [{ name, notAfterMs, renewsItself }];
    }),
    registrations: domains.flatMap(({ name, registration }) =>
      registration.kind === 'held' && registration.expiresAtMs !== undefined
        ? [{ name, expiresAtMs: registration.expiresAtMs }]
        : [],
    ),
    comesDown:
      lastDay === undefined ? undefined : { day: lastDay, endsAtMs: Date.parse(`${lastDay}T00:00:00Z`) + DAY_MS },
  };
}

async function readFacts(db: Queries, site: string, nowMs: number): Promise<AlertFacts> {
  const isLive =
    (await db.maybeOne('select 1 from site where id = $1 and live_release is not null', [site])) !== undefined;
  if (!isLive) return {};
  const probe = await db.maybeOne<{ isUp: boolean; problem: Part | null }>(
    'select is_up as "isUp", problem from probe where site_id = $1 order by at desc limit 1',
    [site],
  );
  const log = await db.maybeOne<{ problem: Part | null }>('select problem from watched_log where site_id = $1', [site]);
  const drift = await readDrift(db, site);
  const [first] = drift?.findings ?? [];
  return {
    ...(await readWatchedDates(db, site)),
    away: probe && !probe.isUp ? { problem: probe.problem ?? outage('no-answer') } : undefined,
    drift:
      drift?.since && first
        ? {
            sinceMs: Date.parse(drift.since),
            findings: [first, ...drift.findings.slice(1)],
          }
        : undefined,
    spikes: await findSpikes(db, site, nowMs),
    logProblem: log?.problem ?? undefined,
  };
}

async function findSpikes(db: Queries, site: string, nowMs: number): Promise<string[]> {
  const today = new Date(nowMs).toISOString().slice(0, 10);
  const rows = await db.many<{ address: string; days: string[]; visits: number[] }>(
    `select address, array_agg(day::text order by day) as days, array_agg(visits order by day) as visits from visit_address v
      where site_id = $1 and outcome = 'lost' and day > $2::date - $3::int and exists (select 1 from visit_address t where t.site_id = v.site_id and t.address = v.address and t.outcome = 'lost' and t.day = $2::date and t.visits > 0)
      group by address`,
    [site, today, DAYS_BEFORE + 1],
  );
  const on = ({ days, visits }: { days: string[]; visits: number[] }, day: string) => {
    const at = days.indexOf(day);
    return at < 0 ? 0 : (visits[at] ?? 0);
  };
  const before = Array.from({ length: DAYS_BEFORE }, (_, n) =>
    new Date(nowMs - (DAYS_BEFORE - n) * DAY_MS).toISOString().slice(0, 10),
  );
  return rows
    .map((row) => ({ address: row.address, today: on(row, today), before: before.map((day) => on(row, day)) }))
    .filter((row) => isSpike(row.today, row.before))
    .sort((a, b) => b.today - a.today)
    .map(({ address }) => address);
}

/** Those that a webhook is not told of by what happened itself. */
const TOLD = new Set<Alert['kind']>(['drift', 'certificate', 'registration', 'comes-down', 'spike']);

/** Each once; one that went and comes again is told again. */
export async function tellAlerts(deps: Deps, site: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    const alerts = (await readAlerts(deps, tx, site)).filter(({ kind }) => TOLD.has(kind));
    const known = new Set(
      (
        await tx.many<{ key: string }>(`select kind || ' ' || of as key from told_alert where site_id = $1`, [site])
      ).map(({ key }) => key),
    );
    const keyOf = ({ kind, of: subject }: Alert) => `${kind} ${subject}`;
    await tx.run(`delete from told_alert where site_id = $1 and not kind || ' ' || of = any($2)`, [
      site,
      alerts.map(keyOf),
    ]);
    for (const alert of alerts.filter((each) => !known.has(keyOf(each)))) {
      await tx.run('insert into told_alert (site_id, kind, of, at) values ($1, $2, $3, $4) on conflict do nothing', [
        site,
        alert.kind,
        alert.of,
        new Date(deps.world.clock.nowMs()),
      ]);
      await tellOthers(
        tx,
        deps,
        site,
        alert.kind === 'drift' ? 'drifted' : alert.kind === 'spike' ? 'spike' : 'date-near',
        told('alert', { alert: alert.message }),
      );
    }
  });
}
