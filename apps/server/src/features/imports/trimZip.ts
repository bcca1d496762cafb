/**
 * Archives with something before or after them: self-extracting ones, and ones that a mail gateway or
 * a broken download added to. Source: PKWARE APPNOTE 6.3.10, section 4.3.16; that offsets count from
 * the archive's own start even when something stands before it is common practice.
 */
import { createReadStream, createWriteStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';

const END_SIGNATURE = 0x06054b50;
const END_BYTES = 22;
const MOST_COMMENT_BYTES = 0xffff;
/** Where junk may follow, the end record is looked for this much farther up. */
const MOST_JUNK_BYTES = 1024 * 1024; // 1 MiB

/** Writes the archive alone to `target`, if it stands between other bytes; tells whether it did. */
export async function trimZip(file: string, target: string): Promise<boolean> {
  const handle = await open(file);
  let span: { start: number; end: number } | undefined;
  try {
    const { size } = await handle.stat();
    const length = Math.min(size, END_BYTES + MOST_COMMENT_BYTES + MOST_JUNK_BYTES);
    const tail = Buffer.alloc(length);
    await handle.read(tail, 0, length, size - length);
    span = findArchiveSpan(tail, size - length);
    if (!span || (span.start === 0 && span.end === size)) return false;
  } finally {
    await handle.close();
  }
  await pipeline(createReadStream(file, { start: span.start, end: span.end - 1 }), createWriteStream(target));
  return true;
}

function findArchiveSpan(tail: Buffer, tailStart: number): { start: number; end: number } | undefined {
  for (let at = tail.length - END_BYTES; at >= 0; at -= 1) {
    if (tail.readUInt32LE(at) !== END_SIGNATURE) continue;
    const directoryBytes = tail.readUInt32LE(at + 12);
    const directoryOffset = tail.readUInt32LE(at + 16);
    const end = tailStart + at + END_BYTES + tail.readUInt16LE(at + 20);
    const start = tailStart + at - directoryBytes - directoryOffset;
    // A chance match inside other data points nowhere sensible.
    if (start >= 0 && end <= tailStart + tail.length) return { start, end };
  }
  return undefined;
}
