/** Where people find the live site: by its own name once it is reached by https there, else by the host's. */
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { siteAddress } from '../address/names.ts';

export async function publicUrl(
  deps: Pick<Deps, 'hosts'>,
  queries: Queries,
  site: string,
  label: string,
): Promise<string> {
  const address = await siteAddress(queries, site);
  return address?.forceHttps ? `https://${address.main}/` : (await deps.hosts.of(queries, site)).urlOf(label);
}
