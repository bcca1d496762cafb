/** The import as a job: spool the upload or crawl the site, read it, put the site on it; or clear everything away. */
import { DomainError } from '@fastigium/contracts/errors';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import type { Deps } from '../../deps.ts';
import { describeError, type JobHandler, type JobRun } from '../../jobs/queue.ts';
import { applyImport } from './applyImport.ts';
import { openArchiveSource } from './archiveSource.ts';
import { clearImport } from './clearImport.ts';
import { readCrawl } from './crawl/readCrawl.ts';
import { openFolderSource } from './folderSource.ts';
import { readImport } from './readImport.ts';
import { keepTakenAlong } from './takenAlong.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

const body = z.object({ import: z.uuid(), folder: z.string().optional(), crawl: z.url().optional() });

export function importJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const { import: importId, folder, crawl } = body.parse(job.body);
      await clearImport(deps, importId);
      await deps.db.run(`update import set state = 'reading' where id = $1`, [importId]);
      if (crawl !== undefined) await readCrawl(deps, importId, new URL(crawl), job);
      else if (folder === undefined) await readUpload(deps, importId, job);
      else await readImport(deps, importId, await openFolderSource(folder, deps.config.limits), job);
      await settle(deps, job.site, importId);
    },
    async undo(job, error) {
      const { import: importId } = body.parse(job.body);
      const settled = await deps.db.maybeOne(
        `select 1 from import where id = $1 and state in ('applied', 'reviewing')`,
        [importId],
      );
      // What was read whole stays; only its telling failed.
      if (settled) return;
      await clearImport(deps, importId);
      await deps.db.run(
        `update import set state = $2, error = $3 where id = $1 and state not in ('applied', 'reviewing')`,
        [importId, error.code === 'cancelled' ? 'cancelled' : 'failed', JSON.stringify(describeError(error))],
      );
      await deps.db.run('delete from upload_piece where import_id = $1', [importId]);
    },
  };
}

/** The first export is applied at once; a newer one waits to be looked at. */
async function settle(deps: Deps, site: string, importId: string): Promise<void> {
  const { isFirst, older } = await deps.db.transaction(async (tx) => {
    const { current } = await tx.one<{ current: string | null }>(
      'select current_import as current from site where id = $1 for no key update',
      [site],
    );
    await tx.run('delete from upload_piece where import_id = $1', [importId]);
    if (current === null) return { isFirst: true, older: [] };
    const older = await tx.many<{ id: string }>(
      `update import set state = 'dropped' where site_id = $1 and state = 'reviewing' returning id`,
      [site],
    );
    await tx.run(`update import set state = 'reviewing' where id = $1`, [importId]);
    return { isFirst: false, older };
  });
  for (const { id } of older) await clearImport(deps, id);
  if (isFirst) await applyImport(deps, site, importId, undefined);
}

async function readUpload(deps: Deps, importId: string, job: JobRun): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-import-'));
  try {
    const file = join(folder, 'upload');
    job.report({ step: progressStep('fetching-upload'), done: 0, total: 0, unit: 'bytes' });
    await pipeline(Readable.from(uploadPieces(deps, importId)), createWriteStream(file), { signal: job.signal });
    const { size } = await deps.db.one<{ size: number }>('select size_bytes as size from import where id = $1', [
      importId,
    ]);
    if (size === 0) throw new DomainError('upload-empty');
    const source = await openArchiveSource(file, size, deps.config.limits, job.signal);
    try {
      await readImport(deps, importId, source, job);
      if (source.beside) await keepTakenAlong(deps.db, importId, await source.beside.read(job.signal));
    } finally {
      source.close();
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function* uploadPieces(deps: Deps, importId: string): AsyncGenerator<Buffer> {
  for (let n = 0; ; n += 1) {
    const row = await deps.db.maybeOne<{ bytes: Buffer }>(
      'select bytes from upload_piece where import_id = $1 and n = $2',
      [importId, n],
    );
    if (!row) return;
    yield row.bytes;
  }
}
