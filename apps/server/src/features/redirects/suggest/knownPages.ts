/** What is known of the new site's pages and files, for comparing old addresses with them. */
import { findAddressOfFile } from '@fastigium/core/address';
import { parseForReading } from '@fastigium/core/html';
import type { NewPage } from '@fastigium/core/redirects/matching';
import { findDraftAddress, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../../db/database.ts';
import { cutBeginning, readMainText } from '../../../threads/tasks.ts';
import { readContentsByHash } from '../../shared/contents.ts';
import { readAllPages } from '../../draft/pageFiles.ts';
import type { DraftReading } from '../../draft/readings.ts';

/** Of a page by its identity, of a file by its path. */
export interface KnownPage extends NewPage {
  readonly title: string;
}

const AT_ONCE = 200;

/** @param readings of pages that the draft makes other than their source, see draftReadings */
export async function readKnownPages(
  queries: Queries,
  importId: string,
  draft: Draft,
  readings: ReadonlyMap<string, DraftReading>,
): Promise<KnownPage[]> {
  await readThoseNotRead(queries, importId);
  const pages = await readAllPages(queries, importId, draft);
  const rows = await queries.many<{
    id: string;
    title: string | null;
    headings: { text: string }[] | null;
    text: string | null;
    language: string | null;
  }>(
    `select f.page_id as id, r.title, r.headings, r.main_text as text, r.language
       from source_file f join file_reading r using (import_id, path) where f.import_id = $1 and f.page_id is not null
     union all select page_id, title, headings, lead, language from added_page where page_id = any($2)`,
    [importId, [...pages.keys()]],
  );
  return rows.flatMap(({ id, title, headings, text, language }): KnownPage[] => {
    const page = pages.get(id);
    // What answers where nothing is found takes no old page's place.
    if (!page || /(?:^|\/)404\.html?$/.test(page.sourcePath)) return [];
    return [
      {
        id,
        address: findDraftAddress(draft, page),
        title: draft.titles.get(id) ?? title ?? '',
        headings: readings.get(id)?.headings ?? (headings ?? []).map((each) => each.text),
        text: readings.get(id)?.text ?? text ?? undefined,
        language: language ?? undefined,
      },
    ];
  });
}

/** Files that are no pages and may be asked for by themselves: documents, pictures, sounds. */
export async function readKnownFiles(queries: Queries, importId: string, draft: Draft): Promise<KnownPage[]> {
  const rows = await queries.many<{ path: string }>(
    `select path from source_file where import_id = $1 and page_id is null and path !~* '\\.(html?|css|js|mjs|map|woff2?|ttf|eot)$'`,
    [importId],
  );
  return rows.map(({ path }) => ({ id: path, address: draft.basePath + findAddressOfFile(path), title: '' }));
}

/** Pages that came in before their texts were kept. */
async function readThoseNotRead(queries: Queries, importId: string): Promise<void> {
  for (;;) {
    const rows = await queries.many<{ path: string; hash: string }>(
      'select f.path, f.hash from source_file f join file_reading r using (import_id, path) where f.import_id = $1 and f.page_id is not null and r.main_text is null order by f.path limit $2',
      [importId, AT_ONCE],
    );
    if (rows.length === 0) return;
    const contents = await readContentsByHash(
      queries,
      rows.map(({ hash }) => hash),
    );
    const texts = rows.map(({ hash }) => {
      const bytes = contents.get(hash);
      return bytes ? cutBeginning(readMainText(parseForReading(bytes))).replaceAll('\0', '') : '';
    });
    await queries.run(
      'update file_reading r set main_text = t.text from unnest($2::text[], $3::text[]) as t(path, text) where r.import_id = $1 and r.path = t.path',
      [importId, rows.map(({ path }) => path), texts],
    );
  }
}
