/** Keeping what was gathered: one row for each address, whoever saw it. */
import type { Gathered, OldSource } from '@fastigium/contracts/api/redirects';
import { splitHost, writeWithHost } from '@fastigium/core/redirects';
import type { NotRead } from '@fastigium/core/redirects';
import { judgeKind, type Asked } from '@fastigium/core/redirects/gather';
import type { Queries } from '../../../db/database.ts';
import { announce } from '../../../db/events.ts';
import { readOldDomains } from '../../draft/oldDomains.ts';

/** An old address as one list or log has it. */
export interface Sighting {
  /** Normal address. */
  readonly address: string;
  /** Where a host is named; it counts for old domains that are told apart. */
  readonly host?: string | undefined;
  readonly visits?: number | undefined;
  readonly lastSeenMs?: number | undefined;
  readonly status?: number | undefined;
  readonly title?: string | undefined;
  readonly text?: string | undefined;
  readonly headings?: readonly string[] | undefined;
  readonly language?: string | undefined;
  /** From a log: what was asked, for telling noise. */
  readonly asked?: Asked | undefined;
}

const MOST_PROBLEMS = 200;
const TEXT_LETTERS = 1500;
const AT_ONCE = 5000;

/**
 * @param addUp whether visits come on top of what the same kind of source counted before, as with rotated logs
 */
export async function takeSightings(
  tx: Queries,
  found: {
    site: string;
    source: OldSource;
    addUp?: boolean;
    /** Whose addresses those without a host are; undefined for the site itself. */ domain?: string | undefined;
  },
  sightings: readonly Sighting[],
): Promise<{ read: number; fresh: number; files: number; noise: number }> {
  const domains = new Set(await readOldDomains(tx, found.site));
  const merged = merge(
    sightings.map((each) => {
      const host = each.host ?? found.domain;
      return host !== undefined && domains.has(host) ? { ...each, address: writeWithHost(host, each.address) } : each;
    }),
  );
  const isListed = found.source !== 'log' && found.source !== 'live';
  let fresh = 0;
  const counts = { files: 0, noise: 0 };
  for (let from = 0; from < merged.length; from += AT_ONCE) {
    const some = merged.slice(from, from + AT_ONCE).map((each) => ({
      ...each,
      kind: judgeKind(splitHost(each.address).address, each.asked, isListed, found.source === 'live'),
    }));
    counts.files += some.filter(({ kind }) => kind.kind === 'file').length;
    counts.noise += some.filter(({ kind }) => kind.kind === 'noise').length;
    fresh += await keep(tx, found, some, isListed);
  }
  await announce(tx, { kind: 'redirects', site: found.site });
  return { read: merged.length, fresh, ...counts };
}

/** The same for what a person brought in: it is listed with what could not be read of it. */
export async function takeGathering(
  tx: Queries,
  found: Parameters<typeof takeSightings>[1] & { by: string; name: string; fingerprint?: string },
  sightings: readonly Sighting[],
  notRead: readonly NotRead[],
): Promise<Extract<Gathered, { state: 'taken' }>> {
  const taken = await takeSightings(tx, found, sightings);
  const problems = notRead.slice(0, MOST_PROBLEMS);
  await tx.run(
    'insert into gathering (site_id, source, name, by, fingerprint, read, fresh, not_read, problems) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)',
    [
      found.site,
      found.source,
      found.name,
      found.by,
      found.fingerprint ?? null,
      taken.read,
      taken.fresh,
      notRead.length,
      JSON.stringify(problems).replaceAll('\\u0000', ''),
    ],
  );
  return { state: 'taken', source: found.source, name: found.name, ...taken, notRead: notRead.length, problems };
}

/** Two spellings of one address were visited by the same people's links: their visits add up. */
function merge(sightings: readonly Sighting[]): Sighting[] {
  const merged = new Map<string, Sighting>();
  for (const each of sightings) {
    const known = merged.get(each.address);
    merged.set(
      each.address,
      known === undefined
        ? each
        : {
            ...known,
            ...withoutGaps(each),
            ...(known.visits === undefined && each.visits === undefined
              ? {}
              : { visits: (known.visits ?? 0) + (each.visits ?? 0) }),
            ...(known.lastSeenMs === undefined ? {} : { lastSeenMs: Math.max(known.lastSeenMs, each.lastSeenMs ?? 0) }),
          },
    );
  }
  return [...merged.values()];
}

function withoutGaps(sighting: Sighting): Partial<Sighting> {
  return Object.fromEntries(Object.entries(sighting).filter(([, value]) => value !== undefined));
}

async function keep(
  tx: Queries,
  gathering: { site: string; source: OldSource; addUp?: boolean },
  some: readonly (Sighting & { kind: ReturnType<typeof judgeKind> })[],
  isListed: boolean,
): Promise<number> {
  const text = (value: string | undefined) => value?.replaceAll('\0', '') ?? null;
  const { fresh } = await tx.one<{ fresh: number }>(
    `with given as (
       select * from unnest($2::text[], $3::timestamptz[], $4::int[], $5::text[], $6::text[], $7::jsonb[], $8::text[], $9::text[], $10::text[])
         as t(address, last_seen, status, title, text, headings, language, kind, noise)
     ), kept as (
       insert into old_address as o (site_id, address, last_seen, status, title, text, headings, language, kind, noise)
       select $1, address, last_seen, status, title, text, array(select jsonb_array_elements_text(headings)), language, kind, noise from given
       on conflict (site_id, address) do update set
         last_seen = greatest(o.last_seen, excluded.last_seen),
         status = case when excluded.status is not null and (o.last_seen is null or excluded.last_seen is null or excluded.last_seen >= o.last_seen) then excluded.status else o.status end,
         title = coalesce(excluded.title, o.title), text = coalesce(excluded.text, o.text),
         headings = case when excluded.headings = '{}' then o.headings else excluded.headings end, language = coalesce(excluded.language, o.language),
         -- A list says more than a log's guess; what a person said stays.
         kind = case when o.kind_by is not null then o.kind when $11 or (o.kind = 'noise' and excluded.kind <> 'noise') then excluded.kind else o.kind end,
         noise = case when o.kind_by is not null then o.noise when $11 or (o.kind = 'noise' and excluded.kind <> 'noise') then excluded.noise else o.noise end
       returning (xmax = 0) as is_fresh
     ) select count(*) filter (where is_fresh)::int as fresh from kept`,
    [
      gathering.site,
      some.map(({ address }) => address),
      some.map(({ lastSeenMs }) => (lastSeenMs === undefined ? null : new Date(lastSeenMs))),
      some.map(({ status }) => status ?? null),
      some.map(({ title }) => text(title)),
      some.map((each) => text(each.text?.slice(0, TEXT_LETTERS))),
      some.map(({ headings }) => JSON.stringify(headings ?? []).replaceAll('\\u0000', '')),
      some.map(({ language }) => text(language)),
      some.map(({ kind }) => kind.kind),
      some.map(({ kind }) => (kind.kind === 'noise' ? kind.why : null)),
      isListed,
    ],
  );
  await tx.run(
    `insert into old_address_seen as s (site_id, address, source, visits, last_seen)
     select $1, t.address, $2, t.visits, t.last_seen from unnest($3::text[], $4::bigint[], $5::timestamptz[]) as t(address, visits, last_seen)
     on conflict (site_id, address, source) do update set
       visits = case when $6 then coalesce(s.visits, 0) + coalesce(excluded.visits, 0) else coalesce(excluded.visits, s.visits) end, last_seen = greatest(s.last_seen, excluded.last_seen)`,
    [
      gathering.site,
      gathering.source,
      some.map(({ address }) => address),
      some.map(({ visits }) => visits ?? null),
      some.map(({ lastSeenMs }) => (lastSeenMs === undefined ? null : new Date(lastSeenMs))),
      gathering.addUp ?? false,
    ],
  );
  await tx.run(
    `update old_address o set visits = s.visits from (
       select address, case when max(visits) is not null then least(max(visits), 2147483647)::int end as visits from old_address_seen where site_id = $1 and address = any($2) group by address
     ) s where o.site_id = $1 and o.address = s.address and o.visits is distinct from s.visits`,
    [gathering.site, some.map(({ address }) => address)],
  );
  return fresh;
}
