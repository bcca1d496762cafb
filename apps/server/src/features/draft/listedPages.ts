/** All pages of a draft with what was read in them; not those removed. */
import { isAdded, isOut, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { readAllPages } from './pageFiles.ts';

export interface ListedPage extends Record<string, unknown> {
  readonly id: string;
  readonly sourcePath: string;
  readonly title: string | null;
  readonly language: string | null;
  /** `2016-05-09`. */
  readonly date: string | null;
  /** Files that link to it in the import. */
  readonly uses: number;
}

export async function readListedPages(queries: Queries, importId: string, draft: Draft): Promise<ListedPage[]> {
  const rows = await queries.many<ListedPage>(
    `select f.page_id as id, f.path as "sourcePath", r.title, r.language, r.dated::text as date, f.uses
       from source_file f left join file_reading r using (import_id, path)
      where f.import_id = $1 and f.page_id is not null`,
    [importId],
  );
  const added = [...(await listAdded(queries, importId, draft))];
  return [...rows.filter(({ id }) => !isOut(draft, id)), ...added];
}

async function listAdded(queries: Queries, importId: string, draft: Draft): Promise<ListedPage[]> {
  const ids = [...draft.nodes.values()].filter(({ kind }) => kind === 'page').map(({ id }) => id);
  if (ids.length === 0) return [];
  const pages = await readAllPages(queries, importId, draft);
  const rows = await queries.many<{ id: string; title: string | null; language: string | null; date: string | null }>(
    'select page_id as id, title, language, dated::text as date from added_page where page_id = any($1)',
    [ids],
  );
  return rows.flatMap((row) => {
    const page = pages.get(row.id);
    return page && isAdded(draft, row.id) ? [{ ...row, sourcePath: page.sourcePath, uses: 0 }] : [];
  });
}
