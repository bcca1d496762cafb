/**
 * The world outside this machine, small and simulated: a host, a registrar, two name servers, five
 * resolvers, a certificate authority, an old host and a search index, all on loopback and all by one clock. Addresses of
 * the documentation ranges (RFC 5737, RFC 3849) stand for them; the routes say where each is really found.
 */
import { createServer, request } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { join } from 'node:path';
import { groupRecordSets, type RecordSet, type ResourceRecord } from '@fastigium/core/dns';
import { ask } from '@fastigium/wire';
import { openIssuer } from '../acme/issuer.ts';
import { createAcme } from '../acme/server.ts';
import { startHost, type RunningHost } from '../host/host.ts';
import { TARGETS } from '../host/offer.ts';
import { NO_OLD_SITE, type OldSiteSeed } from '../oldSite/seed.ts';
import { createOldSite, OLD_HOST } from '../oldSite/server.ts';
import { ACCOUNT_HOST, createAccount } from '../account/server.ts';
import type { Reading } from '../searchIndex/submitted.ts';
import { createSearchIndex, INDEX_HOST } from '../searchIndex/server.ts';
import { startNameServer, type RunningNameServer } from '../nameserver/server.ts';
import { NAME_SERVERS, Registry, type WorldSeed } from '../registrar/registry.ts';
import { createRegistrar } from '../registrar/server.ts';
import { HABITS } from '../resolvers/habits.ts';
import { startResolver, type RunningResolver } from '../resolvers/resolver.ts';
import { WorldClock } from './clock.ts';
import { FaultBoard } from './faults.ts';
import { closeServer, listen } from './listen.ts';
import { createPanel } from './panel.ts';
import { writeWhole } from './files.ts';

export interface WorldPorts {
  readonly control: number;
  readonly live: number;
  readonly tls: number;
  readonly registrar: number;
  readonly acme: number;
  /** Name servers and resolvers, each on a loopback address of its own. */
  readonly dns: number;
  readonly panel: number;
}

export interface World {
  readonly ports: WorldPorts;
  readonly clock: WorldClock;
  readonly faults: FaultBoard;
  readonly host: RunningHost;
  readonly registry: Registry;
  readonly rootPem: string;
  /** What the application needs to know of it, as its environment. */
  readonly environment: Readonly<Record<string, string>>;
  stop(): Promise<void>;
}

/** 127.0.0.0/8 is all loopback (RFC 1122 section 3.2.1.3). */
const NAME_SERVER_ADDRESSES = ['127.0.0.1', '127.0.0.2'] as const;
const placeResolver = (index: number): string => `127.0.0.${11 + index}`;
const NAME_SERVER_PUBLIC = ['192.0.2.1', '192.0.2.2'] as const;

export const NO_PORTS: WorldPorts = { control: 0, live: 0, tls: 0, registrar: 0, acme: 0, dns: 0, panel: 0 };

export async function startWorld(options: {
  folder: string;
  token: string;
  ports: WorldPorts;
  seed?: WorldSeed;
  oldSite?: OldSiteSeed;
}): Promise<World> {
  const { folder, token, ports } = options;
  const clock = new WorldClock(join(folder, 'clock.json'));
  const faults = new FaultBoard();
  const registry = new Registry(join(folder, 'registrar.json'), clock.now, options.seed ?? { holdings: [] });
  const closers: (() => Promise<void>)[] = [];
  const closing = <T extends { stop(): Promise<void> }>(running: T): T => {
    closers.push(() => running.stop());
    return running;
  };
  try {
    const host = closing(
      await startHost({
        folder,
        token,
        controlPort: ports.control,
        publicPort: ports.live,
        tlsPort: ports.tls,
        nowMs: clock.now,
      }),
    );
    const nameServers: RunningNameServer[] = [];
    let dns = ports.dns;
    for (const [index, address] of NAME_SERVER_ADDRESSES.entries()) {
      const running = closing(
        await startNameServer({
          registry,
          fixed: FIXED_ZONES,
          address,
          port: dns,
          fault: () => faults.now.nameServers[index as 0 | 1],
          nowMs: clock.now,
        }),
      );
      dns = running.port;
      nameServers.push(running);
    }
    const authorities = NAME_SERVER_ADDRESSES.map((address) => ({ address, port: dns }));
    const resolvers: RunningResolver[] = [];
    for (const [index, habit] of HABITS.entries()) {
      resolvers.push(
        closing(
          await startResolver({
            habit,
            address: placeResolver(index),
            port: dns,
            authorities,
            fault: () => faults.now.resolvers[habit.id] ?? 'none',
            nowMs: clock.now,
          }),
        ),
      );
    }
    registry.onZoneChange((zone, before) => resolvers.forEach((resolver) => resolver.warm(zone, before)));

    const open = async (app: Parameters<typeof createServer>[1], port: number, address?: string) => {
      const server = createServer(app);
      closers.push(() => closeServer(server));
      return listen(server, port, address);
    };
    const registrar = await open(createRegistrar(registry, token, faults), ports.registrar);
    await open(createOldSite(options.oldSite ?? NO_OLD_SITE), host.publicPort, OLD_HOST.loopback);
    await open(
      createSearchIndex(options.oldSite ?? NO_OLD_SITE, () => new Date(clock.now()), visitAt(host.publicPort)),
      host.publicPort,
      INDEX_HOST.loopback,
    );

    await open(createAccount(token, clock.now), host.publicPort, ACCOUNT_HOST.loopback);

    // The old host has no https, so nobody listens at its other port.
    const routes: Record<string, string> = {
      [`${ACCOUNT_HOST.address}:80`]: `${ACCOUNT_HOST.loopback}:${host.publicPort}`,
      [`${INDEX_HOST.address}:80`]: `${INDEX_HOST.loopback}:${host.publicPort}`,
      [`${OLD_HOST.address}:80`]: `${OLD_HOST.loopback}:${host.publicPort}`,
      [`${OLD_HOST.address}:443`]: `${OLD_HOST.loopback}:443`,
    };
    for (const address of [...TARGETS.ipv4, ...TARGETS.ipv6.map((ipv6) => `[${ipv6}]`)]) {
      routes[`${address}:80`] = `127.0.0.1:${host.publicPort}`;
      routes[`${address}:443`] = `127.0.0.1:${host.tlsPort}`;
    }
    for (const [index, address] of NAME_SERVER_PUBLIC.entries())
      routes[`${address}:53`] = `${NAME_SERVER_ADDRESSES[index]}:${dns}`;

    const issuer = await openIssuer(join(folder, 'authority'));
    let acmePort = 0;
    const acme = createTlsServer(
      await issuer.forServer(['localhost', '127.0.0.1']),
      createAcme({
        issuer,
        faults,
        nowMs: clock.now,
        baseUrl: () => `https://localhost:${acmePort}`,
        lookUp: (name, type) => lookUp(authorities, name, type),
        fetchFrom: (address, name, path) => fetchOver(routes[`${address}:80`], name, path),
      }),
    );
    closers.push(() => closeServer(acme));
    acmePort = await listen(acme, ports.acme);
    const rootFile = join(folder, 'authority', 'root.pem');
    await writeWhole(rootFile, issuer.rootPem);

    const panel = await open(createPanel({ clock, faults, token }), ports.panel);
    return {
      clock,
      faults,
      host,
      registry,
      rootPem: issuer.rootPem,
      ports: {
        control: host.controlPort,
        live: host.publicPort,
        tls: host.tlsPort ?? 0,
        registrar,
        acme: acmePort,
        dns,
        panel,
      },
      environment: {
        FASTIGIUM_HOST_TOKEN: token,
        FASTIGIUM_HOST_CONTROL_URL: `http://127.0.0.1:${host.controlPort}`,
        FASTIGIUM_HOST_PUBLIC_PORT: String(host.publicPort),
        FASTIGIUM_STANDINS_URL: `http://127.0.0.1:${panel}`,
        FASTIGIUM_RDAP_URL: `http://127.0.0.1:${registrar}/rdap`,
        FASTIGIUM_REGISTRAR_URL: `http://127.0.0.1:${registrar}`,
        FASTIGIUM_REGISTRAR_TOKEN: token,
        FASTIGIUM_RESOLVERS: JSON.stringify(
          HABITS.map(({ name }, index) => ({ name, address: `${placeResolver(index)}:${dns}` })),
        ),
        FASTIGIUM_ROUTES: JSON.stringify(routes),
        FASTIGIUM_SEARCH_INDEX: `http://${INDEX_HOST.name}/opensearch.xml`,
        FASTIGIUM_OFFERED_INDEX: `http://${INDEX_HOST.name}/submitted`,
        FASTIGIUM_OFFERED_ACCOUNT: JSON.stringify({ url: `http://${ACCOUNT_HOST.name}/micropub`, token }),
        FASTIGIUM_ACME_DIRECTORY: `https://localhost:${acmePort}/directory`,
        FASTIGIUM_ACME_CA: rootFile,
        FASTIGIUM_ACME_CAA: 'ca.test',
        FASTIGIUM_TRUSTED_ROOTS: rootFile,
      },
      stop: () => stopAll(closers),
    };
  } catch (error) {
    await stopAll(closers);
    throw error;
  }
}

async function stopAll(closers: readonly (() => Promise<void>)[]): Promise<void> {
  for (const close of [...closers].reverse()) await close();
}

/** The zones of the stand-ins themselves. */
const createSoa = (zone: string): ResourceRecord => ({
  name: zone,
  type: 'SOA',
  ttlSeconds: 3600,
  data: `${NAME_SERVERS[0]}. hostmaster.${zone}. 1 7200 900 1209600 300`,
});
const createNameServers = (zone: string): ResourceRecord[] =>
  NAME_SERVERS.map((server) => ({ name: zone, type: 'NS', ttlSeconds: 86_400, data: `${server}.` }));
const FIXED_ZONES = [
  {
    name: 'host.test',
    records: [
      createSoa('host.test'),
      ...createNameServers('host.test'),
      ...TARGETS.ipv4.map((data) => ({ name: TARGETS.edge, type: 'A', ttlSeconds: 300, data })),
      ...TARGETS.ipv6.map((data) => ({ name: TARGETS.edge, type: 'AAAA', ttlSeconds: 300, data })),
    ],
  },
  {
    name: 'social.test',
    records: [
      createSoa('social.test'),
      ...createNameServers('social.test'),
      { name: ACCOUNT_HOST.name, type: 'A', ttlSeconds: 300, data: ACCOUNT_HOST.address },
    ],
  },
  {
    name: 'search.test',
    records: [
      createSoa('search.test'),
      ...createNameServers('search.test'),
      { name: INDEX_HOST.name, type: 'A', ttlSeconds: 300, data: INDEX_HOST.address },
    ],
  },
  {
    name: 'registrar.test',
    records: [
      createSoa('registrar.test'),
      ...createNameServers('registrar.test'),
      ...NAME_SERVERS.map((name, index) => ({
        name,
        type: 'A',
        ttlSeconds: 86_400,
        data: NAME_SERVER_PUBLIC[index] ?? '',
      })),
    ],
  },
];

/** Every name that leads to a site here leads to the one host. */
function visitAt(port: number): Reading {
  return (url) => fetchOver(`127.0.0.1:${port}`, url.host, url.pathname + url.search).catch(() => undefined);
}

async function lookUp(
  authorities: readonly { address: string; port: number }[],
  name: string,
  type: string,
): Promise<readonly RecordSet[]> {
  for (const authority of authorities) {
    const reply = await ask(authority, { name, type }, { recursion: false, withinMs: 1500 }).catch(() => undefined);
    if (reply && (reply.rcode === 'NOERROR' || reply.rcode === 'NXDOMAIN'))
      return groupRecordSets(reply.answers.filter((record) => record.type === type));
  }
  return [];
}

function fetchOver(route: string | undefined, name: string, path: string): Promise<{ status: number; body: string }> {
  return new Promise((resolve, reject) => {
    if (route === undefined) {
      reject(new Error('nothing answers at this address'));
      return;
    }
    const [host, port] = route.split(':');
    const outgoing = request({ host, port, path, headers: { host: name }, timeout: 5000 }, (answer) => {
      const pieces: Buffer[] = [];
      answer.on('data', (piece: Buffer) => pieces.push(piece));
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, body: Buffer.concat(pieces).toString('utf8') }));
    });
    outgoing.on('timeout', () => outgoing.destroy(new Error('no answer in time')));
    outgoing.on('error', reject);
    outgoing.end();
  });
}
