import { DomainError } from '@fastigium/contracts/errors';
import type { Readable } from 'node:stream';

/** Everything a stream gives; throws upload-too-large where that is more than the limit, having kept no more than it. */
export async function readWholeStream(stream: Readable, limitBytes: number): Promise<Buffer> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    size += piece.length;
    if (size > limitBytes)
      throw new DomainError('upload-too-large', { limit: `${Math.round(limitBytes / 1024 / 1024)} MiB` });
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}
