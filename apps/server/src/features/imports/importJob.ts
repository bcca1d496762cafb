/** The import as a job: spool the upload, read it, put the site on it; or clear everything away. */
import { DomainError } from '@fastigium/contracts/errors';
import { isPageFile } from '@fastigium/core/address';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { errorRow, type JobHandler, type JobRun } from '../../jobs/queue.ts';
import { compileSoon } from '../draft/decide.ts';
import { folderSource } from './folderSource.ts';
import { readImport } from './readImport.ts';
import { zipSource } from './zipSource.ts';

const body = z.object({ import: z.uuid(), folder: z.string().optional() });

export function importJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const { import: importId, folder } = body.parse(job.body);
      await clear(deps, importId);
      await deps.db.run(`update import set state = 'reading' where id = $1`, [importId]);
      if (folder === undefined) await readUpload(deps, importId, job);
      else await readImport(deps, importId, await folderSource(folder, deps.config.limits), job);
      await apply(deps, job.site, importId);
    },
    async undo(job, error) {
      const { import: importId } = body.parse(job.body);
      await clear(deps, importId);
      await deps.db.run(
        `update import set state = $2, error = $3 where id = $1 and state <> 'applied'`,
        [importId, error.code === 'cancelled' ? 'cancelled' : 'failed', JSON.stringify(errorRow(error))],
      );
      await deps.db.run('delete from upload_piece where import_id = $1', [importId]);
    },
  };
}

async function readUpload(deps: Deps, importId: string, job: JobRun): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-import-'));
  try {
    const file = join(folder, 'upload.zip');
    job.report({ step: 'Fetching the upload', done: 0, total: 0, unit: 'bytes' });
    await pipeline(Readable.from(uploadPieces(deps, importId)), createWriteStream(file), { signal: job.signal });
    const { size } = await deps.db.one<{ size: number }>('select size_bytes as size from import where id = $1', [importId]);
    if (size === 0) throw new DomainError('upload-empty');
    const source = await zipSource(file, size, deps.config.limits);
    try {
      await readImport(deps, importId, source, job);
    } finally {
      source.close();
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function* uploadPieces(deps: Deps, importId: string): AsyncGenerator<Buffer> {
  for (let n = 0; ; n += 1) {
    const row = await deps.db.maybeOne<{ bytes: Buffer }>('select bytes from upload_piece where import_id = $1 and n = $2', [importId, n]);
    if (!row) return;
    yield row.bytes;
  }
}

/** Takes away everything an import wrote, also what a killed attempt left; contents others use stay. */
async function clear(deps: Deps, importId: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    for (const table of ['source_file', 'file_reading', 'dead_link', 'import_note']) {
      await tx.run(`delete from ${table} where import_id = $1`, [importId]);
    }
    await tx.run(
      `delete from content c where c.import_id = $1
          and not exists (select 1 from source_file f where f.hash = c.hash)
          and not exists (select 1 from release r where r.rules_hash = c.hash)`,
      [importId],
    );
  });
}

async function apply(deps: Deps, site: string, importId: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await tx.run('select 1 from site where id = $1 for update', [site]);
    const read = await tx.many<{ path: string }>('select path from file_reading where import_id = $1', [importId]);
    const pages = read.map(({ path }) => path).filter(isPageFile);
    await tx.run('insert into page (site_id, source_path) select $1, * from unnest($2::text[]) on conflict do nothing', [site, pages]);
    await tx.run(
      `update source_file f set page_id = p.id from page p
        where f.import_id = $1 and p.site_id = $2 and p.source_path = f.path and f.path = any($3)`,
      [importId, site, pages],
    );
    const { by } = await tx.one<{ by: string }>(`update import set state = 'applied', applied_at = now() where id = $1 returning created_by as by`, [importId]);
    await tx.run('update site set current_import = $2 where id = $1', [site, importId]);
    await tx.run('delete from upload_piece where import_id = $1', [importId]);
    const { version } = await tx.one<{ version: number }>('select version from site where id = $1', [site]);
    await announce(tx, { kind: 'draft', site, version, by: '' });
    await compileSoon(tx, site, by);
  });
}
