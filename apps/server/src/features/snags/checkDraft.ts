/**
 * Checking a draft: what differs from the draft that was checked last is read and checked again, and
 * whatever depends on it. What concerns all pages at once is asked of what was read before.
 */
import { findAddressOfFile, isPageFile } from '@fastigium/core/address';
import { createLanding, type PageFacts } from '@fastigium/core/checks';
import { serialiseRules, type Rule } from '@fastigium/core/redirects';
import {
  findDifferingShards,
  emptyManifest,
  findMediaType,
  parseShard,
  type ManifestEntry,
  type ShardHashes,
} from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { hashSha256, type SentResult } from '../../threads/tasks.ts';
import { readSiteAddress } from '../shared/siteAddress.ts';
import { compileDraft, type CompiledDraft } from '../draft/compileDraft.ts';
import { createTurns } from '../shared/inTurn.ts';
import { readAllEntries, readShardTexts } from '../shared/manifests.ts';
import { keepRedirectSnags } from './redirectSnags.ts';
import { readToldBefore, findWhatIsAnew, type CheckState, type Difference } from './anew.ts';
import { keepRead, readPages, type CheckOptions } from './pageChecks.ts';
import { keepSiteSnags } from './siteSnags.ts';
import { forgetSnags, createSubjects } from './snagRows.ts';

/** How much was done, for whoever wants to know what an edit costs. */
export interface Checked {
  readonly version: number;
  readonly pagesRead: number;
  readonly pagesAsked: number;
}

const oneAtATime = createTurns();
const MOST_TRIES = 5;

/** Pages are read while nothing is held; what came of it is kept at once, unless another process checked meanwhile. */
export function checkDraft(deps: Deps, site: string, options: CheckOptions = {}): Promise<Checked> {
  return oneAtATime(site, async () => {
    for (let tries = 1; ; tries += 1) {
      options.signal?.throwIfAborted();
      const checked = await checkNow(deps, site, options);
      if (checked) return checked;
      if (tries === MOST_TRIES) throw new Error(`the draft of ${site} was checked by others again and again`);
    }
  });
}

/** What is about to be checked, and what it is held against. */
interface Check {
  readonly compiled: CompiledDraft;
  readonly state: CheckState | undefined;
  readonly rulesHash: string;
  readonly ownNames: readonly string[];
  readonly difference: Difference;
  readonly all: ReadonlyMap<string, ManifestEntry>;
  readonly toRead: readonly string[];
}

/** @returns undefined where another process has checked meanwhile */
async function checkNow(deps: Deps, site: string, options: CheckOptions): Promise<Checked | undefined> {
  const { db } = deps;
  const compiled = await compileDraft(deps, site, options);
  const rulesHash = hashSha256(serialiseRules(compiled.rules.rules));
  const state = await readCheckedState(db, site);
  // A later one may have been checked while this one waited.
  if (state && state.version > compiled.version) return { version: state.version, pagesRead: 0, pagesAsked: 0 };
  const difference = await readDifference(db, state?.shards ?? emptyManifest, compiled.shards);
  const ownNames = await readNames(db, site);
  const namesDiffer = state !== undefined && ownNames.join(' ') !== state.ownNames.join(' ');
  if (state?.version === compiled.version && difference.size === 0 && state.rulesHash === rulesHash && !namesDiffer)
    return { version: compiled.version, pagesRead: 0, pagesAsked: 0 };
  const all = await readAllEntries(db, compiled.shards);
  const differing = await findPagesToRead(db, site, difference, all);
  const toRead = namesDiffer ? [...new Set([...differing, ...[...all.keys()].filter(isPageFile)])] : differing;
  const results = await readPages(deps, { all, paths: toRead, ownNames }, options);
  options.signal?.throwIfAborted();
  return keepCheck(deps, site, { compiled, state, rulesHash, ownNames, difference, all, toRead }, results);
}

const readCheckedState = (queries: Queries, site: string): Promise<CheckState | undefined> =>
  queries.maybeOne<CheckState>(
    'select version, import_id as "importId", shards, rules_hash as "rulesHash", own_names as "ownNames" from check_state where site_id = $1',
    [site],
  );

const isSame = (one: CheckState | undefined, other: CheckState | undefined): boolean =>
  one?.version === other?.version &&
  one?.importId === other?.importId &&
  one?.rulesHash === other?.rulesHash &&
  one?.shards.join() === other?.shards.join() &&
  one?.ownNames.join() === other?.ownNames.join();

/** In one transaction, and with it what the whole site shows. @returns undefined where another process has checked since */
async function keepCheck(
  deps: Deps,
  site: string,
  { compiled, state, rulesHash, ownNames, difference, all, toRead }: Check,
  results: readonly SentResult[],
): Promise<Checked | undefined> {
  const read = new Map(results.map(({ facts }) => [facts.path, facts]));
  const rulesDiffer = state?.rulesHash !== rulesHash;
  return deps.db.transaction(async (tx) => {
    await tx.run('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`check ${site}`]);
    if (!isSame(state, await readCheckedState(tx, site))) return undefined;
    const landing = createLanding(new Set(all.keys()), compiled.rules.rules);
    const subjects = createSubjects(tx, compiled.importId, compiled.draft);
    const gone = [...difference].filter(([, { after }]) => !after).map(([path]) => path);
    const before = await readToldBefore(tx, site, [...toRead, ...gone]);
    // Before anything new: a page that moved has the same snags under the same keys at its new path.
    await tx.run('delete from page_fact where site_id = $1 and path = any($2)', [site, gone]);
    await forgetSnags(tx, site, gone);
    await keepRead(tx, site, results, subjects);
    const changedRules = rulesDiffer ? await compareRules(tx, site, compiled.rules.rules) : undefined;
    const anew = await findWhatIsAnew(tx, site, { state, compiled, difference, told: before, read, rulesDiffer });
    const asked = await keepSiteSnags(tx, {
      site,
      draft: compiled.draft,
      importId: compiled.importId,
      all,
      landing,
      subjects,
      changed: listChangedAddresses(difference, read),
      changedRules,
      read: new Set(toRead),
      sharesPictures: [...read.values()].some(({ shareImage }) => shareImage !== ''),
      anew,
    });
    await keepRedirectSnags(tx, deps, site, compiled, all);
    await tx.run(
      `insert into check_state (site_id, version, import_id, shards, rules_hash, files_checked, own_names) values ($1, $2, $3, $4, $5, $6, $7)
       on conflict (site_id) do update set version = $2, import_id = $3, shards = $4, rules_hash = $5, files_checked = $6, own_names = $7, checked_at = now()`,
      [site, compiled.version, compiled.importId, compiled.shards, rulesHash, toRead.length, ownNames],
    );
    await announce(tx, { kind: 'snags', site });
    return { version: compiled.version, pagesRead: toRead.length, pagesAsked: asked };
  });
}

/** In one order, so that they can be compared. */
async function readNames(queries: Queries, site: string): Promise<string[]> {
  return ((await readSiteAddress(queries, site))?.names ?? []).map((name) => name.toLowerCase()).sort();
}

async function readDifference(queries: Queries, before: ShardHashes, after: ShardHashes): Promise<Difference> {
  const indices = findDifferingShards(before, after);
  const text = await readShardTexts(
    queries,
    indices.flatMap((index) => [before[index], after[index]]),
  );
  const entries = (shards: ShardHashes) =>
    new Map(
      indices
        .flatMap((index) => {
          const hash = shards[index];
          return hash ? parseShard(text(hash)) : [];
        })
        .map((entry) => [entry.path, entry]),
    );
  const [old, now] = [entries(before), entries(after)];
  const out = new Map<string, { before: ManifestEntry | undefined; after: ManifestEntry | undefined }>();
  for (const path of new Set([...old.keys(), ...now.keys()]))
    if (old.get(path)?.hash !== now.get(path)?.hash) out.set(path, { before: old.get(path), after: now.get(path) });
  return out;
}

/** Pages and style sheets that differ, and pages that a differing style sheet or picture is judged with. */
async function findPagesToRead(
  queries: Queries,
  site: string,
  difference: Difference,
  all: ReadonlyMap<string, ManifestEntry>,
): Promise<string[]> {
  const changedPaths = [...difference]
    .filter(([path, { after }]) => after && (isPageFile(path) || findMediaType(path) === 'text/css'))
    .map(([path]) => path);
  const judgedWith = [...difference.keys()]
    .filter((path) => {
      const type = findMediaType(path);
      return type === 'text/css' || type.startsWith('image/');
    })
    .map(findAddressOfFile);
  const rows =
    judgedWith.length === 0
      ? []
      : await queries.many<{ path: string }>(
          'select path from page_fact where site_id = $1 and links_to && $2::text[]',
          [site, judgedWith],
        );
  return [...new Set([...changedPaths, ...rows.map(({ path }) => path)])].filter((path) => all.has(path));
}

/** Addresses at which something answers now that did not, or the other way round, and pages whose inside differs. */
function listChangedAddresses(difference: Difference, read: ReadonlyMap<string, PageFacts>): string[] {
  const out = new Set<string>();
  for (const [path, { before, after }] of difference)
    if (!before || !after || read.has(path)) out.add(findAddressOfFile(path));
  return [...out];
}

/** Addresses whose rule differs from the one they were checked with. */
async function compareRules(tx: Queries, site: string, rules: readonly Rule[]): Promise<string[]> {
  const now = new Map(rules.map((rule) => [rule.from, `${rule.status} ${rule.to ?? ''}`]));
  const old = new Map(
    (
      await tx.many<{ from: string; to: string }>(
        'select from_address as "from", to_words as "to" from checked_rule where site_id = $1',
        [site],
      )
    ).map(({ from, to }) => [from, to]),
  );
  const differing = [...new Set([...now.keys(), ...old.keys()])].filter((from) => now.get(from) !== old.get(from));
  await tx.run('delete from checked_rule where site_id = $1 and from_address = any($2)', [site, differing]);
  const kept = differing.filter((from) => now.has(from));
  await tx.run(
    'insert into checked_rule (site_id, from_address, to_words) select $1, * from unnest($2::text[], $3::text[])',
    [site, kept, kept.map((from) => now.get(from) ?? '')],
  );
  return differing;
}
