/** A web server's own log file, read as it grows. */
import { DomainError } from '@fastigium/contracts/errors';
import type { HostAccessLog } from '@fastigium/contracts/ports/host';
import { createHash } from 'node:crypto';

/** Files anywhere a place can reach, by their whole paths. */
export interface LogPlace {
  /** Undefined where there is no such file. */
  sizeOf(path: string): Promise<number | undefined>;
  readPart(path: string, from: number, length: number): Promise<Uint8Array>;
}

/** A log is told from another by its first line, which bears a time. */
const BEGINNING_BYTES = 4096;

export function fileLog(withPlace: <T>(work: (place: LogPlace) => Promise<T>) => Promise<T>, path: string): HostAccessLog {
  return {
    read: (_site, fromByte, mostBytes) => withPlace(async (place) => {
      const size = await place.sizeOf(path);
      if (size === undefined) throw new DomainError('log-unreadable', { why: `there is no file ${path}` });
      const beginning = await part(place, path, 0, Math.min(BEGINNING_BYTES, size));
      const bytes = await part(place, path, fromByte, Math.max(0, Math.min(mostBytes, size - fromByte)));
      const end = beginning.indexOf(10);
      return { bytes, sizeBytes: size, begun: end < 0 ? '' : createHash('sha256').update(beginning.subarray(0, end)).digest('hex') };
    }),
  };
}

const part = async (place: LogPlace, path: string, from: number, length: number): Promise<Uint8Array> => (length === 0 ? new Uint8Array() : place.readPart(path, from, length));
