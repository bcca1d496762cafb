/** Where people find the live site: by its own name once it is reached by https there, else by the host's. */
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { knownOrigin } from '../address/liveOrigin.ts';
import { siteAddress } from '../shared/siteAddress.ts';

/** Undefined where nobody has said. */
export async function publicUrl(
  deps: Pick<Deps, 'hosts'>,
  queries: Queries,
  site: string,
): Promise<string | undefined> {
  const address = await siteAddress(queries, site);
  return address?.forceHttps ? `https://${address.main}/` : (await knownOrigin(deps, queries, site))?.href;
}
