/** Where a site is published and which resolvers are asked about it. */
import type { HostMessage } from '@fastigium/contracts/messages/address';
import type { HostOffer, HostPort } from '@fastigium/contracts/ports/host';
import { readHostAccount, hostSettings, findTargets } from '../../adapters/host/hosts.ts';
import { readEndpoint } from '../../adapters/world/routes.ts';
import type { ResolverToAsk } from '../../adapters/world/world.ts';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { describeHost } from '../hosting/hosting.ts';

export interface SiteHost {
  readonly port: HostPort;
  readonly targets: HostOffer['targets'];
  readonly words: HostMessage;
}

export async function readSiteHost(deps: Deps, queries: Queries, site: string): Promise<SiteHost> {
  const port = await deps.hosts.of(queries, site);
  const account = await readHostAccount(queries, site);
  if (port.naming) {
    const offer = await port.naming.offer();
    return { port, targets: offer.targets, words: describeHost(account, offer) };
  }
  return {
    port,
    targets: await findTargetsNow(deps, findTargets(hostSettings.parse(account?.settings ?? {}).url)),
    words: describeHost(account),
  };
}

/** A host known by its name alone is looked up, since at the apex its addresses are needed (RFC 1034 section 3.6.2). */
async function findTargetsNow(deps: Deps, targets: HostOffer['targets']): Promise<HostOffer['targets']> {
  const [resolver] = deps.world.resolvers;
  const name = targets.edge;
  if (name === null || !resolver) return targets;
  const ask = async (type: string) => {
    const answer = await deps.world.dns.resolver(resolver.endpoint, { name, type });
    return answer.ok ? answer.reply.answers.filter((record) => record.type === type).map(({ data }) => data) : [];
  };
  const [ipv4, ipv6] = await Promise.all([ask('A'), ask('AAAA')]);
  return { ipv4, ipv6, edge: name };
}

/** The configuration's resolvers and those the team added. */
export async function readResolvers(
  deps: Deps,
  queries: Queries,
  site: string,
): Promise<(ResolverToAsk & { readonly added: boolean })[]> {
  const added = await queries.many<{ name: string; address: string }>(
    'select r.name, r.address from resolver r join site s on s.team_id = r.team_id where s.id = $1 order by r.name',
    [site],
  );
  return [
    ...deps.world.resolvers.map((resolver) => ({ ...resolver, added: false })),
    ...added.map(({ name, address }) => ({ name, address, endpoint: readEndpoint(address), added: true })),
  ];
}
