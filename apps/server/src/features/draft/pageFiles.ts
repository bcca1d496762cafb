/** Pages of a draft, as the core needs to know them: those of the import and those added here, without those removed. */
import { isAdded, isOut, withRemoved, type Draft, type PageFile, type Released } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';

export interface SourcePage extends PageFile, Record<string, unknown> {
  readonly hash: string;
  readonly sizeBytes: number;
}

const COLUMNS = `f.page_id as id, f.path as "sourcePath", f.hash, f.size_bytes as "sizeBytes"`;

function listAddedPages(draft: Draft, isWanted: (id: string) => boolean): SourcePage[] {
  return [...draft.nodes.values()].flatMap((node) =>
    node.kind === 'page' && isWanted(node.id) && !isOut(draft, node.id)
      ? [{ id: node.id, sourcePath: node.writtenAt, hash: node.hash, sizeBytes: node.sizeBytes }]
      : [],
  );
}

export async function readPagesById(
  queries: Queries,
  importId: string,
  draft: Draft,
  ids: Iterable<string>,
): Promise<Map<string, SourcePage>> {
  const wanted = new Set(ids);
  if (wanted.size === 0) return new Map();
  const rows = await queries.many<SourcePage>(
    `select ${COLUMNS} from source_file f where import_id = $1 and page_id = any($2)`,
    [importId, [...wanted]],
  );
  return indexById(filterStanding(draft, [...rows, ...listAddedPages(draft, (id) => wanted.has(id))]));
}

export async function readAllPages(queries: Queries, importId: string, draft: Draft): Promise<Map<string, SourcePage>> {
  const rows = await queries.many<SourcePage>(
    `select ${COLUMNS} from source_file f where import_id = $1 and page_id is not null`,
    [importId],
  );
  return indexPages(draft, rows);
}

/** The same of an import whose pages are known, but not kept with it yet. */
export function indexPages(draft: Draft, imported: readonly SourcePage[]): Map<string, SourcePage> {
  return indexById(filterStanding(draft, [...imported, ...listAddedPages(draft, () => true)]));
}

/** Pages of the import that stand at some paths in it. */
export async function readPagesAt(queries: Queries, importId: string, paths: readonly string[]): Promise<SourcePage[]> {
  if (paths.length === 0) return [];
  return queries.many<SourcePage>(
    `select ${COLUMNS} from source_file f where import_id = $1 and page_id is not null and path = any($2)`,
    [importId, paths],
  );
}

/** Pages that link to or load one of these files; those added here or as a release had them are few, and all of them are said to. */
export async function readPagesLinkingTo(
  queries: Queries,
  importId: string,
  draft: Draft,
  paths: readonly string[],
): Promise<readonly SourcePage[]> {
  if (paths.length === 0) return [];
  const rows = await queries.many<SourcePage>(
    `select ${COLUMNS} from file_reading r join source_file f using (import_id, path)
      where r.import_id = $1 and r.targets && $2::text[] and f.page_id is not null`,
    [importId, paths],
  );
  const taken = await readPagesById(queries, importId, draft, draft.sources.keys());
  return filterStanding(draft, [...rows, ...listAddedPages(draft, () => true), ...taken.values()]);
}

/** Pages that a release had elsewhere; any page may be, where the whole site was. */
function findStoodElsewhere(draft: Draft, released: readonly Released[]): ReadonlySet<string> | 'all' {
  const ids = new Set<string>();
  for (const { addresses, style, basePath } of released) {
    if (style !== draft.style || basePath !== draft.basePath) return 'all';
    for (const [id, address] of addresses) if (draft.addresses.get(id) !== address) ids.add(id);
    for (const id of draft.addresses.keys()) if (!addresses.has(id)) ids.add(id);
  }
  return ids;
}

/** Pages a draft's rules speak of: those that moved, are removed or stand in, and those that redirects land on; all, where the site itself moved. */
export async function readPagesOfRules(
  queries: Queries,
  importId: string,
  draft: Draft,
  released: readonly Released[],
): Promise<Map<string, SourcePage>> {
  const elsewhere = findStoodElsewhere(draft, released);
  if (elsewhere === 'all' || draft.style !== 'imported' || draft.formerStyles.size > 0)
    return readAllPages(queries, importId, withRemoved(draft));
  const ids = [...elsewhere, ...draft.addresses.keys(), ...draft.formerAddresses.keys(), ...draft.crawledFrom.keys()];
  for (const redirect of draft.redirects.values()) {
    if (redirect.status !== 410 && redirect.target.kind === 'page') ids.push(redirect.target.page);
  }
  for (const { left, standIn } of draft.removals.values())
    ids.push(...left, ...(standIn.kind === 'page' ? [standIn.page] : []));
  return readPagesById(queries, importId, withRemoved(draft), ids);
}

/** The files of pages of the import that are not where they were, or not published. */
export function filterImported(draft: Draft, pages: Iterable<SourcePage>): SourcePage[] {
  return [...pages].filter(({ id }) => !isAdded(draft, id));
}

/** Without those removed, and with the sources that stand in place of their files. */
function filterStanding(draft: Draft, rows: readonly SourcePage[]): readonly SourcePage[] {
  const shown = draft.removed.size === 0 ? rows : rows.filter(({ id }) => !isOut(draft, id));
  if (draft.sources.size === 0) return shown;
  return shown.map((page) => {
    const source = draft.sources.get(page.id);
    return source ? { ...page, hash: source.hash, sizeBytes: source.sizeBytes, writtenAt: source.writtenAt } : page;
  });
}

function indexById(pages: readonly SourcePage[]): Map<string, SourcePage> {
  return new Map(pages.map((page) => [page.id, page]));
}
