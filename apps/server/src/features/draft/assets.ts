/** Files added to the draft: a new logo, a document. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, isPageFile } from '@fastigium/core/address';
import { readPictureSize } from '@fastigium/core/picture';
import { type Decision } from '@fastigium/core/site';
import type { Readable } from 'node:stream';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readWholeStream } from '../../http/wholeStream.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { keepContents } from '../shared/contents.ts';
import { checkSitePath } from '../shared/sitePaths.ts';
import { readLatestDraft, readSiteState } from './history.ts';
import { recordDecision } from './record.ts';

export async function addAsset(
  deps: Deps,
  site: string,
  by: { id: string; name: string },
  file: { fileName: string; folder: string; version: number; stream: Readable },
): Promise<{ version: number; address: string; size: { widthPx: number; heightPx: number } | null }> {
  const bytes = await readWholeStream(file.stream, deps.config.limits.fileBytes);
  if (bytes.length === 0) throw new DomainError('upload-empty');
  const verdict = checkSitePath(`${file.folder}/${file.fileName}`.replace(/^\/+/, ''));
  // A page would need a place in the tree; files that never go live have none at all.
  if (!verdict.ok || isPageFile(verdict.path)) throw new DomainError('asset-name', { name: file.fileName });
  return deps.db.transaction(async (tx) => {
    const state = await readSiteState(tx, site, 'locked');
    if (state.currentImport === null) throw new DomainError('nothing-imported');
    if (state.version !== file.version) throw new DomainError('draft-stale');
    const draft = await readLatestDraft(tx, site);
    const hash = hashSha256(bytes);
    const path = await findFreePath(
      verdict.path,
      async (candidate) =>
        draft.assets.has(candidate) ||
        (await tx.maybeOne('select 1 from source_file where import_id = $1 and path = $2', [
          state.currentImport,
          candidate,
        ])) !== undefined,
    );
    await keepContents(tx, [{ hash, bytes }], null);
    const decision: Decision = { kind: 'asset-added', path, hash, sizeBytes: bytes.length };
    const version = await recordDecision(
      tx,
      state,
      by,
      decision,
      decided('file-added', { address: findAddressOfFile(path) }),
    );
    return { version, address: findAddressOfFile(path), size: readPictureSize(bytes) ?? null };
  });
}

/** A file the application itself adds, at a path that is nobody's yet. */
export async function addFile(
  tx: Queries,
  site: string,
  by: { readonly id: string; readonly name: string },
  { path, bytes }: { readonly path: string; readonly bytes: Buffer },
): Promise<void> {
  const state = await readSiteState(tx, site, 'locked');
  if (state.currentImport === null) throw new DomainError('nothing-imported');
  const hash = hashSha256(bytes);
  await keepContents(tx, [{ hash, bytes }], null);
  await recordDecision(
    tx,
    state,
    by,
    { kind: 'asset-added', path, hash, sizeBytes: bytes.length },
    decided('file-added', { address: findAddressOfFile(path) }),
  );
}

/** `logo.png`, else `logo-2.png`, `logo-3.png` …: nothing that is there is written over. */
async function findFreePath(path: string, isTaken: (path: string) => Promise<boolean>): Promise<string> {
  const dot = path.lastIndexOf('.') > path.lastIndexOf('/') ? path.lastIndexOf('.') : path.length;
  for (let n = 1; ; n += 1) {
    const candidate = n === 1 ? path : `${path.slice(0, dot)}-${n}${path.slice(dot)}`;
    if (!(await isTaken(candidate))) return candidate;
  }
}
