/** Domains that lead here and whose addresses are told apart from the site's own. */
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { formatAddress, parseAddress } from '@fastigium/core/address';
import { splitHost, writeWithHost } from '@fastigium/core/redirects';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';

export async function readOldDomains(queries: Queries, site: string): Promise<string[]> {
  return (
    await queries.many<{ host: string }>('select host from old_domain where site_id = $1 order by host', [site])
  ).map(({ host }) => host);
}

export async function addOldDomain(tx: Queries, site: string, by: string, written: string): Promise<string> {
  const host = readHost(written);
  if (host === undefined)
    throw new DomainError('name-unreadable', {
      name: written,
      reason: reason('no-host-name'),
    });
  await tx.run('insert into old_domain (site_id, host, by) values ($1, $2, $3) on conflict do nothing', [
    site,
    host,
    by,
  ]);
  await announce(tx, { kind: 'redirects', site });
  return host;
}

/** What was gathered of it stays, since it may still be visited; only what comes in later is not told apart any more. */
export async function removeOldDomain(tx: Queries, site: string, host: string): Promise<void> {
  if ((await tx.run('delete from old_domain where site_id = $1 and host = $2', [site, host])) === 0)
    throw new DomainError('not-found', { what: 'domain' });
  await announce(tx, { kind: 'redirects', site });
}

/** `old.example`, or what a person copies from the address bar. */
function readHost(written: string): string | undefined {
  const parsed = parseAddress(/^https?:\/\//i.test(written.trim()) ? written : `http://${written.trim()}`);
  return parsed.ok && parsed.host?.includes('.') ? parsed.host : undefined;
}

/** An old address as it is kept: with its host, where that is one of the domains told apart; another host is left out. */
export function readOldAddress(written: string, domains: readonly string[]): string {
  const { host } = splitHost(written.trim());
  const parsed = parseAddress(host === undefined ? written : `http:${written.trim()}`);
  if (!parsed.ok) throw new DomainError('address-unreadable', { address: written });
  const address = formatAddress(parsed.address);
  if (parsed.host !== undefined && domains.includes(parsed.host)) return writeWithHost(parsed.host, address);
  if (host !== undefined) throw new DomainError('old-domain-unknown', { host });
  return address;
}
