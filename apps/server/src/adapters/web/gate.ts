/**
 * The one gate for everything that connects to what people have named: hosts, servers, resolvers, sites, whoever is
 * told. A name is looked up once, and that very address is connected to, if it may be: so neither a second answer of a
 * resolver nor an address inside the machine's own networks leads past it. Its operator opens networks by one setting.
 */
import { DomainError } from '@fastigium/contracts/errors';
import { LRUCache } from 'lru-cache';
import type { Endpoint, Routes } from '../world/routes.ts';
import { mayConnectTo, type MayConnect } from './addresses.ts';
import type { AddressesOf } from './names.ts';

export interface Gate {
  readonly mayConnect: MayConnect;
  /** Where a name, or an address, is to be connected to. Throws a DomainError `network-private` or `name-nowhere`. */
  endpointOf(host: string, port: number): Promise<Endpoint>;
}

/** A connection is kept longer than this anyway; a page's many files are not looked up one by one. */
const KNOWN_MS = 10_000;
const MOST_KNOWN = 1000;

export function gateBy({
  routes,
  networks,
  own: operatorsOwn,
  addressesOf,
}: {
  readonly routes: Routes;
  /** Open although they are not public: `10.1.0.0/16`. */
  readonly networks: readonly string[];
  /** What the operator has named, which nobody else can change. */
  readonly own: readonly Endpoint[];
  readonly addressesOf: AddressesOf;
}): Gate {
  const isPublic = mayConnectTo(routes, networks);
  const isOwn = (address: string, port: number) =>
    operatorsOwn.some((each) => each.address === address && each.port === port);
  const mayConnect: MayConnect = (address, port) => isOwn(address, port) || isPublic(address, port);
  const known = new LRUCache<string, Promise<readonly string[]>>({ max: MOST_KNOWN, ttl: KNOWN_MS });
  const lookUp = (host: string) => {
    let found = known.get(host);
    if (!found) {
      found = addressesOf(host);
      known.set(host, found);
      found.catch(() => known.delete(host));
    }
    return found;
  };
  return {
    mayConnect,
    async endpointOf(host, port) {
      const addresses = await lookUp(host);
      if (addresses.length === 0) throw new DomainError('name-nowhere', { host });
      const open = addresses.find((address) => mayConnect(address, port));
      // One private address beside a public one is still no reason to go there.
      if (open === undefined) throw new DomainError('network-private', { host, detail: addresses[0] ?? '' });
      return routes(open, port);
    },
  };
}
