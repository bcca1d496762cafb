/** A web server's own log file, read as it grows. */
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import type { HostAccessLog, LogPiece } from '@fastigium/contracts/ports/host';
import { createHash } from 'node:crypto';

/** Files anywhere a place can reach, by their whole paths. */
export interface LogPlace {
  /** Undefined where there is no such file. */
  sizeOf(path: string): Promise<number | undefined>;
  readPart(path: string, from: number, length: number): Promise<Uint8Array>;
}

/** A log is told from another by its first line, which bears a time. */
const BEGINNING_BYTES = 4096;
/** What logrotate and its like call the log before; where it is packed at once, what was not read of it is lost. */
const namePredecessor = (path: string): string => `${path}.1`;

export function createFileLog(
  withPlace: <T>(work: (place: LogPlace) => Promise<T>) => Promise<T>,
  path: string,
): HostAccessLog {
  return {
    read: (_site, { begun, fromByte }, mostBytes) =>
      withPlace(async (place) => {
        const now = await open(place, path);
        if (now === undefined) throw new DomainError('log-unreadable', { why: reason('no-file', { path }) });
        if (begun !== '' && now.begun !== begun) {
          const old = await open(place, namePredecessor(path));
          const bytes =
            old?.begun === begun
              ? await readRest(place, namePredecessor(path), old.sizeBytes, fromByte, mostBytes)
              : NOTHING;
          if (old && bytes.includes(NEW_LINE)) return { ...old, bytes };
        }
        return { ...now, bytes: await readRest(place, path, now.sizeBytes, fromByte, mostBytes) };
      }),
  };
}

const NEW_LINE = 10;
const NOTHING = new Uint8Array();

/** Undefined where there is no such file. */
async function open(place: LogPlace, path: string): Promise<Omit<LogPiece, 'bytes'> | undefined> {
  const sizeBytes = await place.sizeOf(path);
  if (sizeBytes === undefined) return undefined;
  const beginning = await part(place, path, 0, Math.min(BEGINNING_BYTES, sizeBytes));
  const end = beginning.indexOf(NEW_LINE);
  return { sizeBytes, begun: end < 0 ? '' : createHash('sha256').update(beginning.subarray(0, end)).digest('hex') };
}

const readRest = (
  place: LogPlace,
  path: string,
  sizeBytes: number,
  fromByte: number,
  mostBytes: number,
): Promise<Uint8Array> => part(place, path, fromByte, Math.max(0, Math.min(mostBytes, sizeBytes - fromByte)));
const part = async (place: LogPlace, path: string, from: number, length: number): Promise<Uint8Array> =>
  length === 0 ? NOTHING : place.readPart(path, from, length);
