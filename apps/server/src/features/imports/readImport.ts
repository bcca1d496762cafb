/**
 * Reading a finished site into the database. Everything is written under the import's own id while
 * the site still stands on the import before; one last transaction puts the site on the new one. So
 * a reader never sees half an import, and one that stops half-way is cleared away by its id.
 */
import { reason } from '@fastigium/contracts/messages/reason';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, listCandidateFiles, isPageFile } from '@fastigium/core/address';
import { findFileHeaders, findMediaType } from '@fastigium/core/release';
import type { Deps } from '../../deps.ts';
import type { JobRun } from '../../jobs/queue.ts';
import type { FileToRead, ReadFile } from '../../threads/tasks.ts';
import { keepContents } from '../shared/contents.ts';
import { findPointedMenus } from '../draft/pointedMenus.ts';
import { FoundMenus } from './foundMenus.ts';
import { findCaseClashes } from '../shared/sitePaths.ts';
import { EntryUnreadable, type ImportSource, type Note, type SourceEntry } from './source.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

/** Sent to a thread at once: enough to be worth the way, few enough to show progress. */
const BATCH_BYTES = 2 * 1024 * 1024;
const BATCH_FILES = 100;

interface Loaded {
  readonly path: string;
  readonly bytes: Buffer;
  readonly kind: FileToRead['kind'];
}

export async function readImport(
  deps: Deps,
  importId: string,
  source: ImportSource,
  job: Pick<JobRun, 'signal' | 'report'>,
): Promise<void> {
  const { entries } = source;
  if (entries.length === 0) throw new DomainError('archive-empty');
  const notes: Note[] = [...source.notes];
  for (const path of findCaseClashes(entries.map(({ path }) => path))) notes.push({ code: 'name-case', path });
  const paths = new Set(entries.map(({ path }) => path));
  const uses = new Map<string, number>();
  const menus = new FoundMenus();
  let pages = 0;
  let filesDone = 0;
  let totalBytes = 0;

  const finish = async (batch: readonly Loaded[]) => {
    const read = await deps.threads.read(batch, job.signal);
    notes.push(
      ...batch.flatMap(({ path }, i) => (read[i]?.reading?.problem ? [{ code: read[i].reading.problem, path }] : [])),
    );
    batch.forEach(({ path, kind }, i) => {
      if (kind === 'page') pages += 1;
      menus.add(path, read[i]?.reading?.menus ?? []);
    });
    await writeBatch(deps, importId, batch, read, paths, uses);
    filesDone += batch.length;
    job.report({ step: progressStep('reading-files'), done: filesDone, total: entries.length, unit: 'files' });
  };

  // As many batches in flight as there are threads, while the next one is unpacked.
  const inFlight = new Set<Promise<void>>();
  const failures: unknown[] = [];
  let batch: Loaded[] = [];
  let batchBytes = 0;
  const flush = async () => {
    if (batch.length === 0) return;
    const work = finish(batch)
      .catch((error: unknown) => void failures.push(error))
      .finally(() => inFlight.delete(work));
    inFlight.add(work);
    batch = [];
    batchBytes = 0;
    if (inFlight.size > deps.threads.size) await Promise.race(inFlight);
  };
  try {
    for (const entry of entries) {
      job.signal.throwIfAborted();
      if (failures.length > 0) break;
      const bytes = await readEntry(entry, notes, job.signal);
      if (bytes === undefined) {
        paths.delete(entry.path);
        filesDone += 1;
        continue;
      }
      totalBytes += bytes.length;
      if (totalBytes > deps.config.limits.totalBytes)
        throw new DomainError('archive-expands', {
          detail: reason('more-bytes-than', { most: deps.config.limits.totalBytes }),
        });
      batch.push({ path: entry.path, bytes, kind: judgeKind(entry.path, bytes, deps.config.limits.pageBytes, notes) });
      batchBytes += bytes.length;
      if (batchBytes >= BATCH_BYTES || batch.length >= BATCH_FILES) await flush();
    }
    await flush();
  } finally {
    // Nothing may still be writing when a failed import is cleared away.
    await Promise.all(inFlight);
  }
  if (failures.length > 0) throw failures[0];
  job.signal.throwIfAborted();
  job.report({
    step: progressStep('putting-together'),
    done: entries.length,
    total: entries.length,
    unit: 'files',
  });
  await deps.db.run(
    `update source_file f set uses = u.n from unnest($2::text[], $3::int[]) as u(path, n) where f.import_id = $1 and f.path = u.path`,
    [importId, [...uses.keys()], [...uses.values()]],
  );
  await menus.keep(deps.db, importId, pages);
  await findPointedMenus(deps, importId, job.signal);
  await deps.db.run(
    'insert into import_note (import_id, code, path) select $1, * from unnest($2::text[], $3::text[])',
    [importId, notes.map(({ code }) => code), notes.map(({ path }) => path.replaceAll('\0', '\u2400'))],
  );
}

async function readEntry(entry: SourceEntry, notes: Note[], signal: AbortSignal): Promise<Buffer | undefined> {
  try {
    const bytes = await entry.read(signal);
    if (bytes.length === 0) notes.push({ code: 'empty', path: entry.path });
    return bytes;
  } catch (error) {
    if (!(error instanceof EntryUnreadable)) throw error;
    notes.push({ code: 'unreadable', path: entry.path });
    return undefined;
  }
}

function judgeKind(path: string, bytes: Buffer, pageBytes: number, notes: Note[]): FileToRead['kind'] {
  if (findMediaType(path) === 'text/css') return bytes.length <= pageBytes ? 'style' : 'other';
  if (!isPageFile(path)) return 'other';
  if (bytes.length > pageBytes) {
    notes.push({ code: 'page-too-large', path });
    return 'other';
  }
  if (isBinary(bytes)) {
    notes.push({ code: 'not-a-page', path });
    return 'other';
  }
  return 'page';
}

/**
 * More than a tenth of NULs in the first kilobytes, without the mark or the every-other-byte pattern
 * of UTF-16, is no text. A stray NUL is: the HTML parser has a rule for it (HTML standard, 13.2.5.1).
 */
function isBinary(bytes: Buffer): boolean {
  const head = bytes.subarray(0, 4096);
  if ((head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff)) return false;
  let nuls = 0;
  for (const byte of head) if (byte === 0) nuls += 1;
  return nuls > head.length / 10;
}

async function writeBatch(
  deps: Deps,
  importId: string,
  batch: readonly Loaded[],
  read: readonly ReadFile[],
  paths: ReadonlySet<string>,
  uses: Map<string, number>,
): Promise<void> {
  const files: { path: string; hash: string; size: number; headers: string }[] = [];
  const readings: {
    path: string;
    title: string | null;
    language: string | null;
    description: string | null;
    headings: string;
    date: string | null;
    fingerprint: string;
    targets: string;
    ownHead: string;
    lead: string | null;
    mainText: string | null;
    inside: number;
    outside: number;
  }[] = [];
  const dead: DeadLink[] = [];
  batch.forEach(({ path, bytes, kind }, i) => {
    const result = read[i];
    if (!result) throw new Error(`no reading for ${path}`);
    const { hash, reading } = result;
    files.push({
      path,
      hash,
      size: bytes.length,
      headers: JSON.stringify(findFileHeaders(path, kind === 'page' ? reading?.encoding : undefined)),
    });
    if (!reading) return;
    const targets = new Set<string>();
    for (const link of reading.inside) {
      const file = findFile(link.path, paths);
      if (file === undefined) dead.push({ path, href: link.href, element: link.element, target: link.path });
      else if (file !== path) targets.add(file);
    }
    for (const target of targets) uses.set(target, (uses.get(target) ?? 0) + 1);
    readings.push({
      path,
      title: cleanText(reading.title),
      language: cleanText(reading.language),
      description: cleanText(reading.description),
      headings: JSON.stringify(reading.headings).replaceAll('\\u0000', ''),
      date: reading.date ?? null,
      fingerprint: JSON.stringify(reading.fingerprint),
      targets: JSON.stringify([...targets]),
      ownHead: JSON.stringify(reading.ownHead).replaceAll('\\u0000', ''),
      lead: cleanText(reading.lead),
      mainText: cleanText(reading.text),
      inside: reading.insideCount,
      outside: reading.outsideCount,
    });
  });
  await deps.db.transaction(async (tx) => {
    await keepContents(
      tx,
      batch.map(({ bytes }, i) => ({ hash: read[i]?.hash ?? '', bytes })),
      importId,
    );
    await tx.run(
      `insert into source_file (import_id, path, hash, size_bytes, headers, address)
       select $1, * from unnest($2::text[], $3::text[], $4::bigint[], $5::jsonb[], $6::text[])`,
      [
        importId,
        files.map((f) => f.path),
        files.map((f) => f.hash),
        files.map((f) => f.size),
        files.map((f) => f.headers),
        files.map((f) => findAddressOfFile(f.path)),
      ],
    );
    await tx.run(
      `insert into file_reading (import_id, path, title, language, description, headings, dated, fingerprint, targets, links_inside, links_outside, own_head, lead, main_text)
       select $1, r.path, r.title, r.language, r.description, r.headings, r.dated, array(select jsonb_array_elements_text(r.fingerprint)::int), array(select jsonb_array_elements_text(r.targets)), r.inside, r.outside, r.own_head, r.lead, r.main_text
         from unnest($2::text[], $3::text[], $4::text[], $5::text[], $6::jsonb[], $7::date[], $8::jsonb[], $9::jsonb[], $10::int[], $11::int[], $12::jsonb[], $13::text[], $14::text[])
              as r(path, title, language, description, headings, dated, fingerprint, targets, inside, outside, own_head, lead, main_text)`,
      [
        importId,
        readings.map((r) => r.path),
        readings.map((r) => r.title),
        readings.map((r) => r.language),
        readings.map((r) => r.description),
        readings.map((r) => r.headings),
        readings.map((r) => r.date),
        readings.map((r) => r.fingerprint),
        readings.map((r) => r.targets),
        readings.map((r) => r.inside),
        readings.map((r) => r.outside),
        readings.map((r) => r.ownHead),
        readings.map((r) => r.lead),
        readings.map((r) => r.mainText),
      ],
    );
    await tx.run(
      `insert into dead_link (import_id, path, href, element, target)
       select $1, * from unnest($2::text[], $3::text[], $4::text[], $5::text[])`,
      [
        importId,
        dead.map((d) => d.path),
        dead.map((d) => cleanText(d.href)),
        dead.map((d) => d.element),
        dead.map((d) => cleanText(d.target)),
      ],
    );
  });
}

interface DeadLink {
  readonly path: string;
  readonly href: string;
  readonly element: string;
  readonly target: string;
}

/** PostgreSQL's text holds everything but NUL. */
function cleanText(value: string | undefined): string | null {
  return value === undefined ? null : value.replaceAll('\0', '\ufffd');
}

/** The file an address path leads to; a folder's address counts without its slash too, as hosts send it on. */
function findFile(path: string, files: ReadonlySet<string>): string | undefined {
  return (
    listCandidateFiles(path).find((file) => files.has(file)) ??
    (path.endsWith('/') ? undefined : listCandidateFiles(`${path}/`).find((file) => files.has(file)))
  );
}
