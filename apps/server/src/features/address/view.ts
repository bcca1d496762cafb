/** The Address station's view: what was seen, held against what is needed, reckoned by the core. */
import type { AddressView, CertificateView, DomainStanding, SpreadView } from '@fastigium/contracts/api/address';
import { reckonSpread, resolved, stepOf, type DomainName, type Spread, type WatchedSet } from '@fastigium/core/dns';
import { certificate } from '@fastigium/contracts/messages/address';
import { formatReadableName } from '@fastigium/core/domain';
import { covers, countDaysLeft, findFirstBroken, reckonChain, renewAtMs } from '@fastigium/core/reach';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { findTemporaryName } from '../hosting/hosting.ts';
import type { DomainFacts, LookupFacts } from './facts.ts';
import { readLatestLookup, readLateSightings } from './history.ts';
import { readSiteAddress, type SiteAddress, type ZoneNames } from '../shared/siteAddress.ts';
import { judgeMail, reckonRecords, listWatchedSets } from './reckoned.ts';
import { readResolvers, readSiteHost, type SiteHost } from './siteHost.ts';
import type { KeptError } from '@fastigium/contracts/errors';

export async function readAddressView(deps: Deps, site: string): Promise<AddressView> {
  const queries = deps.db;
  const { clock } = deps.world;
  const nowMs = clock.nowMs();
  const row = await queries.one<{
    label: string;
    nextLookupAt: Date | null;
    zoneBrought: boolean;
    updateServer: string | null;
    updateKeyName: string | null;
  }>(
    `select s.temporary_label as label, a.next_lookup_at as "nextLookupAt", (a.zone_file is not null) as "zoneBrought", a.update_server as "updateServer", a.update_key_name as "updateKeyName"
       from site s left join address a on a.site_id = s.id where s.id = $1`,
    [site],
  );
  const host = await readSiteHost(deps, queries, site);
  const address = await readSiteAddress(queries, site);
  const base = {
    now: formatInstant(nowMs),
    simulated: clock.simulated,
    temporary: findTemporaryName(deps, row.label),
    hostWords: host.words,
    hostNaming: host.port.naming !== undefined,
    canRegister: deps.world.registrar !== undefined,
    nextLookupAt: row.nextLookupAt?.toISOString() ?? null,
  };
  const common = { ...base, lookedAt: null };
  if (!address)
    return {
      ...common,
      ...UNSEEN,
      domain: null,
      further: [],
      certificate: describeCertificate([], undefined, undefined, nowMs),
    };
  // Zones beside the main one are updated with the account's own keys, at the main one's server.
  const held = await Promise.all(
    address.zones.map(
      async ({ zone }) => (await deps.world.registrar?.holding(zone).catch(() => undefined)) !== undefined,
    ),
  );
  const domain = {
    name: address.own,
    unicode: address.unicode,
    zone: address.zones[0]?.zone ?? address.own,
    main: address.main,
    mainForm: address.mainForm,
    hasPair: address.hasPair,
    others: [...address.others],
    inAccount: held[0] === true,
    updatable: address.zones
      .map(({ zone }) => zone)
      .filter((_, index) =>
        index === 0 ? row.updateServer !== null : row.updateServer !== null && held[index] === true,
      ),
    updates:
      row.updateServer !== null && row.updateKeyName !== null
        ? { server: row.updateServer, keyName: row.updateKeyName }
        : null,
    forceHttps: address.forceHttps,
    hstsSeconds: address.hstsSeconds,
    zoneBrought: row.zoneBrought,
  };
  const seen = await readLatestLookup(queries, site);
  const [main, ...further] = await readStandings(deps, queries, { site, address, host, facts: seen?.facts, nowMs });
  if (!main) throw new Error('an address has a zone');
  return {
    ...common,
    ...main,
    domain,
    lookedAt: seen ? formatInstant(seen.atMs) : null,
    further: further.map((standing, index) => {
      const { zone = '', names = [] } = address.zones[index + 1] ?? {};
      return { ...standing, zone, unicode: formatReadableName(zone), names: [...names] };
    }),
  };
}

/** Before anything was asked about a domain. */
const UNSEEN = {
  chain: [],
  firstBroken: null,
  records: [],
  changes: [],
  mail: null,
  spread: null,
} as const satisfies Partial<DomainStanding>;

interface SeenSite {
  readonly site: string;
  readonly address: SiteAddress;
  readonly host: SiteHost;
  readonly facts: LookupFacts | undefined;
  readonly nowMs: number;
}

/** How each of the site's domains stands, the main one first; asks nobody outside. */
export async function readStandings(deps: Deps, queries: Queries, seen: SeenSite): Promise<DomainStanding[]> {
  const out: DomainStanding[] = [];
  // One after another: a transaction has one connection.
  for (const zone of seen.address.zones) out.push(await readStanding(deps, queries, seen, zone));
  return out;
}

/** What becomes of the other domains changes nothing about one. */
async function readStanding(
  deps: Deps,
  queries: Queries,
  { site, address, host, facts, nowMs }: SeenSite,
  zone: ZoneNames,
): Promise<DomainStanding> {
  const { acme } = deps.world;
  const certificate = await readCertificateRow(queries, site, zone.zone);
  const domainFacts = facts && findDomainFacts(facts, address, zone.zone);
  if (!facts || !domainFacts)
    return {
      ...UNSEEN,
      chain: [],
      records: [],
      changes: [],
      certificate: describeCertificate(zone.names, undefined, certificate, nowMs),
    };
  const alone = { zones: [zone] };
  const reckoned = reckonRecords(facts, alone, host.targets, acme?.caaIdentity);
  const spread = await reckonSpreadOf(deps, queries, site, listWatchedSets(alone, facts, host.targets));
  const links = reckonChain({
    registration:
      domainFacts.registration.kind === 'held'
        ? { kind: 'held', expiresAtMs: domainFacts.registration.expiresAtMs }
        : domainFacts.registration,
    nameServers: domainFacts.nameServers.map(({ name, serial, reason }) => ({ name, serial, reason })),
    rows: reckoned.answered ? reckoned.rows : undefined,
    spread,
    certificate: domainFacts.certificate,
    host: domainFacts.host,
    names: zone.names,
    sendsTo: isMain(address, zone.zone) ? undefined : address.main,
    certificatesByUs: host.port.naming !== undefined && acme !== undefined,
    nowMs,
  });
  return {
    chain: links.map((link) => ({
      ...link,
      asked: facts.asked
        .filter((asked) => asked.link === link.link && (asked.zone ?? address.zones[0]?.zone) === zone.zone)
        .map(({ question, ofWhom, answer, atMs, ms, ok }) => ({
          question,
          ofWhom,
          answer,
          at: formatInstant(atMs),
          ms,
          ok,
        })),
    })),
    firstBroken: findFirstBroken(links) ?? null,
    records: reckoned.rows.map((each) => ({
      ...each,
      answered: [...each.answered],
      needed: each.needed ? [...each.needed] : null,
      note: each.note ?? null,
      answeredTtlSeconds: each.answeredTtlSeconds ?? null,
    })),
    changes: reckoned.changes.map((change) => ({
      ...change,
      from: [...change.from],
      to: [...change.to],
      words: stepOf(change, change.zone),
    })),
    // Of a zone nobody answered for nothing is said, least of all that it takes no mail.
    mail: reckoned.answered ? judgeMail([zone.zone], reckoned) : null,
    spread: await spreadView(deps, queries, site, spread, facts, zone.zone),
    certificate: describeCertificate(zone.names, domainFacts, certificate, nowMs),
  };
}

const isMain = (address: SiteAddress, zone: DomainName): boolean => address.zones[0]?.zone === zone;

/** What a lookup found out about one domain; undefined for one that was added since. */
export function findDomainFacts(facts: LookupFacts, address: SiteAddress, zone: DomainName): DomainFacts | undefined {
  return isMain(address, zone) ? facts : facts.further.find((each) => each.zone === zone);
}

/** Only what the site needs is watched: nobody waits for a TXT record. */
async function reckonSpreadOf(
  deps: Deps,
  queries: Queries,
  site: string,
  watched: readonly WatchedSet[],
): Promise<Spread> {
  const { authority, sightings } = await readLateSightings(queries, site);
  return reckonSpread({
    watched,
    authority,
    sightings,
    resolvers: (await readResolvers(deps, queries, site)).map(({ address }) => address),
  });
}

async function spreadView(
  deps: Deps,
  queries: Queries,
  site: string,
  spread: Spread,
  facts: LookupFacts,
  zone: DomainName,
): Promise<SpreadView> {
  const resolvers = await readResolvers(deps, queries, site);
  const present = facts.authority
    .filter(({ kind, name }) => kind === 'data' && (name === zone || name.endsWith(`.${zone}`)))
    .map(({ ttlSeconds }) => ttlSeconds);
  const seen = facts.zones.find((each) => each.zone === zone);
  return {
    authorityAnswers: seen?.answered === true,
    authorityNewSince: spread.authorityNewSinceMs === undefined ? null : formatInstant(spread.authorityNewSinceMs),
    everyoneBy: spread.everyoneByMs === undefined ? null : formatInstant(spread.everyoneByMs),
    presentTtlSeconds: present.length > 0 ? Math.max(...present) : null,
    negativeTtlSeconds: seen?.negativeTtlSeconds ?? null,
    resolvers: spread.resolvers.map(({ resolver, state, oldUntilMs, sets }) => {
      const known = resolvers.find(({ address }) => address === resolver);
      const oldSets = sets.filter((set) => set.state !== 'new');
      return {
        resolver: known?.name ?? resolver,
        address: resolver,
        state,
        oldUntil: oldUntilMs === undefined ? null : formatInstant(oldUntilMs),
        added: known?.added ?? false,
        answers: oldSets.map(({ name, type, state: how, data }) =>
          how === 'silent'
            ? resolved('silent', { type, name })
            : data.length === 0
              ? resolved('none', { type, name })
              : resolved('data', { type, name, data }),
        ),
      };
    }),
  };
}

export interface CertificateRow extends Record<string, unknown> {
  readonly names: string[];
  readonly notBefore: Date | null;
  readonly notAfter: Date | null;
  readonly error: KeptError | null;
  readonly attempts: number;
  readonly nextTryAt: Date | null;
  readonly ordering: boolean;
}

export function readCertificateRow(
  queries: Queries,
  site: string,
  zone: DomainName,
): Promise<CertificateRow | undefined> {
  return queries.maybeOne<CertificateRow>(
    `select names, not_before as "notBefore", not_after as "notAfter", error, attempts, next_try_at as "nextTryAt",
            exists (select 1 from job j where j.site_id = c.site_id and j.kind = 'certificate' and j.body ->> 'zone' = c.zone and j.state in ('waiting', 'running')) as ordering
       from certificate c where site_id = $1 and zone = $2`,
    [site, zone],
  );
}

function describeCertificate(
  wanted: readonly DomainName[],
  facts: DomainFacts | undefined,
  row: CertificateRow | undefined,
  nowMs: number,
): CertificateView {
  const common = { nextTry: row?.nextTryAt?.toISOString() ?? null, error: row?.error ?? null };
  const seen = facts?.certificate.kind === 'served' ? facts.certificate.seen : undefined;
  if (!seen) {
    const state = row?.ordering === true ? 'ordering' : row ? 'waiting' : 'none';
    return {
      ...common,
      state,
      words: certificate(state === 'ordering' ? 'being-ordered' : row?.error ? 'order-failed' : 'none-served'),
      names: row?.names ?? [],
      issuer: null,
      chain: [],
      notBefore: null,
      notAfter: null,
      daysLeft: null,
      renewAt: null,
    };
  }
  const left = countDaysLeft(seen.notAfterMs, nowMs);
  const isOwn = wanted.every((name) => seen.names.some((each) => covers(each, name)));
  const isGood = seen.trusted && isOwn;
  const state = row?.ordering === true ? 'ordering' : left <= 0 ? 'expired' : isGood ? 'served' : 'wrong';
  return {
    ...common,
    state,
    words: certificate(
      state === 'ordering'
        ? 'new-being-ordered'
        : state === 'expired'
          ? 'ran-out'
          : state === 'wrong'
            ? isOwn
              ? 'not-trusted'
              : 'other-names'
            : 'served',
    ),
    names: seen.names,
    issuer: seen.issuer,
    chain: seen.chain,
    notBefore: formatInstant(seen.notBeforeMs),
    notAfter: formatInstant(seen.notAfterMs),
    daysLeft: left,
    renewAt: formatInstant(renewAtMs(seen.notBeforeMs, seen.notAfterMs)),
  };
}

export const formatInstant = (ms: number): string => new Date(ms).toISOString();
