/**
 * Which network addresses a request may go to when a person names the site. Only public ones: an address
 * inside the machine's own networks would let a site's name, or its redirect, read what only they may see.
 */
import ipaddr from 'ipaddr.js';
import type { Routes } from '../world/routes.ts';

/**
 * What IANA has given out to be reached by everybody: of IPv6 that is 2000::/3 and nothing else, so that `::127.0.0.1`
 * and its like, of which the registries say nothing any more, are none (RFC 4291, sections 2.4 and 2.5.5.1).
 */
function isPublic(address: ipaddr.IPv4 | ipaddr.IPv6): boolean {
  if (address.range() !== 'unicast') return false;
  return address.kind() === 'ipv4' || address.match(GLOBAL_UNICAST);
}
const GLOBAL_UNICAST = ipaddr.parseCIDR('2000::/3');

export type MayConnect = (address: string, port: number) => boolean;

/**
 * Public addresses, those the routes of the configuration lead elsewhere, and the networks it allows.
 * Everything that IANA keeps for special use is not public, in IPv6 too, where an IPv4 address may hide in one.
 *
 * @param allowed networks as `10.1.0.0/16`, `fd00::/8`
 * Source: RFC 6890 and the IANA special-purpose address registries, by ipaddr.js.
 */
export function mayConnectTo(routes: Routes, allowed: readonly string[]): MayConnect {
  const networks = allowed.map((network) => ipaddr.parseCIDR(network));
  return (address, port) => {
    const to = routes(address, port);
    if (to.address !== address || to.port !== port) return true;
    if (!ipaddr.isValid(address)) return false;
    // ::ffff:127.0.0.1 is 127.0.0.1 to every socket.
    const plain = ipaddr.process(address);
    return isPublic(plain) || networks.some((network) => plain.kind() === network[0].kind() && plain.match(network));
  };
}
