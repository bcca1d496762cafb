/** A piece of an access log, counted. */
import type { SiteAccess } from '@fastigium/core/access';
import { readLogLine } from '@fastigium/core/redirects/gather';
import { LogCounts, type AddressCount, type HourCount } from '@fastigium/core/watch';

export interface CountedLog {
  readonly hours: readonly HourCount[];
  readonly addresses: readonly AddressCount[];
  /** Lines that are no request in one of the known formats. */
  readonly notRead: number;
}

export interface LogToCount {
  /** Whole lines. */
  readonly bytes: Uint8Array;
  readonly access: SiteAccess;
}

export function countLog({ bytes, access }: LogToCount): CountedLog {
  const counts = new LogCounts(access);
  let notRead = 0;
  for (const line of Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('utf8').split(/\r?\n/)) {
    if (line === '') continue;
    const request = readLogLine(line);
    if (request) counts.add(request);
    else notRead += 1;
  }
  return { hours: counts.hours(), addresses: counts.addresses(), notRead };
}
