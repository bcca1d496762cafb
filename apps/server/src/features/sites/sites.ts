/** Sites: the list, a new one, and how one stands. */
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import type { SiteOverview, SiteSummary } from '@fastigium/contracts/api/sites';
import { DomainError, type KeptError } from '@fastigium/contracts/errors';
import { findAddressOfFile, splitAddress, makeSlug } from '@fastigium/core/address';
import { indexRules, type Rule } from '@fastigium/core/redirects';
import type { Queries } from '../../db/database.ts';
import { isUniqueViolation } from '../../db/sqlstate.ts';
import type { Deps } from '../../deps.ts';
import { readAddressStanding } from '../address/standing.ts';
import { findNextSteps } from '../draft/prepare/undo.ts';
import { foldDraftAt, readHistory } from '../draft/history.ts';
import { readDraftRules } from '../draft/draftRules.ts';
import { describeJob, JOB_COLUMNS, type JobRow } from '../jobs/jobRow.ts';
import { countSnags } from '../snags/snags.ts';
import { deriveInitials } from '../shared/initials.ts';
import { reckonKeptUntilMs, isOut, NOTICE_DAYS, type Draft } from '@fastigium/core/site';
import { readKeepingRule } from '../draft/keptRemovals.ts';
import { watchStanding } from '../watch/standing.ts';
import { readToday } from '../shared/today.ts';

export interface SiteRow extends Record<string, unknown> {
  id: string;
  name: string;
  hostName: string;
  temporaryLabel: string;
  pages: number;
  files: number;
  liveRelease: number | null;
  main: string | null;
  hostUrl: string | null;
  hasOwnHost: boolean;
  createdAt: Date;
}

export const SUMMARY = `
  select s.id, s.name, s.host_name as "hostName", s.temporary_label as "temporaryLabel", s.created_at as "createdAt", l.number as "liveRelease",
         (select h.settings ->> 'url' from host_account h where h.site_id = s.id and h.kind <> 'stand-in') as "hostUrl",
         exists (select 1 from host_account h where h.site_id = s.id and h.kind <> 'stand-in') as "hasOwnHost",
         (select d.name from domain d where d.site_id = s.id and d.role = 'own' order by d.connected_at limit 1) as main,
         (select count(*) from source_file f where f.import_id = s.current_import and f.page_id is not null)::int as pages,
         (select count(*) from source_file f where f.import_id = s.current_import)::int as files
    from site s left join release l on l.id = s.live_release`;

export function summarise(deps: Deps, { createdAt, main, hostUrl, hasOwnHost, ...row }: SiteRow): SiteSummary {
  const temporary = hostUrl ?? deps.hosts.standIn?.urlOf(row.temporaryLabel) ?? null;
  return {
    ...row,
    liveUrl: row.liveRelease === null ? null : temporary,
    hasHost: hasOwnHost || deps.hosts.standIn !== undefined,
    answersAt: main ?? (temporary === null ? null : new URL(temporary).hostname),
    createdAt: createdAt.toISOString(),
  };
}

/** Those that somebody sees. */
export async function readSiteList(deps: Deps, person: string): Promise<SiteSummary[]> {
  const rows = await deps.db.many<SiteRow>(
    `${SUMMARY} where s.team_id = (select team_id from person where id = $1) and sees_site($1, s.id) order by s.name`,
    [person],
  );
  return rows.map((row) => summarise(deps, row));
}

export async function readSiteSummary(deps: Deps, site: string): Promise<SiteSummary> {
  return summarise(deps, await deps.db.one<SiteRow>(`${SUMMARY} where s.id = $1`, [site]));
}

export async function createSite(
  deps: Deps,
  team: string,
  name: string,
  wantedHostName?: string,
): Promise<SiteSummary> {
  // Names at the host are one DNS label in plain letters (RFC 1035 section 2.3.1).
  const base =
    (wantedHostName ?? makeSlug(name).replace(/[^a-z0-9-]/g, '')).slice(0, 50).replace(/^-+|-+$/g, '') || 'site';
  for (let n = 1; ; n += 1) {
    const hostName = n === 1 ? base : `${base}-${n}`;
    try {
      const { id } = await deps.db.one<{ id: string }>(
        'insert into site (team_id, name, host_name, temporary_label) values ($1, $2, $3, $3) returning id',
        [team, name, hostName],
      );
      return await readSiteSummary(deps, id);
    } catch (error) {
      if (isUniqueViolation(error, 'site_team_id_name_key'))
        throw new DomainError('name-taken', { name }, { cause: error });
      if (!isUniqueViolation(error, 'site_host_name_key') && !isUniqueViolation(error, 'site_temporary_label_key'))
        throw error;
    }
  }
}

/** One of an old domain without a rule of its own leads to the same address here. */
const OWN = `regexp_replace(o.address, '^//[^/]+', '')`;

/** An old address with a rule of its own, or that is a page here. */
const SETTLED = `(address = any($3) or ${OWN} = any($3) or split_part(${OWN}, '?', 1) = any($3 || $4::text[])
                     or exists (select 1 from source_file f where f.import_id = $2 and $6 || f.address = split_part(${OWN}, '?', 1)
                                   and (f.page_id is null or f.page_id <> all ($5::uuid[])) and not (f.page_id is null and f.path = any($7))))`;

/** Addresses without a rule of their own that a pattern or a less strict rule answers. */
async function countSettledByPattern(
  db: Queries,
  rules: readonly Rule[],
  settling: readonly unknown[],
): Promise<number> {
  if (!rules.some(({ isPattern, ignoreCase, anySlash }) => isPattern || ignoreCase || anySlash)) return 0;
  const index = indexRules(rules);
  const open = await db.many<{ address: string }>(
    `select address from old_address o where site_id = $1 and kind <> 'noise' and not ${SETTLED}`,
    settling,
  );
  return open.filter(({ address }) => {
    const split = splitAddress(address);
    return (index.loose(split.path) ?? index.pattern(split, true) ?? index.pattern(split, false)) !== undefined;
  }).length;
}

export async function readSiteOverview(deps: Deps, site: string): Promise<SiteOverview> {
  const { db } = deps;
  const row = await db.one<SiteRow & { version: number; importId: string | null }>(
    `select x.*, s.version, s.current_import as "importId" from (${SUMMARY}) x join site s using (id) where id = $1`,
    [site],
  );
  const { version, importId, ...site_ } = row;
  const decisions = await readHistory(db, site);
  const draft = foldDraftAt(decisions, version);
  const rules = importId === null ? [] : (await readDraftRules(db, importId, draft, readToday(deps))).rules;
  const messages = new Map(
    (
      await db.many<{ seq: number; message: DecisionMessage }>('select seq, message from decision where site_id = $1', [
        site,
      ])
    ).map((d) => [d.seq, d.message]),
  );
  const settling = [
    site,
    importId,
    rules.map(({ from }) => from),
    [...draft.addresses].filter(([id]) => !isOut(draft, id)).map(([, address]) => draft.basePath + address),
    // Pages that are removed answer no more than those that moved do where they stood.
    [...draft.addresses.keys(), ...draft.removed.keys()],
    draft.basePath,
    [...draft.removedFiles.keys()],
  ];
  const counts = await db.one<{ notes: number; oldAddresses: number; settled: number }>(
    `select (select count(*) from import_note where import_id = $2)::int as notes,
            (select count(*) from old_address where site_id = $1 and kind <> 'noise')::int as "oldAddresses",
            (select count(*) from old_address o where site_id = $1 and kind <> 'noise' and ${SETTLED})::int as settled`,
    settling,
  );
  const byPattern = await countSettledByPattern(db, rules, settling);
  const live = await db.maybeOne<{
    number: number;
    at: Date;
    id: string;
    name: string;
    rollbackOf: number | null;
    version: number;
  }>(
    `select r.number, r.version, r.live_at as at, p.id, p.name, r.rollback_of as "rollbackOf"
       from release r join person p on p.id = r.created_by where r.site_id = $1 and r.state = 'live'`,
    [site],
  );
  const jobs = await db.many<JobRow>(
    `select ${JOB_COLUMNS} from job where site_id = $1 and state in ('waiting', 'running') order by created_at`,
    [site],
  );
  const last = await db.maybeOne<{
    id: string;
    state: NonNullable<SiteOverview['lastImport']>['state'];
    fileName: string;
    error: KeptError | null;
  }>(
    `select id, state, file_name as "fileName", error from import where site_id = $1 order by created_at desc limit 1`,
    [site],
  );
  return {
    ...summarise(deps, site_),
    version,
    live: live
      ? {
          number: live.number,
          at: live.at.toISOString(),
          by: { id: live.id, name: live.name, initials: deriveInitials(live.name) },
          rollbackOf: live.rollbackOf,
          downSince: reckonDownSince(foldDraftAt(decisions, live.version), readToday(deps)),
        }
      : null,
    snags: {
      ...(await countSnags(db, site)),
      checking: importId !== null && !(await isChecked(db, site, importId, version)),
    },
    notes: counts.notes,
    oldAddresses: counts.oldAddresses,
    oldAddressesWithRule: counts.settled + byPattern,
    redirects: rules.length,
    address: await readAddressStanding(db, site),
    basePath: draft.basePath,
    homeTitle: importId === null ? null : await readHomeTitle(db, importId, draft),
    steps: findNextSteps(decisions, (seq) => messages.get(seq)),
    removals: await countRemovals(deps, site, draft),
    watch: await watchStanding(deps, db, site, {
      rules,
      basePath: draft.basePath,
      importId,
      addresses: settling[3] as string[],
    }),
    runningJobs: jobs.map(describeJob),
    lastImport: last ?? null,
  };
}

/** The last day of a release that is over. @param day `2027-03-31` */
function reckonDownSince({ lastDay }: { readonly lastDay: string | undefined }, day: string): string | null {
  return lastDay !== undefined && lastDay < day ? lastDay : null;
}

/** Whether the checks have seen the draft as it stands. */
async function isChecked(db: Queries, site: string, importId: string, version: number): Promise<boolean> {
  return (
    (await db.maybeOne('select 1 from check_state where site_id = $1 and import_id = $2 and version >= $3', [
      site,
      importId,
      version,
    ])) !== undefined
  );
}

async function readHomeTitle(
  queries: Queries,
  importId: string,
  draft: { home: string | undefined; titles: ReadonlyMap<string, string> },
): Promise<string | null> {
  const page = await queries.maybeOne<{ id: string; path: string; title: string | null }>(
    `select f.page_id as id, f.path, r.title from source_file f left join file_reading r using (import_id, path)
      where f.import_id = $1 and f.page_id is not null and ${draft.home === undefined ? `f.path in ('index.html', 'index.htm')` : 'f.page_id = $2'} limit 1`,
    draft.home === undefined ? [importId] : [importId, draft.home],
  );
  return page ? (draft.titles.get(page.id) ?? page.title ?? findAddressOfFile(page.path)) : null;
}

const DAY_MS = 24 * 60 * 60 * 1000;

async function countRemovals(deps: Deps, site: string, draft: Draft): Promise<SiteOverview['removals']> {
  const removals = [...draft.removals.values()];
  if (removals.length === 0) return { all: 0, pages: 0, sweptSoon: 0, firstSweep: null };
  const rule = await readKeepingRule(deps.db, site);
  const soonMs = deps.world.clock.nowMs() + NOTICE_DAYS * DAY_MS;
  const soon = removals
    .flatMap((removal) => reckonKeptUntilMs(removal, rule) ?? [])
    .filter((untilMs) => untilMs <= soonMs)
    .sort((a, b) => a - b);
  return {
    all: removals.length,
    pages: removals.reduce((sum, { left }) => sum + left.length, 0),
    sweptSoon: soon.length,
    firstSweep: soon[0] === undefined ? null : new Date(soon[0]).toISOString(),
  };
}
