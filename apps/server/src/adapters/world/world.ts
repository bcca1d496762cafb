/** The world a server process works in, opened from its configuration. */
import { X509Certificate } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { rootCertificates } from 'node:tls';
import type { RegistrarPort } from '@fastigium/contracts/ports/registrar';
import type { WorldConfig } from '../../config.ts';
import { acmePort, type AcmePort } from '../acme/acme.ts';
import { dnsPort, type DnsPort } from '../dns/dns.ts';
import { httpRegistrar } from '../registrar/httpRegistrar.ts';
import { webPort, type WebPort } from '../web/web.ts';
import { openClock, type WorldClock } from './clock.ts';
import { readEndpoint, routesBy, type Endpoint } from './routes.ts';

export interface ResolverToAsk {
  readonly name: string;
  readonly address: string;
  readonly endpoint: Endpoint;
}

export interface WorldPorts {
  readonly clock: WorldClock;
  readonly dns: DnsPort;
  readonly web: WebPort;
  readonly resolvers: readonly ResolverToAsk[];
  /** Undefined where no registrar is configured: names can be brought, not bought. */
  readonly registrar: RegistrarPort | undefined;
  /** Undefined where no certificate authority is configured. */
  readonly acme: AcmePort | undefined;
}

export async function openWorld(config: WorldConfig): Promise<WorldPorts> {
  const routes = routesBy(config.routes);
  const clock = await openClock(config.standInsUrl);
  const roots = [...rootCertificates, ...(config.rootsFile === undefined ? [] : [readFileSync(config.rootsFile, 'utf8')])].map((pem) => new X509Certificate(pem));
  return {
    clock,
    dns: dnsPort(routes, clock.nowMs),
    web: webPort(routes, roots),
    resolvers: config.resolvers.map(({ name, address }) => ({ name, address, endpoint: readEndpoint(address) })),
    registrar: config.registrar && httpRegistrar(config.registrar),
    acme: config.acme && acmePort({ directory: config.acme.directory, ca: config.acme.caFile === undefined ? undefined : readFileSync(config.acme.caFile, 'utf8'), caaIdentity: config.acme.caaIdentity }),
  };
}
