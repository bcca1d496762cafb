/** Old addresses of a site and how many visitors they had. */
import { formatAddress, parseAddress } from '@fastigium/core/address';
import type { Database } from '../../db/database.ts';

export async function addOldAddresses(
  db: Database, site: string, list: readonly { address: string; visits: number | null }[],
): Promise<{ taken: number; notAddresses: string[] }> {
  const visits = new Map<string, number | null>();
  const notAddresses: string[] = [];
  for (const { address, visits: count } of list) {
    const parsed = parseAddress(address);
    if (!parsed.ok) {
      notAddresses.push(address);
      continue;
    }
    const normal = formatAddress(parsed.address);
    // Two spellings of one address were visited by the same people's links: their visits add up.
    visits.set(normal, count === null ? (visits.get(normal) ?? null) : (visits.get(normal) ?? 0) + count);
  }
  await db.run(
    `insert into old_address (site_id, address, visits) select $1, * from unnest($2::text[], $3::int[])
     on conflict (site_id, address) do update set visits = coalesce(excluded.visits, old_address.visits)`,
    [site, [...visits.keys()], [...visits.values()]],
  );
  return { taken: visits.size, notAddresses };
}
