/** Pages of an import, as the core needs to know them. */
import type { Draft, PageFile } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';

export interface SourcePage extends PageFile, Record<string, unknown> {
  readonly hash: string;
  readonly sizeBytes: number;
}

const COLUMNS = `f.page_id as id, f.path as "sourcePath", f.hash, f.size_bytes as "sizeBytes"`;

export async function pagesById(queries: Queries, importId: string, ids: Iterable<string>): Promise<Map<string, SourcePage>> {
  const wanted = [...new Set(ids)];
  if (wanted.length === 0) return new Map();
  const rows = await queries.many<SourcePage>(`select ${COLUMNS} from source_file f where import_id = $1 and page_id = any($2)`, [importId, wanted]);
  return new Map(rows.map((page) => [page.id, page]));
}

export async function allPages(queries: Queries, importId: string): Promise<Map<string, SourcePage>> {
  const rows = await queries.many<SourcePage>(`select ${COLUMNS} from source_file f where import_id = $1 and page_id is not null`, [importId]);
  return new Map(rows.map((page) => [page.id, page]));
}

/** Pages that link to or load one of these files. */
export async function pagesLinkingTo(queries: Queries, importId: string, paths: readonly string[]): Promise<SourcePage[]> {
  if (paths.length === 0) return [];
  return queries.many<SourcePage>(
    `select ${COLUMNS} from file_reading r join source_file f using (import_id, path)
      where r.import_id = $1 and r.targets && $2::text[] and f.page_id is not null`,
    [importId, paths],
  );
}

/** Pages a draft's rules speak of: those that moved and those that redirects land on; all, where the site itself moved. */
export async function pagesOfRules(queries: Queries, importId: string, draft: Draft): Promise<Map<string, SourcePage>> {
  if (draft.formerBasePaths.size > 0) return allPages(queries, importId);
  const ids = [...draft.addresses.keys()];
  for (const redirect of draft.redirects.values()) {
    if (redirect.status !== 410 && redirect.target.kind === 'page') ids.push(redirect.target.page);
  }
  return pagesById(queries, importId, ids);
}
