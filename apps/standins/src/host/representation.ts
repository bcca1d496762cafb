/**
 * Which form of a content a client gets: as it is, or compressed. Each form is a representation of
 * its own with its own strong entity tag (RFC 9110 sections 8.8.3.3 and 12.5.3).
 */
import { isTextType } from '@fastigium/core/release';
import { randomUUID } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import { existsSync } from 'node:fs';
import { readFile, rename, writeFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import Negotiator from 'negotiator';
import type { HostedFile } from './store.ts';

export interface Representation {
  readonly file: string;
  readonly etag: string;
  readonly encoding: 'br' | 'gzip' | undefined;
  /** Whether another request could get another form, so caches must tell them apart. */
  readonly varies: boolean;
}

/** Below this the headers weigh more than compression saves. */
const COMPRESS_FROM_BYTES = 1024;

const compressors = {
  br: (bytes: Buffer) => promisify(brotliCompress)(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 6 } }),
  gzip: (bytes: Buffer) => promisify(gzip)(bytes, {}),
} as const;

export async function chooseRepresentation(
  req: IncomingMessage,
  hosted: HostedFile,
  contentFile: string,
): Promise<Representation> {
  const type = (hosted.headers['content-type'] ?? '').split(';')[0] ?? '';
  const varies = hosted.sizeBytes >= COMPRESS_FROM_BYTES && (isTextType(type) || type === 'image/svg+xml');
  const tag = hosted.hash.slice(0, 32);
  const encoding = varies ? new Negotiator(req).encoding(['br', 'gzip', 'identity']) : undefined;
  if (encoding !== 'br' && encoding !== 'gzip')
    return { file: contentFile, etag: `"${tag}"`, encoding: undefined, varies };
  const file = `${contentFile}.${encoding}`;
  if (!existsSync(file)) {
    const temporary = `${file}.${randomUUID()}`;
    await writeFile(temporary, await compressors[encoding](await readFile(contentFile)));
    await rename(temporary, file);
  }
  return { file, etag: `"${tag}-${encoding}"`, encoding, varies };
}
