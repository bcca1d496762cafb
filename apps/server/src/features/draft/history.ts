/**
 * A site's decisions, read back. They never change once they are recorded, so a process remembers what it has read and
 * folded, and reads only what came after it: what a draft costs does not grow with what was decided before.
 */
import { foldDecisions, type Decision, type Draft, type RecordedDecision } from '@fastigium/core/site';
import { LRUCache } from 'lru-cache';
import type { Queries } from '../../db/database.ts';

export interface SiteState {
  readonly id: string;
  readonly name: string;
  readonly hostName: string;
  readonly version: number;
  readonly currentImport: string | null;
  readonly liveRelease: string | null;
}

/** @param lock held to the end of the transaction against others who ask for it, but not against rows that only belong to the site */
export async function readSiteState(queries: Queries, site: string, lock?: 'locked'): Promise<SiteState> {
  return queries.one<SiteState & Record<string, unknown>>(
    `select id, name, host_name as "hostName", version, current_import as "currentImport", live_release as "liveRelease"
       from site where id = $1 ${lock ? 'for no key update' : ''}`,
    [site],
  );
}

/** Of one site: its committed decisions as far as they were read, and drafts of some of their versions. */
interface Remembered {
  readonly decisions: readonly RecordedDecision[];
  /** When the last of them was made, as PostgreSQL says it. */
  readonly lastAt: string;
  readonly bytes: number;
  readonly drafts: LRUCache<number, Draft>;
}

const MOST_BYTES = 128 * 1024 * 1024; // 128 MiB of bodies as text, of all sites
/** The draft as it is, as it was compiled, as it is live, and one that is looked at. */
const DRAFTS_A_SITE = 4;

/** By the server they were read from: another one may lack what was decided last. */
const bySource = new WeakMap<object, LRUCache<string, Remembered>>();
/** Whose drafts are remembered for a list of decisions, and up to which of them. */
const remembered = new WeakMap<readonly RecordedDecision[], { drafts: LRUCache<number, Draft>; upTo: number }>();

/** Decisions in order; they were validated when recorded, and nothing changes them afterwards. */
export async function readHistory(queries: Queries, site: string): Promise<readonly RecordedDecision[]> {
  const sites =
    bySource.get(queries.source) ??
    new LRUCache<string, Remembered>({ maxSize: MOST_BYTES, sizeCalculation: ({ bytes }) => bytes + 1 });
  bySource.set(queries.source, sites);
  const known = sites.get(site);
  const read =
    (known && (await readOn(queries, site, known))) ??
    (await readOn(queries, site, {
      decisions: [],
      lastAt: '',
      bytes: 0,
      drafts: new LRUCache<number, Draft>({ max: DRAFTS_A_SITE }),
    }));
  if (!read) throw new Error(`the decisions of ${site} have no beginning`);
  const keeps = queries.readsCommitted ? read : known;
  remembered.set(read.decisions, { drafts: read.drafts, upTo: keeps?.decisions.at(-1)?.seq ?? 0 });
  if (keeps === read) sites.set(site, read);
  return read.decisions;
}

/** @returns what is known and what came after it; undefined where a backup was put back that lacks what is known */
async function readOn(queries: Queries, site: string, known: Remembered): Promise<Remembered | undefined> {
  const last = known.decisions.at(-1)?.seq ?? 0;
  const rows = await queries.many<{ seq: number; body: Decision | null; bytes: number; at: string }>(
    `select seq, at::text as at, octet_length(body::text) as bytes, case when seq > $2 then body end as body
       from decision where site_id = $1 and seq >= $2 order by seq`,
    [site, last],
  );
  const [first] = rows;
  if (last > 0 && (first?.seq !== last || first.at !== known.lastAt)) return undefined;
  const later = rows.flatMap(({ seq, body }) => (body ? [{ seq, decision: body }] : []));
  if (later.length === 0) return known;
  return {
    ...known,
    decisions: [...known.decisions, ...later],
    lastAt: rows.at(-1)?.at ?? '',
    bytes: rows.reduce((sum, { bytes, body }) => sum + (body ? bytes : 0), known.bytes),
  };
}

/** The draft as it stood after the first `version` decisions. */
export function foldDraftAt(decisions: readonly RecordedDecision[], version: number): Draft {
  const last = decisions.at(-1)?.seq ?? 0;
  const at = Math.min(version, last);
  const { drafts, upTo = -1 } = remembered.get(decisions) ?? {};
  const known = at <= upTo ? drafts?.get(at) : undefined;
  if (known) return known;
  const draft = foldDecisions(at === last ? decisions : decisions.filter(({ seq }) => seq <= at));
  if (at <= upTo) drafts?.set(at, draft);
  return draft;
}

/** The draft with everything that is decided. */
export async function readLatestDraft(queries: Queries, site: string): Promise<Draft> {
  return foldDraftAt(await readHistory(queries, site), Infinity);
}
