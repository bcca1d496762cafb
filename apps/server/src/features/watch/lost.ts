/** Lost addresses of the live site join the old ones, so that they are suggested for and settled like any other. */
import type { AddressCount } from '@fastigium/core/watch';
import type { Sighting } from '@fastigium/core/redirects/gather';
import type { Transaction } from '../../db/database.ts';
import { takeSightings } from '../redirects/gather/take.ts';

/** @returns whether there were any */
export async function takeLost(tx: Transaction, site: string, counts: readonly AddressCount[]): Promise<boolean> {
  const sightings = counts
    .filter(({ outcome, visits }) => outcome === 'lost' && visits > 0)
    .map(({ address, visits, robotVisits, lastMs, referrer }): Sighting => {
      const [, host, ownAddress] = /^\/\/([^/]+)(\/.*)$/s.exec(address) ?? [];
      return {
        address: ownAddress ?? address,
        host,
        visits,
        lastSeenMs: lastMs,
        status: 404,
        asked: { visits, robotVisits, answered: 0, referred: referrer === undefined ? 0 : 1 },
      };
    });
  if (sightings.length > 0) await takeSightings(tx, { site, source: 'live', addUp: true }, sightings);
  return sightings.length > 0;
}
