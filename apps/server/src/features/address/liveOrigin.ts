/** Where the live site is asked for: at its host's own address, else under its domain. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readSiteAddress } from '../shared/siteAddress.ts';

/** Throws a DomainError `site-address-unknown` where neither is known. */
export async function requireLiveOrigin(deps: Pick<Deps, 'hosts'>, queries: Queries, site: string): Promise<URL> {
  const found = await readLiveOrigin(deps, queries, site);
  if (!found) throw new DomainError('site-address-unknown');
  return found;
}

/** The same; undefined where neither is known. */
export async function readLiveOrigin(
  deps: Pick<Deps, 'hosts'>,
  queries: Queries,
  site: string,
): Promise<URL | undefined> {
  const { label } = await queries.one<{ label: string }>('select temporary_label as label from site where id = $1', [
    site,
  ]);
  const url = (await deps.hosts.of(queries, site)).urlOf(label);
  if (url !== undefined) return new URL(url);
  const address = await readSiteAddress(queries, site);
  return address && new URL(`${address.forceHttps ? 'https' : 'http'}://${address.main}/`);
}
