/** The network addresses of a host's name: by the resolvers of the configuration, else by the system's own. */
import { lookup } from 'node:dns/promises';
import { isIP } from 'node:net';
import type { DnsPort } from '../dns/dns.ts';
import type { Endpoint } from '../world/routes.ts';

export type AddressesOf = (host: string) => Promise<readonly string[]>;

/** Each returned in the order to try; empty where the name leads nowhere. */
export function createAddressesOf(dns: DnsPort, resolvers: readonly { readonly endpoint: Endpoint }[]): AddressesOf {
  return async (host) => {
    // As it stands in a URL, an IPv6 address is in brackets.
    const literal = host.replace(/^\[|\]$/g, '');
    if (isIP(literal) !== 0) return [literal];
    // RFC 6761 section 6.3: these names are this machine's, whatever a resolver says.
    if (/(^|\.)localhost\.?$/i.test(literal)) return ['127.0.0.1'];
    for (const { endpoint } of resolvers) {
      const answers = await Promise.all(
        (['A', 'AAAA'] as const).map((type) => dns.resolver(endpoint, { name: literal, type })),
      );
      if (answers.every((answer) => !answer.ok)) continue;
      return answers
        .flatMap((answer) => (answer.ok ? answer.reply.answers : []))
        .filter(({ type }) => type === 'A' || type === 'AAAA')
        .map(({ data }) => data);
    }
    if (resolvers.length > 0) return [];
    return lookup(literal, { all: true }).then(
      (found) => found.map(({ address }) => address),
      () => [],
    );
  };
}
