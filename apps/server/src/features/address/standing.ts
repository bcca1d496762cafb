/** How a site's address stands, in a few words, for the frame around every station. */
import { standing } from '@fastigium/core/reach';
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import type { Queries } from '../../db/database.ts';
import { readSiteAddress } from '../shared/siteAddress.ts';

export type AddressStanding = Omit<NonNullable<SiteOverview['address']>, 'main'>;

export async function readAddressStanding(queries: Queries, site: string): Promise<SiteOverview['address']> {
  const address = await readSiteAddress(queries, site);
  if (!address) return null;
  const row = await queries.maybeOne<{ standing: AddressStanding | null }>(
    'select standing from address where site_id = $1',
    [site],
  );
  return { main: address.main, ...(row?.standing ?? { state: 'waiting', words: standing('not-looked-at') }) };
}
