/**
 * Checking a draft: what differs from the draft that was checked last is read and checked again, and
 * whatever depends on it. What concerns all pages at once is asked of what was read before.
 */
import type { Progress } from '@fastigium/contracts/api/jobs';
import { addressOfFile, isPageFile, splitAddress } from '@fastigium/core/address';
import { landingOf, type PageFacts } from '@fastigium/core/checks';
import { pictureSize, type PictureSize } from '@fastigium/core/picture';
import { serialiseRules, type Rule } from '@fastigium/core/redirects';
import type { Decision } from '@fastigium/core/site';
import { differingShards, emptyManifest, mediaTypeOf, parseShard, type ManifestEntry, type ShardHashes } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { sha256, type SentResult } from '../../threads/tasks.ts';
import { contentBytes, contentsByHash } from '../contents.ts';
import { compileDraft, type CompiledDraft } from '../draft/compileDraft.ts';
import { allEntries, shardTexts } from '../manifests.ts';
import { keepSiteSnags, type Anew } from './siteSnags.ts';
import { forgetSnags, keepPageSnags, subjectsIn, type NewSnag, type Subjects } from './snagRows.ts';

export interface CheckOptions {
  readonly signal?: AbortSignal;
  readonly report?: (progress: Progress) => void;
}

/** How much was done, for whoever wants to know what an edit costs. */
export interface Checked {
  readonly version: number;
  readonly pagesRead: number;
  readonly pagesAsked: number;
}

const PAGES_A_BATCH = 32;

export async function checkDraft(deps: Deps, site: string, options: CheckOptions = {}): Promise<Checked> {
  const compiled = await compileDraft(deps, site, options);
  return deps.db.transaction(async (tx) => {
    await tx.run('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`check ${site}`]);
    const rulesText = serialiseRules(compiled.rules.rules);
    const rulesHash = sha256(rulesText);
    const state = await tx.maybeOne<CheckState>('select version, import_id as "importId", shards, rules_hash as "rulesHash" from check_state where site_id = $1', [site]);
    // A later one may have been checked while this one waited.
    if (state && state.version > compiled.version) return { version: state.version, pagesRead: 0, pagesAsked: 0 };
    const before = state?.shards ?? emptyManifest;
    const difference = await differenceOf(tx, before, compiled.shards);
    const rulesDiffer = state?.rulesHash !== rulesHash;
    if (state?.version === compiled.version && difference.size === 0 && !rulesDiffer) return { version: compiled.version, pagesRead: 0, pagesAsked: 0 };
    const all = await allEntries(tx, compiled.shards);
    const toRead = await pagesToRead(tx, site, difference, all);
    const landing = landingOf(new Set(all.keys()), compiled.rules.rules);
    const subjects = subjectsIn(tx, compiled.importId, compiled.draft);
    const told = await toldBefore(tx, site, [...toRead, ...[...difference].filter(([, { after }]) => !after).map(([path]) => path)]);
    // Before anything new: a page that moved has the same snags under the same keys at its new path.
    const gone = [...difference].filter(([, { after }]) => !after).map(([path]) => path);
    await tx.run('delete from page_fact where site_id = $1 and path = any($2)', [site, gone]);
    await forgetSnags(tx, site, gone);
    const read = await readPages(deps, tx, { site, all, subjects, paths: toRead }, options);
    const changedRules = rulesDiffer ? await rulesBetween(tx, site, compiled.rules.rules) : undefined;
    const anew = await whatIsAnew(tx, site, { state, compiled, difference, told, read, rulesDiffer });
    const asked = await keepSiteSnags(tx, { site, draft: compiled.draft, importId: compiled.importId, all, landing, subjects, changed: changedAddresses(difference, read), changedRules, read: new Set(toRead), anew });
    await tx.run(
      `insert into check_state (site_id, version, import_id, shards, rules_hash, files_checked) values ($1, $2, $3, $4, $5, $6)
       on conflict (site_id) do update set version = $2, import_id = $3, shards = $4, rules_hash = $5, files_checked = $6, checked_at = now()`,
      [site, compiled.version, compiled.importId, compiled.shards, rulesHash, toRead.length],
    );
    await announce(tx, { kind: 'snags', site });
    return { version: compiled.version, pagesRead: toRead.length, pagesAsked: asked };
  });
}

export type Difference = ReadonlyMap<string, { readonly before: ManifestEntry | undefined; readonly after: ManifestEntry | undefined }>;

async function differenceOf(tx: Queries, before: ShardHashes, after: ShardHashes): Promise<Difference> {
  const indices = differingShards(before, after);
  const text = await shardTexts(tx, indices.flatMap((index) => [before[index], after[index]]));
  const entries = (shards: ShardHashes) => new Map(indices.flatMap((index) => { const hash = shards[index]; return hash ? parseShard(text(hash)) : []; }).map((entry) => [entry.path, entry]));
  const [old, now] = [entries(before), entries(after)];
  const out = new Map<string, { before: ManifestEntry | undefined; after: ManifestEntry | undefined }>();
  for (const path of new Set([...old.keys(), ...now.keys()])) if (old.get(path)?.hash !== now.get(path)?.hash) out.set(path, { before: old.get(path), after: now.get(path) });
  return out;
}

interface CheckState extends Record<string, unknown> {
  readonly version: number;
  readonly importId: string | null;
  readonly shards: readonly string[];
  readonly rulesHash: string;
}

/** What pages said of themselves when they were read last. */
interface Told extends Record<string, unknown> {
  readonly path: string;
  readonly title: string;
  readonly description: string;
  readonly isShut: boolean;
  readonly pictures: PageFacts['pictures'];
}

async function toldBefore(tx: Queries, site: string, paths: readonly string[]): Promise<Map<string, Told>> {
  const rows = await tx.many<Told>(
    `select path, title, description, (facts->>'isShut')::boolean as "isShut", facts->'pictures' as pictures from page_fact where site_id = $1 and path = any($2)`, [site, paths],
  );
  return new Map(rows.map((row) => [row.path, row]));
}

interface Changed {
  readonly state: CheckState | undefined;
  readonly compiled: CompiledDraft;
  readonly difference: Difference;
  readonly told: ReadonlyMap<string, Told>;
  readonly read: ReadonlyMap<string, PageFacts>;
  readonly rulesDiffer: boolean;
}

/** Which questions about the whole site have other answers now; those that cannot are not asked. */
async function whatIsAnew(tx: Queries, site: string, { state, compiled, difference, told, read, rulesDiffer }: Changed): Promise<Anew> {
  if (!state || state.importId !== compiled.importId) return { values: undefined, reach: true, files: true, structure: true };
  const kinds = await tx.many<{ kind: Decision['kind'] }>(`select distinct body->>'kind' as kind from decision where site_id = $1 and seq > $2 and seq <= $3`, [site, state.version, compiled.version]);
  const comesOrGoes = [...difference.values()].some(({ before, after }) => !before || !after);
  const now = (path: string) => read.get(path);
  const widths = ({ pictures }: Pick<PageFacts, 'pictures'>) => JSON.stringify(pictures.map(({ to, widthPx }) => [to, widthPx ?? null]));
  const differing = (of: 'title' | 'description') => {
    const values = new Set<string>();
    for (const path of new Set([...told.keys(), ...read.keys()])) {
      const [old, fresh] = [told.get(path)?.[of], now(path)?.[of]];
      if (old === fresh) continue;
      for (const value of [old, fresh]) if (value !== undefined && value !== '') values.add(value.replaceAll('\0', '\ufffd'));
    }
    return [...values];
  };
  return {
    values: { title: differing('title'), description: differing('description') },
    reach: comesOrGoes || rulesDiffer || difference.has('robots.txt') || [...read].some(([path, facts]) => told.get(path)?.isShut !== facts.isShut) || (await areOrphans(tx, site, [...read.values()].filter(({ path, title }) => told.get(path)?.title !== title))),
    files: comesOrGoes || [...difference.keys()].some((path) => !isPageFile(path)) || [...read].some(([path, facts]) => widths(told.get(path) ?? { pictures: [] }) !== widths(facts)),
    structure: comesOrGoes || kinds.some(({ kind }) => !LEAVES_STRUCTURE.has(kind)),
  };
}

/** Pages that nothing leads to are listed by their titles. */
async function areOrphans(tx: Queries, site: string, pages: readonly PageFacts[]): Promise<boolean> {
  if (pages.length === 0) return false;
  return (await tx.maybeOne(`select 1 from snag where site_id = $1 and code = 'page-orphan' and path = any($2) limit 1`, [site, pages.map(({ path }) => path)])) !== undefined;
}

/** Decisions after which menus and listings are as they were. */
const LEAVES_STRUCTURE: ReadonlySet<Decision['kind']> = new Set(['title', 'redirect', 'redirect-removed']);

/** Pages and style sheets that differ, and pages that a differing style sheet or picture is judged with. */
async function pagesToRead(tx: Queries, site: string, difference: Difference, all: ReadonlyMap<string, ManifestEntry>): Promise<string[]> {
  const own = [...difference].filter(([path, { after }]) => after && (isPageFile(path) || mediaTypeOf(path) === 'text/css')).map(([path]) => path);
  const judgedWith = [...difference.keys()].filter((path) => { const type = mediaTypeOf(path); return type === 'text/css' || type.startsWith('image/'); }).map(addressOfFile);
  const rows = judgedWith.length === 0 ? [] : await tx.many<{ path: string }>('select path from page_fact where site_id = $1 and links_to && $2::text[]', [site, judgedWith]);
  return [...new Set([...own, ...rows.map(({ path }) => path)])].filter((path) => all.has(path));
}

interface ToRead {
  readonly site: string;
  readonly all: ReadonlyMap<string, ManifestEntry>;
  readonly subjects: Subjects;
  readonly paths: readonly string[];
}

async function readPages(deps: Deps, tx: Queries, { site, all, subjects, paths }: ToRead, { signal, report }: CheckOptions): Promise<Map<string, PageFacts>> {
  const out = new Map<string, PageFacts>();
  if (paths.length === 0) return out;
  const sheets = await sheetTexts(tx, all);
  const pictures = await pictureSizes(tx, all);
  const batchSize = PAGES_A_BATCH * deps.threads.size;
  for (let from = 0; from < paths.length; from += batchSize) {
    signal?.throwIfAborted();
    report?.({ step: 'Checking pages', done: from, total: paths.length, unit: 'pages' });
    const batch = paths.slice(from, from + batchSize);
    const contents = await contentsByHash(tx, batch.flatMap((path) => all.get(path)?.hash ?? []));
    const pages = batch.flatMap((path) => {
      const bytes = contents.get(all.get(path)?.hash ?? '');
      return bytes && bytes.length <= deps.config.limits.pageBytes ? [{ path, address: addressOfFile(path), bytes }] : [];
    });
    const share = Math.ceil(pages.length / deps.threads.size);
    const shares = Array.from({ length: deps.threads.size }, (_, i) => pages.slice(i * share, (i + 1) * share)).filter((part) => part.length > 0);
    const results = (await Promise.all(shares.map((part) => deps.threads.check(part, { sheets, pictures }, signal)))).flat();
    await keepResults(tx, site, results, subjects);
    for (const { facts } of results) out.set(facts.path, facts);
  }
  return out;
}

async function keepResults(tx: Queries, site: string, results: readonly SentResult[], subjectsAt: Subjects): Promise<void> {
  const facts = results.map((result) => result.facts);
  const clean = (text: string) => text.replaceAll('\0', '\ufffd');
  await tx.run(
    `insert into page_fact (site_id, path, facts, title, description, links_to, targets)
     select $1, r.path, r.facts, r.title, r.description, array(select jsonb_array_elements_text(r.links)), '{}'
       from unnest($2::text[], $3::jsonb[], $4::text[], $5::text[], $6::jsonb[]) as r(path, facts, title, description, links)
     on conflict (site_id, path) do update set facts = excluded.facts, title = excluded.title, description = excluded.description, links_to = excluded.links_to`,
    [site, facts.map(({ path }) => path), facts.map((each) => json(each)), facts.map(({ title }) => clean(title)), facts.map(({ description }) => clean(description)),
      facts.map(({ links }) => json([...new Set(links.map(({ to }) => splitAddress(to).path))]))],
  );
  const subjects = await subjectsAt(facts.map(({ path }) => path));
  const snags: NewSnag[] = results.flatMap(({ facts: { path }, findings }) => findings.map(({ code, finding: { detail, start, end, mend } }) => ({
    code, path, page: subjects.get(path), detail: clean(detail), start, end, mend: mend && { label: mend.label, asks: mend.asks },
  })));
  await keepPageSnags(tx, site, facts.map(({ path }) => path), snags);
}

/** PostgreSQL's jsonb holds every letter but NUL. */
function json(value: unknown): string {
  return JSON.stringify(value).replaceAll('\\u0000', '');
}

async function sheetTexts(tx: Queries, all: ReadonlyMap<string, ManifestEntry>): Promise<Map<string, Uint8Array>> {
  const sheets = [...all.values()].filter(({ path, sizeBytes }) => mediaTypeOf(path) === 'text/css' && sizeBytes <= MOST_SHEET_BYTES).slice(0, MOST_SHEETS);
  const contents = await contentsByHash(tx, sheets.map(({ hash }) => hash));
  return new Map(sheets.flatMap(({ path, hash }) => { const bytes = contents.get(hash); return bytes ? [[addressOfFile(path), bytes] as const] : []; }));
}

const MOST_SHEET_BYTES = 1024 * 1024; // 1 MiB
const MOST_SHEETS = 200;
/** Size and kind stand at a picture's beginning, but for a few formats; larger files are no web pictures. */
const MOST_PICTURE_BYTES = 32 * 1024 * 1024; // 32 MiB

/** By address; each content is looked at once. */
async function pictureSizes(tx: Queries, all: ReadonlyMap<string, ManifestEntry>): Promise<Map<string, PictureSize>> {
  const pictures = [...all.values()].filter(({ path, sizeBytes }) => mediaTypeOf(path).startsWith('image/') && sizeBytes <= MOST_PICTURE_BYTES);
  const known = new Map((await tx.many<{ hash: string; widthPx: number | null; heightPx: number | null }>(
    'select hash, width_px as "widthPx", height_px as "heightPx" from picture_size where hash = any($1)', [pictures.map(({ hash }) => hash)],
  )).map(({ hash, widthPx, heightPx }) => [hash, widthPx !== null && heightPx !== null ? { widthPx, heightPx } : undefined]));
  const fresh: [string, PictureSize | undefined][] = [];
  for (const { hash } of pictures) {
    if (known.has(hash)) continue;
    const size = pictureSize(await contentBytes(tx, hash));
    known.set(hash, size);
    fresh.push([hash, size]);
  }
  await tx.run('insert into picture_size (hash, width_px, height_px) select * from unnest($1::text[], $2::int[], $3::int[]) on conflict do nothing', [
    fresh.map(([hash]) => hash), fresh.map(([, size]) => size?.widthPx ?? null), fresh.map(([, size]) => size?.heightPx ?? null),
  ]);
  return new Map(pictures.flatMap(({ path, hash }) => { const size = known.get(hash); return size ? [[addressOfFile(path), size] as const] : []; }));
}

/** Addresses at which something answers now that did not, or the other way round, and pages whose inside differs. */
function changedAddresses(difference: Difference, read: ReadonlyMap<string, PageFacts>): string[] {
  const out = new Set<string>();
  for (const [path, { before, after }] of difference) if (!before || !after || read.has(path)) out.add(addressOfFile(path));
  return [...out];
}

/** Addresses whose rule differs from the one they were checked with. */
async function rulesBetween(tx: Queries, site: string, rules: readonly Rule[]): Promise<string[]> {
  const now = new Map(rules.map((rule) => [rule.from, `${rule.status} ${rule.to ?? ''}`]));
  const old = new Map((await tx.many<{ from: string; to: string }>('select from_address as "from", to_words as "to" from checked_rule where site_id = $1', [site])).map(({ from, to }) => [from, to]));
  const differing = [...new Set([...now.keys(), ...old.keys()])].filter((from) => now.get(from) !== old.get(from));
  await tx.run('delete from checked_rule where site_id = $1 and from_address = any($2)', [site, differing]);
  const kept = differing.filter((from) => now.has(from));
  await tx.run('insert into checked_rule (site_id, from_address, to_words) select $1, * from unnest($2::text[], $3::text[])', [site, kept, kept.map((from) => now.get(from) ?? '')]);
  return differing;
}
