/** What is known of pages' heads without reading them: what they came with, and what they begin with. */
import type { OwnLine } from '@fastigium/core/head';
import { parseForReading } from '@fastigium/core/html';
import { leadOf, readOwnLines } from '@fastigium/core/head';
import type { Queries } from '../../../db/database.ts';
import { readContentsByHash } from '../../shared/contents.ts';

export interface HeadRecord extends Record<string, unknown> {
  readonly id: string;
  readonly title: string;
  readonly language: string;
  /** `2016-05-09`. */
  readonly date: string | null;
  readonly own: readonly OwnLine[];
  readonly lead: string;
  readonly heading: string;
}

/** Of all pages of the import and all ever added to the site, by page. */
export async function readHeadRecords(
  queries: Queries,
  site: string,
  importId: string,
): Promise<Map<string, HeadRecord>> {
  await readThoseNotRead(queries, importId);
  const rows = await queries.many<HeadRecord>(
    `select f.page_id as id, coalesce(r.title, '') as title, coalesce(r.language, '') as language, r.dated::text as date, coalesce(r.own_head, '[]') as own, coalesce(r.lead, '') as lead, coalesce(r.headings->0->>'text', '') as heading
       from source_file f join file_reading r using (import_id, path) where f.import_id = $1 and f.page_id is not null
      union all
     select page_id, coalesce(title, ''), coalesce(language, ''), dated::text, coalesce(own_head, '[]'), coalesce(lead, ''), coalesce(headings->0->>'text', '') from added_page where site_id = $2`,
    [importId, site],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

const AT_ONCE = 200;

/** Pages of an import that came in before their heads were kept. */
async function readThoseNotRead(queries: Queries, importId: string): Promise<void> {
  for (;;) {
    const rows = await queries.many<{ path: string; hash: string }>(
      'select f.path, f.hash from source_file f join file_reading r using (import_id, path) where f.import_id = $1 and f.page_id is not null and r.own_head is null order by f.path limit $2',
      [importId, AT_ONCE],
    );
    if (rows.length === 0) return;
    const contents = await readContentsByHash(
      queries,
      rows.map(({ hash }) => hash),
    );
    const read = rows.map(({ path, hash }) => {
      const bytes = contents.get(hash);
      const document = bytes && parseForReading(bytes);
      return {
        path,
        own: document ? JSON.stringify(readOwnLines(document)).replaceAll('\\u0000', '') : '[]',
        lead: document ? leadOf(document).replaceAll('\0', '') : '',
      };
    });
    await queries.run(
      'update file_reading r set own_head = t.own, lead = t.lead from unnest($2::text[], $3::jsonb[], $4::text[]) as t(path, own, lead) where r.import_id = $1 and r.path = t.path',
      [importId, read.map(({ path }) => path), read.map(({ own: ownHead }) => ownHead), read.map(({ lead }) => lead)],
    );
  }
}
