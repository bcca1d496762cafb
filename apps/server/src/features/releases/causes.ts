/**
 * Which decisions since the live release made which of the changes visitors will notice: for names beside them, and to
 * take one back or leave it out. Reckoned by what compiling itself asks of a step, so both know the same pages.
 */
import type { Cause } from '@fastigium/contracts/api/releases';
import { publishedPath, underBase } from '@fastigium/core/release';
import {
  affectedBetween,
  differingIcons,
  draftAddress,
  isFact,
  withRemoved,
  type Draft,
  type RecordedDecision,
} from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import type { Queries } from '../../db/database.ts';
import { affectedPages } from '../draft/affectedPages.ts';
import { ROBOTS, SECURITY } from '../draft/heads/siteFiles.ts';
import { draftAt, history, siteState } from '../draft/history.ts';
import { draftRules } from '../draft/draftRules.ts';
import { menusInDraft } from '../draft/menus.ts';
import { allPages, pagesById, type SourcePage } from '../draft/pageFiles.ts';
import { initials } from '../people/initials.ts';
import { today } from '../today.ts';

/** Steps looked at one by one; of more the last ones, since those are what people ask about. */
const MOST_STEPS = 300;

interface Around {
  readonly tx: Queries;
  readonly importId: string;
  readonly day: string;
  readonly pages: ReadonlyMap<string, SourcePage>;
  /** The draft that is live, and the one that is looked at. */
  readonly live: Draft;
  readonly latest: Draft;
}

/** The newest first; `cut` where there are more steps than are looked at. */
export async function causesSinceLive(
  deps: Deps,
  site: string,
): Promise<{ version: number; causes: Cause[]; cut: boolean }> {
  const { db: tx } = deps;
  const { currentImport: importId, version } = await siteState(tx, site);
  const live = await tx.maybeOne<{ version: number }>(
    'select r.version from site s join release r on r.id = s.live_release where s.id = $1',
    [site],
  );
  if (!live || importId === null) return { version, causes: [], cut: false };
  const decisions = await history(tx, site);
  const steps = stepsThatCount(decisions, live.version);
  const looked = steps.slice(-MOST_STEPS);
  const latest = draftAt(decisions, version);
  const around: Around = {
    tx,
    importId,
    day: today(deps),
    live: draftAt(decisions, live.version),
    latest,
    pages: await allPages(tx, importId, withRemoved(latest)),
  };
  const told = await tx.many<{ seq: number; words: string; by: string | null; byId: string | null; at: Date }>(
    `select d.seq, d.words, p.name as by, p.id as "byId", d.at from decision d left join person p on p.id = d.by where d.site_id = $1 and d.seq = any($2)`,
    [site, looked.map(({ seq }) => seq)],
  );
  const bySeq = new Map(told.map((row) => [row.seq, row]));
  const causes: Cause[] = [];
  for (const step of looked) {
    const row = bySeq.get(step.seq);
    if (!row) continue;
    const changes = await changesOf(around, step, draftAt(decisions, step.seq - 1), draftAt(decisions, step.seq));
    causes.unshift({
      seq: step.seq,
      words: row.words,
      by: row.by === null || row.byId === null ? null : { id: row.byId, name: row.by, initials: initials(row.by) },
      at: row.at.toISOString(),
      canLeaveOut: !isFact(step.decision),
      changes: [...changes],
    });
  }
  return { version, causes, cut: looked.length < steps.length };
}

/** Those since the live release that were not taken back since, and what took an older one back. */
function stepsThatCount(decisions: readonly RecordedDecision[], liveVersion: number): RecordedDecision[] {
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

/** Keys of changes, as the list of changes has them. */
async function changesOf(
  around: Around,
  { decision }: RecordedDecision,
  before: Draft,
  after: Draft,
): Promise<Set<string>> {
  const { tx, importId, day } = around;
  const keys = new Set<string>();
  for (const page of (await stepPages(around, before, after)).values())
    for (const draft of [around.live, around.latest]) keys.add(`file:${publishedPath(draft, page)}`);
  for (const [path, { hash }] of after.assets) if (before.assets.get(path)?.hash !== hash) keys.add(`file:${path}`);
  for (const path of new Set([...before.removedFiles.keys(), ...after.removedFiles.keys()]))
    if (before.removedFiles.has(path) !== after.removedFiles.has(path)) keys.add(`file:${path}`);
  for (const from of differing(before.redirects, after.redirects)) keys.add(`rule:${from}`);
  for (const id of differing(before.patterns, after.patterns))
    for (const { text } of [before.patterns.get(id), after.patterns.get(id)].flatMap((pattern) => pattern ?? []))
      keys.add(`rule:${text}`);
  if (movesPages(before, after)) {
    // Only then do rules follow that nobody decided by themselves.
    const rules = async (draft: Draft) =>
      new Map((await draftRules(tx, importId, draft, day)).rules.map((rule) => [rule.from, JSON.stringify(rule)]));
    const [was, now] = [await rules(before), await rules(after)];
    for (const from of new Set([...was.keys(), ...now.keys()]))
      if (was.get(from) !== now.get(from)) keys.add(`rule:${from}`);
  }
  for (const { name } of differingSettings(before, after))
    for (const path of FILES[name] ?? []) keys.add(`file:${underBase(around.latest.basePath, path)}`);
  if (decision.kind === 'patterns-ordered') keys.add('rules:order');
  for (const place of new Set([...before.entries.keys(), ...after.entries.keys()])) {
    if (before.entries.get(place) === after.entries.get(place)) continue;
    const page = place === null ? undefined : around.pages.get(place);
    if (place === null || page) keys.add(`visitors:${page ? draftAddress(around.latest, page) : '/'}`);
  }
  if (before.shownInstead !== after.shownInstead) keys.add('visitors:instead');
  if (before.lastDay !== after.lastDay) keys.add('visitors:last-day');
  return keys;
}

async function stepPages(
  { tx, importId, pages }: Around,
  before: Draft,
  after: Draft,
): Promise<ReadonlyMap<string, SourcePage>> {
  // In another style, under another path, or with other lines in all heads, any page may be another.
  if (before.style !== after.style || before.basePath !== after.basePath || setsAllHeads(before, after)) return pages;
  const [menusBefore, menusAfter] = [await menusInDraft(tx, importId, before), await menusInDraft(tx, importId, after)];
  const affected = new Map(
    await affectedPages(tx, importId, before, after, { before: menusBefore, after: menusAfter }),
  );
  if (affectedBetween(before, after).head)
    for (const [id, page] of await pagesById(tx, importId, withRemoved(after), headPages(before, after)))
      affected.set(id, page);
  return affected;
}

function* differing<V>(before: ReadonlyMap<string, V>, after: ReadonlyMap<string, V>): Generator<string> {
  for (const key of new Set([...before.keys(), ...after.keys()])) if (before.get(key) !== after.get(key)) yield key;
}

function movesPages(before: Draft, after: Draft): boolean {
  return (
    before.style !== after.style ||
    before.basePath !== after.basePath ||
    before.crawledFrom.size !== after.crawledFrom.size ||
    before.removals.size !== after.removals.size ||
    before.removed.size !== after.removed.size ||
    affectedBetween(before, after).moved.size > 0
  );
}

function* differingSettings(before: Draft, after: Draft) {
  for (const key of new Set([...before.head.keys(), ...after.head.keys()])) {
    const setting = after.head.get(key) ?? before.head.get(key);
    if (setting && before.head.get(key) !== after.head.get(key)) yield setting;
  }
}
/** Settings that make files of their own, by their names; pages are as they were. */
const FILES: Readonly<Record<string, readonly string[]>> = {
  'robots.txt': [ROBOTS],
  'security.txt': [SECURITY],
  sitemap: ['sitemap.xml', ROBOTS],
};
const setsAllHeads = (before: Draft, after: Draft): boolean =>
  differingIcons(before, after) ||
  [...differingSettings(before, after)].some(({ scope, name }) => scope.kind !== 'page' && FILES[name] === undefined);
const headPages = (before: Draft, after: Draft): string[] =>
  [...differingSettings(before, after)].flatMap(({ scope }) => (scope.kind === 'page' ? [scope.page] : []));
