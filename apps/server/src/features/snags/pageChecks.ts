/** Reading pages of a draft in worker threads: what each says of itself is kept, and so are its own snags. */
import type { Progress } from '@fastigium/contracts/api/jobs';
import { findAddressOfFile, splitAddress } from '@fastigium/core/address';
import type { SnagMessage } from '@fastigium/core/checks';
import { readPictureSize, type PictureSize } from '@fastigium/core/picture';
import { findMediaType, type ManifestEntry } from '@fastigium/core/release';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { checkPages, type SentResult } from '../../threads/tasks.ts';
import { readContent, readContentsByHash } from '../shared/contents.ts';
import { keepPageSnags, type NewSnag, type Subjects } from './snagRows.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

export interface CheckOptions {
  readonly signal?: AbortSignal;
  readonly report?: (progress: Progress) => void;
}

const PAGES_A_BATCH = 32;
const PAGES_A_STATEMENT = 64;
/** Up to here the way to a thread and back, with everything pages are judged with, costs more than the work. */
const INLINE_BYTES = 64 * 1024; // 64 KiB

interface ToRead {
  readonly all: ReadonlyMap<string, ManifestEntry>;
  readonly paths: readonly string[];
  readonly ownNames: readonly string[];
}

/** In worker threads, so no transaction is open meanwhile. */
export async function readPages(
  deps: Deps,
  { all, paths, ownNames }: ToRead,
  { signal, report }: CheckOptions,
): Promise<SentResult[]> {
  const out: SentResult[] = [];
  if (paths.length === 0) return out;
  const sheets = await readSheetTexts(deps.db, all);
  const pictures = await readPictureSizes(deps.db, all);
  const batchSize = PAGES_A_BATCH * deps.threads.size;
  for (let from = 0; from < paths.length; from += batchSize) {
    signal?.throwIfAborted();
    report?.({ step: progressStep('checking-pages'), done: from, total: paths.length, unit: 'pages' });
    const batch = paths.slice(from, from + batchSize);
    const contents = await readContentsByHash(
      deps.db,
      batch.flatMap((path) => all.get(path)?.hash ?? []),
    );
    const pages = batch.flatMap((path) => {
      const bytes = contents.get(all.get(path)?.hash ?? '');
      return bytes && bytes.length <= deps.config.limits.pageBytes
        ? [{ path, address: findAddressOfFile(path), bytes }]
        : [];
    });
    const isLittle = pages.reduce((sum, { bytes }) => sum + bytes.length, 0) <= INLINE_BYTES;
    const share = Math.ceil(pages.length / deps.threads.size);
    const shares = Array.from({ length: deps.threads.size }, (_, i) => pages.slice(i * share, (i + 1) * share)).filter(
      (part) => part.length > 0,
    );
    const results = isLittle
      ? checkPages(pages, { sheets, pictures, ownNames })
      : (
          await Promise.all(shares.map((part) => deps.threads.check(part, { sheets, pictures, ownNames }, signal)))
        ).flat();
    out.push(...results);
  }
  return out;
}

/** Keeps what pages say of themselves, and their own snags. */
export async function keepRead(
  tx: Queries,
  site: string,
  results: readonly SentResult[],
  subjects: Subjects,
): Promise<void> {
  for (let from = 0; from < results.length; from += PAGES_A_STATEMENT)
    await keepResults(tx, site, results.slice(from, from + PAGES_A_STATEMENT), subjects);
}

async function keepResults(
  tx: Queries,
  site: string,
  results: readonly SentResult[],
  subjectsAt: Subjects,
): Promise<void> {
  const facts = results.map((result) => result.facts);
  const clean = (text: string) => text.replaceAll('\0', '\ufffd');
  await tx.run(
    `insert into page_fact (site_id, path, facts, title, description, links_to, targets)
     select $1, r.path, r.facts, r.title, r.description, array(select jsonb_array_elements_text(r.links)), '{}'
       from unnest($2::text[], $3::jsonb[], $4::text[], $5::text[], $6::jsonb[]) as r(path, facts, title, description, links)
     on conflict (site_id, path) do update set facts = excluded.facts, title = excluded.title, description = excluded.description, links_to = excluded.links_to`,
    [
      site,
      facts.map(({ path }) => path),
      facts.map((each) => writeJson(each)),
      facts.map(({ title }) => clean(title)),
      facts.map(({ description }) => clean(description)),
      facts.map(({ links }) => writeJson([...new Set(links.map(({ to }) => splitAddress(to).path))])),
    ],
  );
  const subjects = await subjectsAt(facts.map(({ path }) => path));
  const snags: NewSnag[] = results.flatMap(({ facts: { path }, findings }) =>
    findings.map(({ code, finding: { detail, start, end, mend } }) => ({
      code,
      path,
      page: subjects.get(path),
      detail: typeof detail === 'string' ? clean(detail) : (JSON.parse(writeJson(detail)) as SnagMessage),
      start,
      end,
      mend: mend && { label: mend.label, asks: mend.asks },
    })),
  );
  await keepPageSnags(
    tx,
    site,
    facts.map(({ path }) => path),
    snags,
  );
}

/** PostgreSQL's jsonb holds every letter but NUL. */
function writeJson(value: unknown): string {
  return JSON.stringify(value).replaceAll('\\u0000', '');
}

async function readSheetTexts(
  queries: Queries,
  all: ReadonlyMap<string, ManifestEntry>,
): Promise<Map<string, Uint8Array>> {
  const sheets = [...all.values()]
    .filter(({ path, sizeBytes }) => findMediaType(path) === 'text/css' && sizeBytes <= MOST_SHEET_BYTES)
    .slice(0, MOST_SHEETS);
  const contents = await readContentsByHash(
    queries,
    sheets.map(({ hash }) => hash),
  );
  return new Map(
    sheets.flatMap(({ path, hash }) => {
      const bytes = contents.get(hash);
      return bytes ? [[findAddressOfFile(path), bytes] as const] : [];
    }),
  );
}

const MOST_SHEET_BYTES = 1024 * 1024; // 1 MiB
const MOST_SHEETS = 200;
/** Size and kind stand at a picture's beginning, but for a few formats; larger files are no web pictures. */
const MOST_PICTURE_BYTES = 32 * 1024 * 1024; // 32 MiB

/** By address; each content is looked at once. */
async function readPictureSizes(
  queries: Queries,
  all: ReadonlyMap<string, ManifestEntry>,
): Promise<Map<string, PictureSize>> {
  const pictures = [...all.values()].filter(
    ({ path, sizeBytes }) => findMediaType(path).startsWith('image/') && sizeBytes <= MOST_PICTURE_BYTES,
  );
  const known = new Map(
    (
      await queries.many<{ hash: string; widthPx: number | null; heightPx: number | null }>(
        'select hash, width_px as "widthPx", height_px as "heightPx" from picture_size where hash = any($1)',
        [pictures.map(({ hash }) => hash)],
      )
    ).map(({ hash, widthPx, heightPx }) => [
      hash,
      widthPx !== null && heightPx !== null ? { widthPx, heightPx } : undefined,
    ]),
  );
  const fresh: [string, PictureSize | undefined][] = [];
  for (const { hash } of pictures) {
    if (known.has(hash)) continue;
    const size = readPictureSize(await readContent(queries, hash));
    known.set(hash, size);
    fresh.push([hash, size]);
  }
  await queries.run(
    'insert into picture_size (hash, width_px, height_px) select * from unnest($1::text[], $2::int[], $3::int[]) on conflict do nothing',
    [
      fresh.map(([hash]) => hash),
      fresh.map(([, size]) => size?.widthPx ?? null),
      fresh.map(([, size]) => size?.heightPx ?? null),
    ],
  );
  return new Map(
    pictures.flatMap(({ path, hash }) => {
      const size = known.get(hash);
      return size ? [[findAddressOfFile(path), size] as const] : [];
    }),
  );
}
