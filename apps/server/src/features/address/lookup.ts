/**
 * Asking the world about a site's names: the registry, the name servers, the records, the resolvers, the
 * certificate and the host, each by its own protocol. Nothing is concluded here; the core does that.
 */
import { DomainError } from '@fastigium/contracts/errors';
import { answer as came, type AnswerMessage } from '@fastigium/contracts/messages/answer';
import type { Registration } from '@fastigium/contracts/ports/registrar';
import type { Part } from '@fastigium/core/messages';
import type { HostOffer } from '@fastigium/contracts/ports/host';
import {
  reckonNegativeTtlSeconds,
  groupRecordSets,
  type DomainName,
  type RecordSet,
  type Sighting,
} from '@fastigium/core/dns';
import type { ResolverToAsk, WorldPorts } from '../../adapters/world/world.ts';
import type { Asked } from '../../adapters/dns/dns.ts';
import type { Visit } from '../../adapters/web/web.ts';
import type { DomainFacts, FactsAsked, LookupFacts } from './facts.ts';
import type { SiteAddress, ZoneNames } from '../shared/siteAddress.ts';
import { listWatchedSets } from './reckoned.ts';
import { describeReason } from './reason.ts';

type Targets = HostOffer['targets'];

const KEPT_TYPES = ['NS', 'MX', 'TXT', 'SRV'] as const;

export async function lookUp(
  world: WorldPorts,
  resolvers: readonly ResolverToAsk[],
  address: SiteAddress,
  targets: Targets,
): Promise<LookupFacts> {
  const nowMs = world.clock.nowMs;
  const asked: FactsAsked[] = [];
  const noteOf =
    (zone: DomainName): Note =>
    (link, question, ofWhom, answer, ms, ok) =>
      asked.push({ zone, link, question, ofWhom, answer, atMs: nowMs(), ms, ok });
  const zones = await Promise.all(address.zones.map((zone) => lookAtZone(world, resolvers, zone, noteOf(zone.zone))));
  const zoneOf = (name: DomainName) => zones.find(({ zone }) => name === zone || name.endsWith(`.${zone}`));
  const watched = listWatchedSets(address, { zones: zones.map(openZone) }, targets);
  const authority: Sighting[] = watched.map(({ name, type }) => {
    const zone = zoneOf(name);
    const set = zone?.sets.find((each) => each.name === name && each.type === type);
    return {
      resolver: 'authority',
      name,
      type,
      atMs: nowMs(),
      kind: zone?.answered !== true ? 'failed' : set ? 'data' : 'none',
      data: [...(set?.data ?? [])],
      ttlSeconds: set?.ttlSeconds ?? zone?.negativeTtlSeconds ?? 0,
    };
  });
  const sightings = (
    await Promise.all(
      resolvers.map((resolver) =>
        askResolver(world, resolver, watched, (name) => noteOf(zoneOf(name)?.zone ?? address.own)),
      ),
    )
  ).flat();
  const [main, ...further] = await Promise.all(
    address.zones.map(async ({ zone, names }, index): Promise<DomainFacts & { zone: DomainName }> => {
      const seen = zones[index];
      // Asked by the name visitors know: the main one, or the first of those that redirect to it.
      const [name = zone] = names;
      const [certificate, host] = await Promise.all([
        lookAtCertificate(world, name, targets, noteOf(zone)),
        lookAtHost(world, name, targets, noteOf(zone)),
      ]);
      return {
        zone,
        registration: seen?.registration ?? { kind: 'failed', reason: came('not-asked') },
        nameServers: seen?.nameServers ?? [],
        certificate,
        host,
      };
    }),
  );
  if (!main) throw new Error('an address has a zone');
  const { zone: _, ...rest } = main;
  return {
    ...rest,
    asked,
    further,
    zones: zones.map(openZone),
    authority: authority.map(openSighting),
    sightings: sightings.map(openSighting),
  };
}

const openZone = ({ zone, answered, sets, negativeTtlSeconds: negative }: ZoneSeen) => ({
  zone,
  answered,
  sets: sets.map((set) => ({ ...set, data: [...set.data] })),
  negativeTtlSeconds: negative,
});
const openSighting = (sighting: Sighting) => ({ ...sighting, data: [...sighting.data] });

type Note = (
  link: FactsAsked['link'],
  question: string,
  ofWhom: string,
  answer: Part,
  ms: number | null,
  ok: boolean,
) => void;

interface ZoneSeen {
  readonly zone: DomainName;
  readonly registration: LookupFacts['registration'];
  readonly nameServers: LookupFacts['nameServers'];
  readonly answered: boolean;
  readonly sets: readonly RecordSet[];
  readonly negativeTtlSeconds: number | null;
}

async function lookAtZone(
  world: WorldPorts,
  resolvers: readonly ResolverToAsk[],
  { zone, names }: ZoneNames,
  note: Note,
): Promise<ZoneSeen> {
  const { registration, delegated } = await askRegistry(world, zone, note);
  const servers = delegated.length > 0 ? delegated : await askNameServers(world, resolvers, zone, note);
  const seen = await Promise.all(servers.map((name) => askNameServer(world, resolvers, name, zone, note)));
  const first = seen.find(({ serial }) => serial !== undefined);
  const nameServers = seen.map(({ name, serial, reason }) => ({
    name,
    ...(serial === undefined ? {} : { serial }),
    reason,
  }));
  const base = { zone, registration, nameServers };
  if (!first?.soa || first.address === undefined)
    return { ...base, answered: false, sets: [], negativeTtlSeconds: null };
  const from = first.address;
  const questions = [
    ...names.flatMap((name) => ['A', 'AAAA', 'CNAME', 'TXT', 'MX'].map((type) => ({ name, type }))),
    ...KEPT_TYPES.map((type) => ({ name: zone, type })),
    { name: `_dmarc.${zone}`, type: 'TXT' },
    ...listCaaNames(names, zone).map((name) => ({ name, type: 'CAA' })),
  ].filter(
    (question, index, all) =>
      all.findIndex(({ name, type }) => name === question.name && type === question.type) === index,
  );
  const records = (
    await Promise.all(
      questions.map(async (question) => {
        const answer = await world.dns.authority(from, question);
        const records = answer.ok
          ? answer.reply.answers.filter((record) => record.name === question.name && record.type === question.type)
          : [];
        const quietly =
          records.length === 0 && answer.ok && !['A', 'AAAA', 'CNAME', 'MX', 'CAA'].includes(question.type);
        if (!quietly)
          note(
            'records',
            `${question.type} ${question.name}`,
            `${first.name} (${from})`,
            answer.ok
              ? records.map(({ data, ttlSeconds }) => `${data} (TTL ${ttlSeconds})`).join(', ') || came('none')
              : answer.reason,
            answer.ms,
            answer.ok,
          );
        return records;
      }),
    )
  ).flat();
  return {
    ...base,
    answered: true,
    sets: groupRecordSets(records),
    negativeTtlSeconds: reckonNegativeTtlSeconds(first.soa.ttlSeconds, first.soa.data),
  };
}

/** CAA is looked for at a name and at everything above it down to the zone's apex (RFC 8659 section 3). */
function listCaaNames(names: readonly DomainName[], zone: DomainName): DomainName[] {
  const out = new Set<DomainName>([zone]);
  for (const name of names)
    for (let at = name; at !== zone && at.includes('.'); at = at.slice(at.indexOf('.') + 1)) out.add(at);
  return [...out];
}

async function askRegistry(
  world: WorldPorts,
  zone: DomainName,
  note: Note,
): Promise<{ registration: LookupFacts['registration']; delegated: readonly string[] }> {
  if (!world.registrar) return { registration: { kind: 'failed', reason: came('no-registry') }, delegated: [] };
  const start = performance.now();
  try {
    const registration = await world.registrar.registration(zone);
    const words = registration.kind === 'free' ? came('not-registered') : describeHolder(registration);
    note('registration', `RDAP domain/${zone}`, 'the registry', words, Math.round(performance.now() - start), true);
    if (registration.kind === 'free') return { registration, delegated: [] };
    return {
      registration: {
        kind: 'held',
        ...(registration.expiresAt === null ? {} : { expiresAtMs: Date.parse(registration.expiresAt) }),
      },
      delegated: registration.nameServers,
    };
  } catch (error) {
    if (!(error instanceof DomainError)) throw error;
    const reason = describeReason(error);
    note('registration', `RDAP domain/${zone}`, 'the registry', reason, Math.round(performance.now() - start), false);
    return { registration: { kind: 'failed', reason }, delegated: [] };
  }
}

function describeHolder({ expiresAt, nameServers }: Extract<Registration, { kind: 'held' }>) {
  const isKnown =
    expiresAt === null ? (nameServers.length > 0 ? 'servers' : 'none') : nameServers.length > 0 ? 'both' : 'until';
  return came('held', { until: expiresAt ?? '', servers: nameServers.join(', '), isKnown });
}

function describeAnswer({ status, location, server }: Extract<Visit, { ok: true }>) {
  const more = server === undefined ? '' : `, ${server}`;
  return location === undefined ? came('status', { status, more }) : came('status-to', { status, location, more });
}

async function askAnyResolver(
  world: WorldPorts,
  resolvers: readonly ResolverToAsk[],
  name: DomainName,
  type: string,
): Promise<Asked> {
  let last: Asked = { ok: false, reason: came('no-resolver'), ms: 0 };
  for (const { endpoint } of resolvers) {
    last = await world.dns.resolver(endpoint, { name, type });
    if (last.ok) return last;
  }
  return last;
}

async function askNameServers(
  world: WorldPorts,
  resolvers: readonly ResolverToAsk[],
  zone: DomainName,
  note: Note,
): Promise<string[]> {
  const answer = await askAnyResolver(world, resolvers, zone, 'NS');
  const names = answer.ok
    ? answer.reply.answers.filter(({ type }) => type === 'NS').map(({ data }) => data.replace(/\.$/, ''))
    : [];
  note(
    'name-servers',
    `NS ${zone}`,
    'a resolver',
    answer.ok ? names.join(', ') || came('none') : answer.reason,
    answer.ms,
    names.length > 0,
  );
  return names;
}

/**
 * One name server's version of the zone. Its address comes from the first resolver; where nothing
 * answers for the zone there, that resolver may be wrong, so the others are asked and theirs are tried.
 */
async function askNameServer(
  world: WorldPorts,
  resolvers: readonly ResolverToAsk[],
  name: string,
  zone: DomainName,
  note: Note,
) {
  const [first, ...others] = resolvers;
  const tried = new Set<string>();
  let reason: Part = came('address-not-known');
  for (const asked of [first ? [first] : [], others]) {
    const addresses = await Promise.all(asked.map((resolver) => askAddress(world, resolver, name)));
    for (const address of addresses) {
      if (typeof address === 'object') {
        reason = address.reason;
        continue;
      }
      if (tried.has(address)) continue;
      tried.add(address);
      const answer = await world.dns.authority(address, { name: zone, type: 'SOA' });
      const soa = answer.ok ? answer.reply.answers.find(({ type }) => type === 'SOA') : undefined;
      reason = answer.ok ? came('without-zone') : answer.reason;
      note('name-servers', `SOA ${zone}`, `${name} (${address})`, soa?.data ?? reason, answer.ms, soa !== undefined);
      if (soa) return { name, address, serial: Number(soa.data.split(' ')[2]), soa, reason: '' };
    }
  }
  return { name, address: undefined, serial: undefined, soa: undefined, reason };
}

async function askAddress(
  world: WorldPorts,
  { endpoint }: ResolverToAsk,
  name: string,
): Promise<string | { reason: AnswerMessage }> {
  for (const type of ['A', 'AAAA']) {
    const answer = await world.dns.resolver(endpoint, { name, type });
    const found = answer.ok ? answer.reply.answers.find((record) => record.type === type) : undefined;
    if (found) return found.data;
    if (!answer.ok) return { reason: came('address-not-known-since', { why: answer.reason }) };
  }
  return { reason: came('name-without-address') };
}

async function askResolver(
  world: WorldPorts,
  resolver: ResolverToAsk,
  watched: readonly { name: string; type: string }[],
  noteOf: (name: DomainName) => Note,
): Promise<Sighting[]> {
  return Promise.all(
    watched.map(async ({ name, type }): Promise<Sighting> => {
      const note = noteOf(name);
      const answer = await world.dns.resolver(resolver.endpoint, { name, type });
      const base = { resolver: resolver.address, name, type, atMs: world.clock.nowMs() };
      if (!answer.ok) {
        note('records', `${type} ${name}`, `${resolver.name} (${resolver.address})`, answer.reason, answer.ms, false);
        return { ...base, kind: 'failed', data: [], ttlSeconds: 0 };
      }
      const records = answer.reply.answers.filter((record) => record.name === name && record.type === type);
      const others = [
        ...answer.reply.answers.filter((record) => record.name === name),
        ...answer.reply.authorities.filter((record) => record.type === 'SOA'),
      ];
      const ttlSeconds =
        records.length > 0
          ? Math.min(...records.map((record) => record.ttlSeconds))
          : Math.min(
              ...others.map((record) =>
                record.type === 'SOA' ? reckonNegativeTtlSeconds(record.ttlSeconds, record.data) : record.ttlSeconds,
              ),
              86_400,
            );
      const isTcp = answer.reply.over === 'tcp' ? 'yes' : 'no';
      note(
        'records',
        `${type} ${name}`,
        `${resolver.name} (${resolver.address})`,
        records.length > 0
          ? came('records-kept', { records: records.map(({ data }) => data).join(', '), seconds: ttlSeconds, isTcp })
          : came('none-kept', { seconds: ttlSeconds, isTcp }),
        answer.ms,
        true,
      );
      return { ...base, kind: records.length > 0 ? 'data' : 'none', data: records.map(({ data }) => data), ttlSeconds };
    }),
  );
}

async function lookAtCertificate(
  world: WorldPorts,
  name: DomainName,
  targets: Targets,
  note: Note,
): Promise<LookupFacts['certificate']> {
  const [address] = targets.ipv4;
  if (address === undefined) return { kind: 'failed', reason: came('host-without-address') };
  const answer = await world.web.handshake(address, name);
  note(
    'certificate',
    `TLS handshake for ${name}`,
    `${address}:443`,
    answer.ok
      ? came('certificate', {
          names: answer.certificate.names.join(', '),
          issuer: answer.certificate.issuer,
          until: new Date(answer.certificate.notAfterMs).toISOString(),
        })
      : answer.reason,
    answer.ms,
    answer.ok,
  );
  if (!answer.ok) return { kind: 'failed', reason: answer.reason };
  return {
    kind: 'served',
    seen: { ...answer.certificate, names: [...answer.certificate.names], chain: [...answer.certificate.chain] },
  };
}

async function lookAtHost(
  world: WorldPorts,
  name: DomainName,
  targets: Targets,
  note: Note,
): Promise<LookupFacts['host']> {
  const [address] = targets.ipv4;
  if (address === undefined) return { kind: 'failed', reason: came('host-without-address') };
  const plain = await world.web.get(address, name, '/');
  // Sent on to https by the host itself: the page is what counts.
  const secure = plain.ok && plain.location === `https://${name}/`;
  const answer = secure ? await world.web.get(address, name, '/', true) : plain;
  note(
    'host',
    `GET ${secure ? 'https' : 'http'}://${name}/`,
    `${address}:${secure ? 443 : 80}`,
    answer.ok ? describeAnswer(answer) : answer.reason,
    answer.ms,
    answer.ok,
  );
  return answer.ok
    ? {
        kind: 'answered',
        status: answer.status,
        ms: answer.ms,
        ...(answer.location === undefined ? {} : { location: answer.location }),
      }
    : { kind: 'failed', reason: answer.reason };
}
