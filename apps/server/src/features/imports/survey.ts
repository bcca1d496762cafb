/** What the Survey station shows. */
import type { Survey } from '@fastigium/contracts/api/imports';
import { noteOf, type NoteCode } from '@fastigium/contracts/messages/importNote';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, isPageFile } from '@fastigium/core/address';
import { placeInPage, placeInStyle, type SourcePlace } from '@fastigium/core/html';
import type { Queries } from '../../db/database.ts';
import { readContent } from '../shared/contents.ts';

export async function survey(queries: Queries, site: string): Promise<Survey> {
  const current = await queries.maybeOne<{ id: string; fileName: string; crawledFrom: string | null }>(
    'select i.id, i.file_name as "fileName", i.crawled_from as "crawledFrom" from site s join import i on i.id = s.current_import where s.id = $1',
    [site],
  );
  if (!current) throw new DomainError('nothing-imported');
  const files = await queries.many<{
    path: string;
    sizeBytes: number;
    headers: Record<string, string>;
    uses: number;
    page: string | null;
    title: string | null;
    language: string | null;
    linksInside: number | null;
    linksOutside: number | null;
    dead: number;
  }>(
    `select f.path, f.size_bytes as "sizeBytes", f.headers, f.uses, f.page_id as page, r.title, r.language,
            r.links_inside as "linksInside", r.links_outside as "linksOutside", coalesce(d.n, 0)::int as dead
       from source_file f left join file_reading r using (import_id, path)
       left join (select path, count(*) as n from dead_link where import_id = $1 group by path) d on d.path = f.path
      where f.import_id = $1 order by f.path`,
    [current.id],
  );
  const dead = await queries.many<{
    from: string;
    fromTitle: string | null;
    href: string;
    element: string;
    target: string;
  }>(
    `select d.path as from, r.title as "fromTitle", d.href, d.element, d.target
       from dead_link d join file_reading r using (import_id, path) where d.import_id = $1 order by d.path, d.href limit 5000`,
    [current.id],
  );
  const notes = await queries.many<{ code: NoteCode; path: string }>(
    'select code, path from import_note where import_id = $1 order by path limit 5000',
    [current.id],
  );
  const sum = (pick: (file: (typeof files)[number]) => number | null) =>
    files.reduce((total, file) => total + (pick(file) ?? 0), 0);
  return {
    fileName: current.fileName,
    crawledFrom: current.crawledFrom,
    pages: files.flatMap((file) =>
      file.page === null
        ? []
        : [
            {
              id: file.page,
              sourcePath: file.path,
              address: findAddressOfFile(file.path),
              title: file.title,
              language: file.language,
              sizeBytes: file.sizeBytes,
              linksOut: (file.linksInside ?? 0) + (file.linksOutside ?? 0),
              deadLinks: file.dead,
            },
          ],
    ),
    assets: files
      .filter((file) => file.page === null)
      .map((file) => ({
        path: file.path,
        type: file.headers['content-type'] ?? '',
        sizeBytes: file.sizeBytes,
        uses: file.uses,
      })),
    links: { inside: sum((file) => file.linksInside), outside: sum((file) => file.linksOutside), dead },
    notes: notes.map(({ code, path }) => ({ message: noteOf(code), path })),
    totalBytes: sum((file) => file.sizeBytes),
  };
}

/** Looked up when somebody wants to see it: knowing positions while reading would double the time that takes. */
export async function placeOf(queries: Queries, site: string, path: string, href: string): Promise<SourcePlace> {
  const file = await queries.maybeOne<{ hash: string }>(
    'select f.hash from site s join source_file f on f.import_id = s.current_import where s.id = $1 and f.path = $2',
    [site, path],
  );
  if (!file) throw new DomainError('not-found', { what: 'file' });
  const bytes = await readContent(queries, file.hash);
  const place = isPageFile(path) ? placeInPage(bytes, href) : placeInStyle(bytes, href);
  if (!place) throw new DomainError('not-found', { what: 'link' });
  return place;
}
