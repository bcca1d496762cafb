/** What visitors will notice since the live release, in words, and the evidence for each change. */
import type { Change, Evidence } from '@fastigium/contracts/api/releases';
import { DomainError } from '@fastigium/contracts/errors';
import { OPEN_TO_ALL, type Serving } from '@fastigium/core/access';
import { addressOfFile, isPageFile } from '@fastigium/core/address';
import { decodeSource, readPage } from '@fastigium/core/html';
import type { Rule } from '@fastigium/core/redirects';
import {
  differingShards,
  emptyManifest,
  releaseDifference,
  type ManifestEntry,
  type ReleaseDifference,
  type ShardHashes,
} from '@fastigium/core/release';
import { sourceDiff } from '@fastigium/core/report';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { contentBytes } from '../shared/contents.ts';
import { compileDraft, type CompiledDraft } from '../draft/compileDraft.ts';
import { entriesOf, shardTexts } from '../shared/manifests.ts';
import type { ReleaseContents } from '../shared/releaseList.ts';
import { pageWords } from './pageWords.ts';
import { visitorChanges } from './visitorChanges.ts';
import { servingOf } from '../shared/serving.ts';

export interface LiveRelease extends Record<string, unknown> {
  readonly id: string;
  readonly number: number;
  readonly shards: ShardHashes;
  readonly rulesHash: string | null;
}

export async function liveRelease(queries: Queries, site: string): Promise<LiveRelease | undefined> {
  return queries.maybeOne<LiveRelease>(
    `select r.id, r.number, r.shards, r.rules_hash as "rulesHash" from site s join release r on r.id = s.live_release where s.id = $1`,
    [site],
  );
}

export async function differenceBetween(
  queries: Queries,
  before: ShardHashes,
  after: ShardHashes,
): Promise<ReleaseDifference> {
  const hashes = differingShards(before, after).flatMap((index) => [before[index], after[index]]);
  return releaseDifference(before, after, await shardTexts(queries, hashes));
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

export async function changesSinceLive(deps: Deps, site: string): Promise<Compared> {
  const compiled = await compileDraft(deps, site);
  const live = await liveRelease(deps.db, site);
  return {
    compiled,
    live,
    ...(await comparison(deps, live, compiled.shards, { rules: compiled.rules.rules, access: compiled.access })),
  };
}

/** @param before undefined: nothing */
export async function changesBetween(
  deps: Deps,
  before: ReleaseContents | undefined,
  after: ReleaseContents,
): Promise<Pick<Compared, 'difference' | 'changes'>> {
  return comparison(deps, before, after.shards, await servingOf(deps.db, after.rulesHash));
}

async function comparison(
  deps: Deps,
  before: ReleaseContents | undefined,
  shards: ShardHashes,
  after: Serving,
): Promise<Pick<Compared, 'difference' | 'changes'>> {
  const difference = await differenceBetween(deps.db, before?.shards ?? emptyManifest, shards);
  if (before === undefined)
    return {
      difference,
      changes: [...visitorChanges(OPEN_TO_ALL, after.access), ...firstRelease(difference, after.rules)],
    };
  const was = await servingOf(deps.db, before.rulesHash);
  return {
    difference,
    changes: [
      ...visitorChanges(was.access, after.access),
      ...(await fileChanges(deps, difference)),
      ...ruleChanges(was.rules, after.rules),
    ],
  };
}

/** Before anything is live, everything is new: said in a few lines instead of one for each file. */
function firstRelease({ added }: ReleaseDifference, rules: readonly Rule[]): Change[] {
  const pages = added.filter(({ path }) => isPageFile(path)).length;
  const rest = added.length - pages;
  const line = (group: Change['group'], subject: string, words: string): Change => ({
    key: `first:${group}`,
    group,
    what: 'added',
    subject,
    words,
  });
  return [
    ...(pages > 0 ? [line('pages', 'The whole site', `${count(pages, 'page')} go live for the first time`)] : []),
    ...(rest > 0
      ? [line('files', 'Everything the pages need', `${count(rest, 'file')}: styles, pictures, documents`)]
      : []),
    ...(rules.length > 0
      ? [line('redirects', 'Old addresses', `${count(rules.length, 'redirect')} from the first day`)]
      : []),
  ];
}

function count(n: number, noun: string): string {
  return `${n.toLocaleString('en')} ${noun}${n === 1 ? '' : 's'}`;
}

async function fileChanges(deps: Deps, difference: ReleaseDifference): Promise<Change[]> {
  const queries = deps.db;
  const changes: Change[] = [];
  const pages = difference.changed.filter(({ after }) => isPageFile(after.path)).slice(0, MOST_DETAILED);
  const known = await pageWords(
    deps,
    pages.map(({ before, after }) => ({ before: before.hash, after: after.hash })),
  );
  for (const { before, after } of difference.changed) {
    const isPage = isPageFile(after.path);
    const words = isPage
      ? (known.get(`${before.hash} ${after.hash}`) ?? 'changed')
      : `replaced, ${bytes(before.sizeBytes)} before, ${bytes(after.sizeBytes)} now`;
    changes.push({
      key: `file:${after.path}`,
      group: !isPage ? 'files' : isHeadOnly(words) ? 'metadata' : isMenuOnly(words) ? 'menus' : 'pages',
      what: 'changed',
      subject: subjectOf(after),
      words,
    });
  }
  for (const entry of difference.added)
    changes.push({ ...ofEntry(entry, 'added'), words: await addedWords(queries, entry, changes.length) });
  for (const entry of difference.removed) changes.push({ ...ofEntry(entry, 'removed'), words: 'no longer there' });
  for (const { before, after } of difference.moved) {
    changes.push({
      key: `file:${after.path}`,
      group: 'addresses',
      what: 'moved',
      subject: subjectOf(after),
      words: `moves here from ${subjectOf(before)}, unchanged`,
    });
  }
  return gatherLinkOnly(changes);
}

function ofEntry(entry: ManifestEntry, what: 'added' | 'removed'): Omit<Change, 'words'> {
  return {
    key: `file:${entry.path}`,
    group: isPageFile(entry.path) ? 'addresses' : 'files',
    what,
    subject: subjectOf(entry),
  };
}

async function addedWords(queries: Queries, entry: ManifestEntry, index: number): Promise<string> {
  if (!isPageFile(entry.path)) return `new, ${bytes(entry.sizeBytes)}`;
  if (index >= MOST_TITLES) return 'answers here now';
  const { title } = readPage(await contentBytes(queries, entry.hash));
  return title ? `“${title}” answers here now` : 'answers here now';
}

const isMenuOnly = (words: string): boolean => /^menu in \d+ places?$/.test(words);

/** Nothing but what machines and previews read. */
const isHeadOnly = (words: string): boolean => /^in the head: [^;]*$/.test(words);

const LINKS_ONLY = 'links follow to the new addresses, nothing else changes';

/** Many pages in which nothing but links follow, or the same lines of the head change, make one line, not many. */
function gatherLinkOnly(changes: readonly Change[]): Change[] {
  const alike = new Map<string, Change[]>();
  for (const change of changes) {
    const { group, what, words } = change;
    const same =
      what !== 'changed'
        ? undefined
        : group === 'pages' && /^links in \d+ places?$/.test(words)
          ? LINKS_ONLY
          : group === 'metadata'
            ? `${words}; nothing a visitor sees`
            : group === 'menus'
              ? words
              : undefined;
    if (same !== undefined) alike.set(same, [...(alike.get(same) ?? []), change]);
  }
  const gathered = [...alike].filter(([, all]) => all.length >= 3);
  const gone = new Set(gathered.flatMap(([, all]) => all));
  return [
    ...changes.filter((change) => !gone.has(change)),
    ...gathered.flatMap(([words, all]) =>
      hasSome(all) ? [{ ...shownFirst(all), subject: `${all.length} pages`, words }] : [],
    ),
  ];
}

const hasSome = <T>(all: readonly T[]): all is readonly [T, ...T[]] => all.length > 0;

/** The page nearest to the front shows best what happened to all. */
function shownFirst(all: readonly [Change, ...Change[]]): Change {
  return all.reduce((best, each) => (isNearer(each.subject, best.subject) ? each : best));
}

const isNearer = (one: string, other: string): boolean =>
  one.endsWith('/') === other.endsWith('/') ? one.length < other.length : one.endsWith('/');

function ruleChanges(before: readonly Rule[], after: readonly Rule[]): Change[] {
  const old = new Map(before.map((rule) => [rule.from, rule]));
  const now = new Map(after.map((rule) => [rule.from, rule]));
  const landing = ({ status, to, ...how }: Rule) =>
    `${to === undefined ? `answers ${status}, gone for good` : `lands on ${to} (${status})`}${strictness(how)}`;
  const change = (rule: Rule, what: Change['what'], words: string): Change => ({
    key: `rule:${rule.from}`,
    group: 'redirects',
    what,
    subject: rule.from,
    words,
  });
  return [
    ...after.flatMap((rule) => {
      const was = old.get(rule.from);
      if (!was) return [change(rule, 'added', landing(rule))];
      return landing(was) === landing(rule)
        ? []
        : [change(rule, 'changed', `${landing(rule)}; before, it ${landing(was)}`)];
    }),
    ...before
      .filter(({ from }) => !now.has(from))
      .map((rule) => change(rule, 'removed', `no redirect any more; it ${landing(rule)}`)),
    ...reordered(before, after),
  ];
}

function strictness({ isPattern, dropsQuery, ignoreCase, anySlash }: Omit<Rule, 'from' | 'status' | 'to'>): string {
  const how = [
    isPattern ? 'a pattern' : '',
    ignoreCase ? 'in any letter case' : '',
    anySlash ? 'with a last slash or without' : '',
    dropsQuery ? 'without the visitor’s query' : '',
  ].filter((part) => part !== '');
  return how.length === 0 ? '' : `, ${how.join(', ')}`;
}

/** Another order of the same patterns may send some visitors elsewhere. */
function reordered(before: readonly Rule[], after: readonly Rule[]): Change[] {
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
          subject: 'Patterns',
          words: 'are tried in another order',
        },
      ];
}

function subjectOf({ path }: ManifestEntry): string {
  return isPageFile(path) ? addressOfFile(path) : `/${path}`;
}

/** Sizes as people say them, in powers of ten (IEC 80000-13 keeps kB for 1000). */
export function bytes(n: number): string {
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
export async function changeEvidence(
  deps: Deps,
  key: string,
  shards: { readonly before: ShardHashes | undefined; readonly after: ShardHashes },
): Promise<Evidence> {
  const [kind, rest] = [key.slice(0, key.indexOf(':')), key.slice(key.indexOf(':') + 1)];
  if (kind !== 'file') throw new DomainError('not-found', { what: 'such change' });
  const after = (await entriesOf(deps.db, shards.after, [rest])).get(rest);
  const before = shards.before && (await entriesOf(deps.db, shards.before, [rest])).get(rest);
  if (!before && !after) throw new DomainError('not-found', { what: 'such change' });
  const facts = (entry: ManifestEntry | undefined) => (entry ? { path: entry.path, sizeBytes: entry.sizeBytes } : null);
  const isText = [before, after].every(
    (entry) =>
      !entry ||
      (/^text\/|json|xml|javascript/.test(entry.headers['content-type'] ?? '') && entry.sizeBytes <= MOST_DIFF_BYTES),
  );
  const source = async (entry: ManifestEntry | undefined) =>
    entry ? decodeSource(await contentBytes(deps.db, entry.hash)).text : '';
  const lines = isText ? sourceDiff(await source(before), await source(after)) : [];
  return {
    key,
    kind: isText ? 'source' : 'file',
    before: facts(before),
    after: facts(after),
    lines: lines.slice(0, MOST_LINES).map(({ sign, text }) => ({ sign, text: text.slice(0, 2000) })),
    cut: lines.length > MOST_LINES,
  };
}
