/** The world a server process works in, opened from its configuration. */
import { X509Certificate } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { rootCertificates } from 'node:tls';
import type { RegistrarPort } from '@fastigium/contracts/ports/registrar';
import type { WorldConfig } from '../../config/config.ts';
import { createAcmePort, type AcmePort } from '../acme/acme.ts';
import { createDnsPort, type DnsPort } from '../dns/dns.ts';
import { createHttpRegistrar } from '../registrar/httpRegistrar.ts';
import type { MayConnect } from '../web/addresses.ts';
import { createFetcher, type Fetcher } from '../web/fetcher.ts';
import { gateBy, type Gate } from '../web/gate.ts';
import { createLiveReader, type ReadLive } from '../web/liveReader.ts';
import { createAddressesOf } from '../web/names.ts';
import { createWebPort, type WebPort } from '../web/web.ts';
import { openClock, type WorldClock } from './clock.ts';
import { readEndpoint, createRoutes, type Endpoint } from './routes.ts';

/** Its product token is what a robots.txt may name (RFC 9309 section 2.2.1). */
export const CRAWLER = 'Fastigium';
const USER_AGENT = `${CRAWLER}/0.1 (bringing in a site for its owner)`;

export interface ResolverToAsk {
  readonly name: string;
  readonly address: string;
  readonly endpoint: Endpoint;
}

export interface WorldPorts {
  readonly clock: WorldClock;
  readonly dns: DnsPort;
  readonly web: WebPort;
  readonly gate: Gate;
  readonly readLive: ReadLive;
  /** For sites that a person names: never an address inside the own networks. */
  readonly fetch: Fetcher;
  readonly resolvers: readonly ResolverToAsk[];
  /** Undefined where no registrar is configured: names can be brought, not bought. */
  readonly registrar: RegistrarPort | undefined;
  /** Undefined where no certificate authority is configured. */
  readonly acme: AcmePort | undefined;
}

export async function openWorld(config: WorldConfig): Promise<WorldPorts> {
  const routes = createRoutes(config.routes);
  const clock = await openClock(config.standInsUrl);
  const ca = [...rootCertificates, ...(config.rootsFile === undefined ? [] : [readFileSync(config.rootsFile, 'utf8')])];
  const resolvers = config.resolvers.map(({ name, address }) => ({ name, address, endpoint: readEndpoint(address) }));
  const operatorsOwn = [
    ...resolvers.map(({ endpoint }) => endpoint),
    ...config.ownEndpoints.map((each) => readEndpoint(each)),
  ];
  const mayConnect: MayConnect = (address, port) => gate.mayConnect(address, port);
  const dns = createDnsPort(routes, clock.nowMs, mayConnect);
  const addressesOf = createAddressesOf(dns, resolvers);
  const gate = gateBy({ routes, networks: config.openNetworks, own: operatorsOwn, addressesOf });
  return {
    clock,
    dns,
    gate,
    readLive: createLiveReader(gate),
    web: createWebPort(
      routes,
      ca.map((pem) => new X509Certificate(pem)),
      mayConnect,
    ),
    fetch: createFetcher({
      routes,
      gate,
      addressesOf,
      userAgent: USER_AGENT,
      ca,
    }),
    resolvers,
    registrar: config.registrar && createHttpRegistrar(config.registrar),
    acme:
      config.acme &&
      createAcmePort({
        directory: config.acme.directory,
        ca: config.acme.caFile === undefined ? undefined : readFileSync(config.acme.caFile, 'utf8'),
        caaIdentity: config.acme.caaIdentity,
      }),
  };
}
