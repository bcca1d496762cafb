/**
 * Which decisions since the live release made which of the changes visitors will notice: for names beside them, and to
 * take one back or leave it out. A decision made a change where the bytes of the page differ by it: each page that
 * changes is compiled before and after every step that may have reached it.
 */
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import type { Cause } from '@fastigium/contracts/api/releases';
import { findLastingSteps, findPublishedPath, placeUnderBase, type StateChange } from '@fastigium/core/release';
import {
  findAffected,
  hasDifferingIcons,
  findDraftAddress,
  isFact,
  withRemoved,
  type Decision,
  type Draft,
  type RecordedDecision,
} from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import type { Queries } from '../../db/database.ts';
import { deriveInitials } from '../shared/initials.ts';
import { readToday } from '../shared/today.ts';
import { readOrigin } from '../draft/heads/heads.ts';
import { hasSitemap, ROBOTS, SECURITY, SITEMAP } from '../draft/heads/siteFiles.ts';
import { foldDraftAt, readHistory, readSiteState } from '../draft/history.ts';
import { readDraftRules } from '../draft/draftRules.ts';
import { compareListings, listListingPaths } from '../draft/listings.ts';
import { readAllPages, readPagesById, type SourcePage } from '../draft/pageFiles.ts';
import { readStylesToSwap } from '../draft/plainFiles.ts';
import { compileIn, readPagesThatMayDiffer, readBoth, type ReadDraft } from '../draft/readDraft.ts';
import { readChangesSinceLive } from '../changes/changes.ts';

/** Steps looked at one by one; of more the last ones, since those are what people ask about. */
const MOST_STEPS = 300;
/** Pages compiled to tell what a step did; of more the last steps are told. */
const MOST_COMPILED = 6000;

interface Around {
  readonly deps: Deps;
  readonly tx: Queries;
  readonly site: string;
  readonly importId: string;
  readonly origin: string | undefined;
  readonly day: string;
  readonly pages: ReadonlyMap<string, SourcePage>;
  /** The draft that is live, and the one that is looked at. */
  readonly live: Draft;
  readonly latest: Draft;
  /** Keys of the changes that are listed, of many alike the one that stands for them. */
  readonly shown: ReadonlySet<string>;
}

/** The newest first; `cut` where there are more steps than are looked at. */
export async function readCausesSinceLive(
  deps: Deps,
  site: string,
): Promise<{ version: number; causes: Cause[]; cut: boolean }> {
  const { db: tx } = deps;
  const { currentImport, version: latestVersion } = await readSiteState(tx, site);
  const release = await tx.maybeOne<{ version: number; importId: string }>(
    'select r.version, r.import_id as "importId" from site s join release r on r.id = s.live_release where s.id = $1',
    [site],
  );
  if (!release || currentImport === null) return { version: latestVersion, causes: [], cut: false };
  const { compiled, changes } = await readChangesSinceLive(deps, site);
  const { importId, version, draft: latest } = compiled;
  const decisions = (await readHistory(tx, site)).filter(({ seq }) => seq <= version);
  const steps = filterStepsThatCount(decisions, release.version);
  const looked = steps.slice(-MOST_STEPS);
  const messages = await tx.many<{
    seq: number;
    message: DecisionMessage;
    by: string | null;
    byId: string | null;
    at: Date;
  }>(
    `select d.seq, d.message, p.name as by, p.id as "byId", d.at from decision d left join person p on p.id = d.by where d.site_id = $1 and d.seq = any($2)`,
    [site, looked.map(({ seq }) => seq)],
  );
  const bySeq = new Map(messages.map((row) => [row.seq, row]));
  const around: Around = {
    deps,
    tx,
    site,
    importId,
    origin: await readOrigin(tx, site),
    day: readToday(deps),
    live: foldDraftAt(decisions, release.version),
    latest,
    pages: await readAllPages(tx, importId, withRemoved(latest)),
    shown: new Set(changes.map(({ key }) => key)),
  };
  const imports = [release.importId, ...steps.flatMap(({ decision }) => importOf(decision))];
  const made: { row: (typeof messages)[number]; step: RecordedDecision; keys: string[]; changed: readonly Moved[] }[] =
    [];
  let left = MOST_COMPILED;
  for (const step of [...looked].reverse()) {
    const row = bySeq.get(step.seq);
    if (!row) continue;
    if (left <= 0) break;
    const before = foldDraftAt(decisions, step.seq - 1);
    const after = foldDraftAt(decisions, step.seq);
    const { paths, changed, compiled: spent } = await readFilesOf(around, before, after);
    left -= spent;
    const keys = [
      ...listKeysBeside(around, step, before, after),
      ...(await readRuleKeys(around, before, after)),
      ...[...paths, ...(await readFilesOfExport(around, step.decision, imports))].map((path) => `file:${path}`),
    ];
    made.push({ row, step, keys, changed });
  }
  const lasting = findLastingPages([...made].reverse());
  const causes = made.map(({ row, step: { seq, decision }, keys, changed }): Cause => {
    const paths = changed.filter(({ page }) => lasting.get(page)?.has(seq)).flatMap((each) => each.paths);
    const all = new Set([...keys, ...paths.map((path) => `file:${path}`)]);
    return {
      seq,
      message: row.message,
      by:
        row.by === null || row.byId === null ? null : { id: row.byId, name: row.by, initials: deriveInitials(row.by) },
      at: row.at.toISOString(),
      canLeaveOut: !isFact(decision),
      changes: [...all].filter((key) => around.shown.has(key)),
    };
  });
  return { version, causes, cut: causes.length < steps.length };
}

/** A page whose files a step made others. */
interface Moved {
  readonly page: string;
  /** Its files with their hashes. */
  readonly was: string;
  readonly now: string;
  /** Those that differ, and where the page stands live and will stand. */
  readonly paths: readonly string[];
}

/** By page, the steps that nothing later led back from. */
function findLastingPages(
  made: readonly { readonly step: RecordedDecision; readonly changed: readonly Moved[] }[],
): ReadonlyMap<string, ReadonlySet<number>> {
  const byPage = new Map<string, StateChange[]>();
  for (const { step, changed } of made)
    for (const { page, was, now } of changed)
      byPage.set(page, [...(byPage.get(page) ?? []), { seq: step.seq, was, now }]);
  return new Map([...byPage].map(([page, steps]) => [page, new Set(findLastingSteps(steps))]));
}

const importOf = (decision: Decision): string[] => (decision.kind === 'export-taken' ? [decision.import] : []);

/** Those since the live release that were not taken back since, and what took an older one back. */
function filterStepsThatCount(decisions: readonly RecordedDecision[], liveVersion: number): RecordedDecision[] {
  const undone = new Set<number>();
  const out: RecordedDecision[] = [];
  for (const recorded of [...decisions].reverse()) {
    const { seq, decision } = recorded;
    if (undone.has(seq)) continue;
    if (decision.kind === 'undo') undone.add(decision.of);
    if (seq > liveVersion && !(decision.kind === 'undo' && decision.of > liveVersion)) out.unshift(recorded);
  }
  return out;
}

/** Keys of changes that the decision itself names: files put in or taken out, settings, who may visit. */
function* listKeysBeside(
  { latest, pages }: Around,
  { decision }: RecordedDecision,
  before: Draft,
  after: Draft,
): Generator<string> {
  const file = (path: string) => `file:${placeUnderBase(latest.basePath, path)}`;
  for (const path of walkDiffering(before.assets, after.assets)) yield file(path);
  for (const path of walkDiffering(before.removedFiles, after.removedFiles)) yield file(path);
  for (const { name } of findDifferingSettings(before, after)) for (const path of FILES[name] ?? []) yield file(path);
  if (hasDifferingIcons(before, after)) for (const { path } of [...before.icons, ...after.icons]) yield file(path);
  if (decision.kind === 'patterns-ordered') yield 'rules:order';
  for (const place of walkDiffering(before.entries, after.entries)) {
    const page = place === null ? undefined : pages.get(place);
    if (place === null || page) yield `visitors:${page ? findDraftAddress(latest, page) : '/'}`;
  }
  if (before.shownInstead !== after.shownInstead) yield 'visitors:instead';
  if (before.lastDay !== after.lastDay) yield 'visitors:last-day';
}

async function readRuleKeys({ tx, importId, day }: Around, before: Draft, after: Draft): Promise<string[]> {
  const keys = new Set<string>();
  for (const from of walkDiffering(before.redirects, after.redirects)) keys.add(from);
  for (const id of walkDiffering(before.patterns, after.patterns))
    for (const { text } of [before.patterns.get(id), after.patterns.get(id)].flatMap((pattern) => pattern ?? []))
      keys.add(text);
  if (isMovingPages(before, after)) {
    // Only then do rules follow that nobody decided by themselves.
    const rules = async (draft: Draft) =>
      new Map((await readDraftRules(tx, importId, draft, day)).rules.map((rule) => [rule.from, JSON.stringify(rule)]));
    for (const from of walkDiffering(await rules(before), await rules(after))) keys.add(from);
  }
  return [...keys].map((from) => `rule:${from}`);
}

/** Paths, as live and as they will be, of what a step made other in its bytes or its place. */
async function readFilesOf(
  around: Around,
  before: Draft,
  after: Draft,
): Promise<{ paths: readonly string[]; changed: readonly Moved[]; compiled: number }> {
  const { deps, tx, importId, live, latest, shown } = around;
  const read = await readBoth(tx, around, { draft: before, origin: around.origin }, after);
  // In another style or under another path, any page may be another.
  const reached =
    before.style !== after.style || before.basePath !== after.basePath
      ? around.pages
      : await readPagesThatMayDiffer(tx, read.before, read.after);
  const places = (page: SourcePage) => [findPublishedPath(live, page), findPublishedPath(latest, page)];
  const isShown = (page: SourcePage) => places(page).some((path) => shown.has(`file:${path}`));
  const isListing = ({ id }: SourcePage) => read.before.listings.has(id) || read.after.listings.has(id);
  const pages = [...reached.values()].filter((page) => isListing(page) || isShown(page));
  const [was, now] = [await readHashes(deps, tx, read.before, pages), await readHashes(deps, tx, read.after, pages)];
  const changed = pages.flatMap((page): Moved[] => {
    const [old, fresh] = [was.get(page.id) ?? NOTHING, now.get(page.id) ?? NOTHING];
    const others = [...walkDiffering(old, fresh)];
    if (others.length === 0) return [];
    return [{ page: page.id, was: stateOf(old), now: stateOf(fresh), paths: [...others, ...places(page)] }];
  });
  const paths = new Set<string>();
  for (const { path } of await readStylesToSwap(tx, importId, before, after))
    paths.add(placeUnderBase(latest.basePath, path));
  for (const id of compareListings(read.before.listings, read.after.listings))
    for (const listing of [read.before.listings.get(id), read.after.listings.get(id)])
      for (const path of listing ? listListingPaths(listing) : []) paths.add(path);
  // A sitemap names every page there is, and when it changed.
  if (paths.size + changed.length > 0 && (hasSitemap(before) || hasSitemap(after)))
    paths.add(placeUnderBase(latest.basePath, SITEMAP));
  return { paths: [...paths], changed, compiled: 2 * pages.length };
}

const NOTHING: ReadonlyMap<string, string> = new Map();
const stateOf = (files: ReadonlyMap<string, string>): string => [...files].sort().join('\n');

/** What a draft publishes for some pages: by page, the hash of each of its files by path. */
async function readHashes(
  deps: Deps,
  tx: Queries,
  read: ReadDraft,
  pages: readonly SourcePage[],
): Promise<ReadonlyMap<string, ReadonlyMap<string, string>>> {
  const out = new Map<string, Map<string, string>>();
  const ids = pages.map(({ id }) => id);
  const there = await readPagesById(tx, read.importId, withRemoved(read.draft), ids);
  for await (const batch of compileIn(deps, tx, read, [...there.values()]))
    for (const { page, file } of batch) out.set(page.id, (out.get(page.id) ?? new Map()).set(file.path, file.hash));
  return out;
}

/** Paths of what a newer export brought, took away or has otherwise than the one before. */
async function readFilesOfExport(
  { tx, live, latest, pages }: Around,
  decision: Decision,
  imports: readonly string[],
): Promise<string[]> {
  if (decision.kind !== 'export-taken') return [];
  const former = imports[imports.indexOf(decision.import) - 1];
  if (former === undefined) return [];
  const files = await tx.many<{ path: string }>(
    `select path from (select path, hash from source_file where import_id = $1) was
       full join (select path, hash from source_file where import_id = $2) now using (path)
      where was.hash is distinct from now.hash`,
    [former, decision.import],
  );
  const bySource = new Map([...pages.values()].map((page) => [page.sourcePath, page]));
  return files.flatMap(({ path }) => {
    const page = bySource.get(path);
    return [
      placeUnderBase(live.basePath, path),
      placeUnderBase(latest.basePath, path),
      ...(page ? [findPublishedPath(live, page), findPublishedPath(latest, page)] : []),
    ];
  });
}

function* walkDiffering<K, V>(before: ReadonlyMap<K, V>, after: ReadonlyMap<K, V>): Generator<K> {
  for (const key of new Set([...before.keys(), ...after.keys()])) if (before.get(key) !== after.get(key)) yield key;
}

function isMovingPages(before: Draft, after: Draft): boolean {
  return (
    before.style !== after.style ||
    before.basePath !== after.basePath ||
    before.crawledFrom.size !== after.crawledFrom.size ||
    before.removals.size !== after.removals.size ||
    before.removed.size !== after.removed.size ||
    findAffected(before, after).moved.size > 0
  );
}

function* findDifferingSettings(before: Draft, after: Draft) {
  for (const key of new Set([...before.head.keys(), ...after.head.keys()])) {
    const setting = after.head.get(key) ?? before.head.get(key);
    if (setting && before.head.get(key) !== after.head.get(key)) yield setting;
  }
}
/** Settings that make files of their own, by their names; pages are as they were. */
const FILES: Readonly<Record<string, readonly string[]>> = {
  'robots.txt': [ROBOTS],
  'security.txt': [SECURITY],
  sitemap: [SITEMAP, ROBOTS],
};
