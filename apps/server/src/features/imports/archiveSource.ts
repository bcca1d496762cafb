/** An archive of a site, told by its first bytes and not by its name. */
import { reason, type ReasonMessage } from '@fastigium/contracts/messages/reason';
import { DomainError } from '@fastigium/contracts/errors';
import { open } from 'node:fs/promises';
import type { ImportLimits } from '../../config/config.ts';
import type { ImportSource } from './source.ts';
import { openTarSource } from './tarSource.ts';
import { openZipSource } from './zipSource.ts';

/** Packings that are known and not read. Sources: RFC 8878, section 3.1.1; the formats' own descriptions for the others, from memory. */
const NOT_READ: readonly (readonly [bytes: readonly number[], packing: ReasonMessage])[] = [
  [[0x28, 0xb5, 0x2f, 0xfd], reason('packed-otherwise', { packing: 'Zstandard' })],
  [[0xfd, 0x37, 0x7a, 0x58, 0x5a], reason('packed-otherwise', { packing: 'xz' })],
  [[0x42, 0x5a, 0x68], reason('packed-otherwise', { packing: 'bzip2' })],
  [[0x37, 0x7a, 0xbc, 0xaf], reason('archive-of-kind', { kind: '7z' })],
  [[0x52, 0x61, 0x72, 0x21], reason('archive-of-kind', { kind: 'RAR' })],
];
const GZIP = [0x1f, 0x8b]; // RFC 1952, section 2.3.1

/** `file` may get a copy beside it, which is the caller's to remove. Throws `archive-unreadable` and `archive-expands`. */
export async function openArchiveSource(
  file: string,
  sizeBytes: number,
  limits: ImportLimits,
  signal: AbortSignal,
): Promise<ImportSource> {
  const head = await readFirstBlock(file);
  const begins = (bytes: readonly number[]) => bytes.every((byte, at) => head[at] === byte);
  const packing = NOT_READ.find(([bytes]) => begins(bytes))?.[1];
  if (packing !== undefined) throw new DomainError('archive-unreadable', { detail: packing });
  if (begins(GZIP)) return openTarSource(file, true, limits, signal);
  return isTarHeader(head) ? openTarSource(file, false, limits, signal) : openZipSource(file, sizeBytes, limits);
}

const TAR_BLOCK_BYTES = 512;
const CHECKSUM = { start: 148, end: 156 };

async function readFirstBlock(file: string): Promise<Buffer> {
  const handle = await open(file);
  try {
    const { bytesRead, buffer } = await handle.read(Buffer.alloc(TAR_BLOCK_BYTES), 0, TAR_BLOCK_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}

/** By the header's checksum, which the oldest archives have too (POSIX.1-2017, pax, ustar interchange format, `chksum`). */
function isTarHeader(block: Buffer): boolean {
  if (block.length < TAR_BLOCK_BYTES) return false;
  const written = Number.parseInt(
    block
      .toString('latin1', CHECKSUM.start, CHECKSUM.end)
      .replace(/[\0 ]+$/, '')
      .trim(),
    8,
  );
  const sum = block.reduce((so, byte, at) => so + (at >= CHECKSUM.start && at < CHECKSUM.end ? 0x20 : byte), 0);
  return written === sum;
}
