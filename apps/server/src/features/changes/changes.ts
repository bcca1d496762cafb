/** What visitors will notice since the live release, and the evidence for each change. */
import type { Change, Evidence } from '@fastigium/contracts/api/releases';
import { DomainError } from '@fastigium/contracts/errors';
import { OPEN_TO_ALL, type Serving } from '@fastigium/core/access';
import { findAddressOfFile, isPageFile } from '@fastigium/core/address';
import { decodeSource, readPage } from '@fastigium/core/html';
import type { Rule } from '@fastigium/core/redirects';
import {
  findDifferingShards,
  emptyManifest,
  compareReleases,
  type ManifestEntry,
  type ReleaseDifference,
  type ShardHashes,
} from '@fastigium/core/release';
import { isSameMessage } from '@fastigium/core/messages';
import {
  change as says,
  isHeadOnly,
  isLinksOnly,
  isMenuOnly,
  describePageChange,
  compareSources,
  type ChangeMessage,
  type PageChange,
} from '@fastigium/core/report';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { compileDraft, type CompiledDraft } from '../draft/compileDraft.ts';
import { readEntries, readShardTexts } from '../shared/manifests.ts';
import type { ReleaseContents } from '../shared/releaseList.ts';
import { deriveKey, comparePages } from './pageDifferences.ts';
import { compareVisitors } from './visitorChanges.ts';
import { readServing } from '../shared/serving.ts';

export interface LiveRelease extends Record<string, unknown> {
  readonly id: string;
  readonly number: number;
  readonly shards: ShardHashes;
  readonly rulesHash: string | null;
}

export async function readLiveRelease(queries: Queries, site: string): Promise<LiveRelease | undefined> {
  return queries.maybeOne<LiveRelease>(
    `select r.id, r.number, r.shards, r.rules_hash as "rulesHash" from site s join release r on r.id = s.live_release where s.id = $1`,
    [site],
  );
}

export async function readDifference(
  queries: Queries,
  before: ShardHashes,
  after: ShardHashes,
): Promise<ReleaseDifference> {
  const hashes = findDifferingShards(before, after).flatMap((index) => [before[index], after[index]]);
  return compareReleases(before, after, await readShardTexts(queries, hashes));
}

/** Pages compared in detail; of more, a count is what a person can use. */
const MOST_DETAILED = 5000;
/** New pages whose title is read. */
const MOST_TITLES = 300;

interface Compared {
  readonly compiled: CompiledDraft;
  readonly live: LiveRelease | undefined;
  readonly difference: ReleaseDifference;
  readonly changes: readonly Change[];
}

export async function readChangesSinceLive(deps: Deps, site: string): Promise<Compared> {
  const compiled = await compileDraft(deps, site);
  const live = await readLiveRelease(deps.db, site);
  return {
    compiled,
    live,
    ...(await compareContents(deps, live, compiled.shards, { rules: compiled.rules.rules, access: compiled.access })),
  };
}

/** @param before undefined: nothing */
export async function readChangesBetween(
  deps: Deps,
  before: ReleaseContents | undefined,
  after: ReleaseContents,
): Promise<Pick<Compared, 'difference' | 'changes'>> {
  return compareContents(deps, before, after.shards, await readServing(deps.db, after.rulesHash));
}

async function compareContents(
  deps: Deps,
  before: ReleaseContents | undefined,
  shards: ShardHashes,
  after: Serving,
): Promise<Pick<Compared, 'difference' | 'changes'>> {
  const difference = await readDifference(deps.db, before?.shards ?? emptyManifest, shards);
  if (before === undefined)
    return {
      difference,
      changes: [...compareVisitors(OPEN_TO_ALL, after.access), ...listFirstRelease(difference, after.rules)],
    };
  const was = await readServing(deps.db, before.rulesHash);
  return {
    difference,
    changes: [
      ...compareVisitors(was.access, after.access),
      ...(await listFileChanges(deps, difference)),
      ...listRuleChanges(was.rules, after.rules),
    ],
  };
}

/** Before anything is live, everything is new: said in a few lines instead of one for each file. */
function listFirstRelease({ added }: ReleaseDifference, rules: readonly Rule[]): Change[] {
  const pages = added.filter(({ path }) => isPageFile(path)).length;
  const rest = added.length - pages;
  const line = (group: Change['group'], subject: ChangeMessage, message: ChangeMessage): Change => ({
    key: `first:${group}`,
    group,
    what: 'added',
    subject,
    message,
  });
  return [
    ...(pages > 0 ? [line('pages', says('whole-site'), says('first-pages', { count: pages }))] : []),
    ...(rest > 0 ? [line('files', says('what-pages-need'), says('first-files', { count: rest }))] : []),
    ...(rules.length > 0
      ? [line('redirects', says('old-addresses'), says('first-redirects', { count: rules.length }))]
      : []),
  ];
}

async function listFileChanges(deps: Deps, difference: ReleaseDifference): Promise<Change[]> {
  const queries = deps.db;
  const changes: Change[] = [];
  const pages = difference.changed.filter(({ after }) => isPageFile(after.path)).slice(0, MOST_DETAILED);
  const known = await comparePages(
    deps,
    pages.map(({ before, after }) => ({ before: before.hash, after: after.hash })),
  );
  const alike = new Map<string, AlikeChanges>();
  for (const { before, after } of difference.changed) {
    const beginning = { key: `file:${after.path}`, what: 'changed', subject: nameSubject(after) } as const;
    if (!isPageFile(after.path)) {
      const message = says('file-replaced', { before: before.sizeBytes, after: after.sizeBytes });
      changes.push({ ...beginning, group: 'files', message });
      continue;
    }
    const page = known.get(deriveKey({ before: before.hash, after: after.hash }));
    const change = {
      ...beginning,
      group: groupOf(page),
      message: page ? describePageChange(page) : says('page-changed'),
    };
    changes.push(change);
    const together = page && describeAlike(page);
    if (!together) continue;
    const key = JSON.stringify(together);
    alike.set(key, { message: together, all: [...(alike.get(key)?.all ?? []), change] });
  }
  for (const entry of difference.added)
    changes.push({ ...describeEntry(entry, 'added'), message: await describeAdded(queries, entry, changes.length) });
  for (const entry of difference.removed)
    changes.push({ ...describeEntry(entry, 'removed'), message: says('removed') });
  for (const { before, after } of difference.moved) {
    changes.push({
      key: `file:${after.path}`,
      group: 'addresses',
      what: 'moved',
      subject: nameSubject(after),
      message: says('moved', { from: nameSubject(before) }),
    });
  }
  return gatherAlike(changes, [...alike.values()]);
}

function describeEntry(entry: ManifestEntry, what: 'added' | 'removed'): Omit<Change, 'message'> {
  return {
    key: `file:${entry.path}`,
    group: isPageFile(entry.path) ? 'addresses' : 'files',
    what,
    subject: nameSubject(entry),
  };
}

async function describeAdded(queries: Queries, entry: ManifestEntry, index: number): Promise<ChangeMessage> {
  if (!isPageFile(entry.path)) return says('file-added', { size: entry.sizeBytes });
  if (index >= MOST_TITLES) return says('page-added');
  const { title } = readPage(await readContent(queries, entry.hash));
  return title ? says('page-added-titled', { title }) : says('page-added');
}

function groupOf(page: PageChange | undefined): Change['group'] {
  if (page && isHeadOnly(page)) return 'metadata';
  return page && isMenuOnly(page) ? 'menus' : 'pages';
}

interface AlikeChanges {
  readonly message: ChangeMessage;
  readonly all: readonly Change[];
}

/** What is said of all pages together in which nothing but links follow, or the same lines of the head or as many places of menus change. */
function describeAlike(page: PageChange): ChangeMessage | undefined {
  if (isLinksOnly(page)) return says('pages-links-follow');
  if (isHeadOnly(page)) return says('pages-head', { lines: page.head });
  return isMenuOnly(page) ? describePageChange(page) : undefined;
}

/** So many at least make one line instead of many. */
const LEAST_ALIKE = 3;

function gatherAlike(changes: readonly Change[], alike: readonly AlikeChanges[]): Change[] {
  const gathered = alike.filter(({ all }) => all.length >= LEAST_ALIKE);
  const gone = new Set(gathered.flatMap(({ all }) => all));
  return [
    ...changes.filter((change) => !gone.has(change)),
    ...gathered.flatMap(({ message, all }) =>
      hasSome(all) ? [{ ...chooseShown(all), subject: says('pages', { count: all.length }), message }] : [],
    ),
  ];
}

const hasSome = <T>(all: readonly T[]): all is readonly [T, ...T[]] => all.length > 0;

/** The page nearest to the front shows best what happened to all. */
function chooseShown(all: readonly [Change, ...Change[]]): Change {
  return all.reduce((best, each) => (isNearer(each.key, best.key) ? each : best));
}

/** A front page before others, and a shorter path before a longer one. */
function isNearer(one: string, other: string): boolean {
  const [isFront, isOtherFront] = [one, other].map((key) => /(^|[:/])index\.\w+$/.test(key));
  return isFront === isOtherFront ? one.length < other.length : isFront === true;
}

function listRuleChanges(before: readonly Rule[], after: readonly Rule[]): Change[] {
  const old = new Map(before.map((rule) => [rule.from, rule]));
  const now = new Map(after.map((rule) => [rule.from, rule]));
  const change = (rule: Rule, what: Change['what'], message: ChangeMessage): Change => ({
    key: `rule:${rule.from}`,
    group: 'redirects',
    what,
    subject: rule.from,
    message,
  });
  return [
    ...after.flatMap((rule) => {
      const was = old.get(rule.from);
      if (!was) return [change(rule, 'added', describeRule(rule))];
      return isSameMessage(describeRule(was), describeRule(rule))
        ? []
        : [change(rule, 'changed', says('rule-changed', { now: describeRule(rule), before: describeRule(was) }))];
    }),
    ...before
      .filter(({ from }) => !now.has(from))
      .map((rule) => change(rule, 'removed', says('rule-removed', { before: describeRule(rule) }))),
    ...listReordered(before, after),
  ];
}

function describeRule({ status, to, isPattern, ignoreCase, anySlash, dropsQuery }: Rule): ChangeMessage {
  const yes = (holds: boolean | undefined) => (holds ? 'yes' : 'no');
  const how = says('rule-how', {
    pattern: yes(isPattern),
    anyCase: yes(ignoreCase),
    anySlash: yes(anySlash),
    dropsQuery: yes(dropsQuery),
  });
  return to === undefined ? says('gone', { status, how }) : says('lands', { to, status, how });
}

/** Another order of the same patterns may send some visitors elsewhere. */
function listReordered(before: readonly Rule[], after: readonly Rule[]): Change[] {
  const kept = (rules: readonly Rule[], others: readonly Rule[]) => {
    const there = new Set(others.filter(({ isPattern }) => isPattern).map(({ from }) => from));
    return rules.filter(({ isPattern, from }) => isPattern && there.has(from)).map(({ from }) => from);
  };
  return kept(before, after).join('\n') === kept(after, before).join('\n')
    ? []
    : [
        {
          key: 'rules:order',
          group: 'redirects',
          what: 'changed',
          subject: says('patterns'),
          message: says('rules-ordered'),
        },
      ];
}

function nameSubject({ path }: ManifestEntry): string {
  return isPageFile(path) ? findAddressOfFile(path) : `/${path}`;
}

/** Sizes as people say them, in powers of ten (IEC 80000-13 keeps kB for 1000). */
export function formatBytes(n: number): string {
  if (n < 1000) return `${n} B`;
  for (const [unit, size] of [
    ['kB', 1e3],
    ['MB', 1e6],
    ['GB', 1e9],
  ] as const) {
    if (n < size * 1000 || unit === 'GB') return `${(n / size).toFixed(n / size < 10 ? 1 : 0)} ${unit}`;
  }
  return `${n} B`;
}

// What a person reads through before deciding; more than that is for the files themselves.
const MOST_LINES = 400;
const MOST_DIFF_BYTES = 1024 * 1024; // 1 MiB

/** @param shards before and after; undefined for nothing */
export async function readChangeEvidence(
  deps: Deps,
  key: string,
  shards: { readonly before: ShardHashes | undefined; readonly after: ShardHashes },
): Promise<Evidence> {
  const [kind, rest] = [key.slice(0, key.indexOf(':')), key.slice(key.indexOf(':') + 1)];
  if (kind !== 'file') throw new DomainError('not-found', { what: 'change' });
  const after = (await readEntries(deps.db, shards.after, [rest])).get(rest);
  const before = shards.before && (await readEntries(deps.db, shards.before, [rest])).get(rest);
  if (!before && !after) throw new DomainError('not-found', { what: 'change' });
  const facts = (entry: ManifestEntry | undefined) => (entry ? { path: entry.path, sizeBytes: entry.sizeBytes } : null);
  const isText = [before, after].every(
    (entry) =>
      !entry ||
      (/^text\/|json|xml|javascript/.test(entry.headers['content-type'] ?? '') && entry.sizeBytes <= MOST_DIFF_BYTES),
  );
  const source = async (entry: ManifestEntry | undefined) =>
    entry ? decodeSource(await readContent(deps.db, entry.hash)).text : '';
  const lines = isText ? compareSources(await source(before), await source(after)) : [];
  return {
    key,
    kind: isText ? 'source' : 'file',
    before: facts(before),
    after: facts(after),
    lines: lines.slice(0, MOST_LINES).map(({ sign, text }) => ({ sign, text: text.slice(0, 2000) })),
    cut: lines.length > MOST_LINES,
  };
}
