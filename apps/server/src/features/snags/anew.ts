/** What a change of the draft can have given another answer, of the questions about the whole site. */
import { isPageFile } from '@fastigium/core/address';
import type { PageFacts } from '@fastigium/core/checks';
import type { ManifestEntry } from '@fastigium/core/release';
import type { Decision } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { CompiledDraft } from '../draft/compileDraft.ts';

/** Files that differ from those checked last, by path. */
export type Difference = ReadonlyMap<
  string,
  { readonly before: ManifestEntry | undefined; readonly after: ManifestEntry | undefined }
>;

/** Which of them have to be asked again. */
export interface Anew {
  /** Titles and descriptions that some page has or had; undefined for all there are. */
  readonly values: { readonly title: readonly string[]; readonly description: readonly string[] } | undefined;
  /** Files came or went, or what answers at an address is another. */
  readonly reach: boolean;
  readonly files: boolean;
  /** Something was set for heads, or taken back. */
  readonly heads: boolean;
  /** Decisions about more than a title or a redirect, or another import. */
  readonly structure: boolean;
}

/** The draft as it was checked last. */
export interface CheckState extends Record<string, unknown> {
  readonly version: number;
  readonly importId: string | null;
  readonly shards: readonly string[];
  readonly rulesHash: string;
  readonly ownNames: readonly string[];
}

/** What pages said of themselves when they were read last. */
export interface Told extends Record<string, unknown> {
  readonly path: string;
  readonly title: string;
  readonly description: string;
  readonly isShut: boolean;
  readonly pictures: PageFacts['pictures'];
}

export async function readToldBefore(tx: Queries, site: string, paths: readonly string[]): Promise<Map<string, Told>> {
  const rows = await tx.many<Told>(
    `select path, title, description, (facts->>'isShut')::boolean as "isShut", facts->'pictures' as pictures from page_fact where site_id = $1 and path = any($2)`,
    [site, paths],
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
export async function findWhatIsAnew(
  tx: Queries,
  site: string,
  { state, compiled, difference, told: before, read, rulesDiffer }: Changed,
): Promise<Anew> {
  if (!state || state.importId !== compiled.importId)
    return { values: undefined, reach: true, files: true, heads: true, structure: true };
  const kinds = await tx.many<{ kind: Decision['kind'] }>(
    `select distinct body->>'kind' as kind from decision where site_id = $1 and seq > $2 and seq <= $3`,
    [site, state.version, compiled.version],
  );
  const comesOrGoes = [...difference.values()].some(({ before, after }) => !before || !after);
  const now = (path: string) => read.get(path);
  const widths = ({ pictures }: Pick<PageFacts, 'pictures'>) =>
    JSON.stringify(pictures.map(({ to, widthPx }) => [to, widthPx ?? null]));
  const differing = (field: 'title' | 'description') => {
    const values = new Set<string>();
    for (const path of new Set([...before.keys(), ...read.keys()])) {
      const [old, fresh] = [before.get(path)?.[field], now(path)?.[field]];
      if (old === fresh) continue;
      for (const value of [old, fresh])
        if (value !== undefined && value !== '') values.add(value.replaceAll('\0', '\ufffd'));
    }
    return [...values];
  };
  return {
    values: { title: differing('title'), description: differing('description') },
    reach:
      comesOrGoes ||
      rulesDiffer ||
      difference.has('robots.txt') ||
      [...read].some(([path, facts]) => before.get(path)?.isShut !== facts.isShut) ||
      (await areOrphans(
        tx,
        site,
        [...read.values()].filter(({ path, title }) => before.get(path)?.title !== title),
      )),
    files:
      comesOrGoes ||
      [...difference.keys()].some((path) => !isPageFile(path)) ||
      [...read].some(([path, facts]) => widths(before.get(path) ?? { pictures: [] }) !== widths(facts)),
    heads: kinds.some(({ kind }) => kind === 'head' || kind === 'undo'),
    structure: comesOrGoes || kinds.some(({ kind }) => !LEAVES_STRUCTURE.has(kind)),
  };
}

/** Pages that nothing leads to are listed by their titles. */
async function areOrphans(tx: Queries, site: string, pages: readonly PageFacts[]): Promise<boolean> {
  if (pages.length === 0) return false;
  return (
    (await tx.maybeOne(`select 1 from snag where site_id = $1 and code = 'page-orphan' and path = any($2) limit 1`, [
      site,
      pages.map(({ path }) => path),
    ])) !== undefined
  );
}

/** Decisions after which menus and listings are as they were. */
const LEAVES_STRUCTURE: ReadonlySet<Decision['kind']> = new Set([
  'title',
  'head',
  'icons',
  'redirect',
  'redirects',
  'redirect-removed',
  'pattern',
  'pattern-removed',
  'patterns-ordered',
  'entry',
  'shown-instead',
  'last-day',
]);
