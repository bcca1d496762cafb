/** Taking an upload in: it goes to the database in pieces, so memory stays small and any server process can read it. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Readable } from 'node:stream';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';

const PIECE_BYTES = 1024 * 1024; // 1 MiB

export async function takeUpload(
  deps: Deps,
  upload: { site: string; by: string; fileName: string; stream: Readable },
): Promise<{ import: string; job: string }> {
  // All of it is here already; one transaction, so that what fails leaves nothing at all.
  return deps.db.transaction(async (tx) => {
    const { id } = await tx.one<{ id: string }>(
      `insert into import (site_id, state, file_name, size_bytes, created_by) values ($1, 'waiting', $2, 0, $3) returning id`,
      [upload.site, upload.fileName, upload.by],
    );
    let size = 0;
    let n = 0;
    let waiting: Buffer[] = [];
    let waitingBytes = 0;
    const write = async () => {
      await tx.run('insert into upload_piece (import_id, n, bytes) values ($1, $2, $3)', [
        id,
        n,
        Buffer.concat(waiting),
      ]);
      n += 1;
      waiting = [];
      waitingBytes = 0;
    };
    for await (const piece of upload.stream as AsyncIterable<Buffer>) {
      size += piece.length;
      waiting.push(piece);
      waitingBytes += piece.length;
      if (waitingBytes >= PIECE_BYTES) await write();
    }
    if (waitingBytes > 0) await write();
    if (size === 0) throw new DomainError('upload-empty');
    await tx.run('update import set size_bytes = $2 where id = $1', [id, size]);
    return {
      import: id,
      job: await enqueue(tx, { kind: 'import', site: upload.site, body: { import: id }, by: upload.by }),
    };
  });
}

/** An import from a folder on this machine; only the demo, benchmarks and tests can ask for it. */
export async function importFolder(
  deps: Deps,
  request: { site: string; by: string; folder: string; fileName: string },
): Promise<string> {
  return deps.db.transaction(async (tx) => {
    const { id } = await tx.one<{ id: string }>(
      `insert into import (site_id, state, file_name, size_bytes, created_by) values ($1, 'waiting', $2, 0, $3) returning id`,
      [request.site, request.fileName, request.by],
    );
    return enqueue(tx, {
      kind: 'import',
      site: request.site,
      body: { import: id, folder: request.folder },
      by: request.by,
    });
  });
}
