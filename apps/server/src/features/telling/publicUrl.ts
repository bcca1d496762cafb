/** Where people find the live site: by its own name once it is reached by https there, else by the host's. */
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readLiveOrigin } from '../address/liveOrigin.ts';
import { readSiteAddress } from '../shared/siteAddress.ts';

/** Undefined where nobody has said. */
export async function readPublicUrl(
  deps: Pick<Deps, 'hosts'>,
  queries: Queries,
  site: string,
): Promise<string | undefined> {
  const address = await readSiteAddress(queries, site);
  return address?.forceHttps ? `https://${address.main}/` : (await readLiveOrigin(deps, queries, site))?.href;
}
