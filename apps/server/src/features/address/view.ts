/** The Address station's view: what was seen, held against what is needed, reckoned by the core. */
import type { AddressView, CertificateView, SpreadView } from '@fastigium/contracts/api/address';
import { changeWords, reckonSpread, type Spread, type WatchedSet } from '@fastigium/core/dns';
import { daysLeft, firstBroken, reckonChain, renewAtMs } from '@fastigium/core/reach';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import type { LookFacts } from './facts.ts';
import { latestLook, sightingsLately } from './history.ts';
import { siteAddress } from './names.ts';
import { mailOf, reckonRecords, watchedSets } from './reckoned.ts';
import { resolversOf, siteHost } from './siteHost.ts';

export async function addressView(deps: Deps, site: string, queries: Queries = deps.db): Promise<AddressView> {
  const { clock, acme } = deps.world;
  const nowMs = clock.nowMs();
  const row = await queries.one<{
    label: string;
    nextLookAt: Date | null;
    zoneBrought: boolean;
    updateServer: string | null;
    updateKeyName: string | null;
  }>(
    `select s.temporary_label as label, a.next_look_at as "nextLookAt", (a.zone_file is not null) as "zoneBrought", a.update_server as "updateServer", a.update_key_name as "updateKeyName"
       from site s left join address a on a.site_id = s.id where s.id = $1`,
    [site],
  );
  const host = await siteHost(deps, queries, site);
  const address = await siteAddress(queries, site);
  const base = {
    now: iso(nowMs),
    simulated: clock.simulated,
    temporary: { label: row.label, url: deps.hosts.standIn.urlOf(row.label) },
    hostWords: host.words,
    hostNaming: host.port.naming !== undefined,
    nextLookAt: row.nextLookAt?.toISOString() ?? null,
  };
  const certificate = await certificateRow(queries, site);
  const nothing = {
    domain: null,
    chain: [],
    firstBroken: null,
    lookedAt: null,
    records: [],
    silentZones: [],
    changes: [],
    mail: null,
    spread: null,
  };
  if (!address) return { ...base, ...nothing, certificate: certificateView(undefined, certificate, nowMs) };
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
  const seen = await latestLook(queries, site);
  if (!seen) return { ...base, ...nothing, domain, certificate: certificateView(undefined, certificate, nowMs) };
  const { facts } = seen;
  const reckoned = reckonRecords(facts, address, host.targets, acme?.caaIdentity);
  const spread = await reckonSpreadOf(deps, queries, site, watchedSets(address, facts, host.targets));
  const links = reckonChain({
    registration:
      facts.registration.kind === 'held'
        ? { kind: 'held', expiresAtMs: facts.registration.expiresAtMs }
        : facts.registration,
    nameServers: facts.nameServers.map(({ name, serial, reason }) => ({ name, serial, reason })),
    rows: reckoned.answered ? reckoned.rows : undefined,
    spread,
    certificate: facts.certificate,
    host: facts.host,
    names: address.names,
    certificatesByUs: host.port.naming !== undefined && acme !== undefined,
    nowMs,
  });
  const zone = domain.zone;
  return {
    ...base,
    domain,
    lookedAt: iso(seen.atMs),
    chain: links.map((link) => ({
      ...link,
      asked: facts.asked
        .filter((asked) => asked.link === link.link)
        .map(({ question, ofWhom, answer, atMs, ms, ok }) => ({ question, ofWhom, answer, at: iso(atMs), ms, ok })),
    })),
    firstBroken: firstBroken(links) ?? null,
    records: reckoned.rows.map((each) => ({
      ...each,
      answered: [...each.answered],
      needed: each.needed ? [...each.needed] : null,
      answeredTtlSeconds: each.answeredTtlSeconds ?? null,
    })),
    changes: reckoned.changes.map((change) => ({
      ...change,
      from: [...change.from],
      to: [...change.to],
      words: `${changeWords(change, change.zone)}${change.zone === zone ? '' : ` (${change.zone})`}`,
    })),
    // Of a zone nobody answered for nothing is said, least of all that it takes no mail.
    silentZones: [...reckoned.silent],
    mail: !reckoned.answered
      ? null
      : mailOf(
          address.zones.map((each) => each.zone).filter((each) => !reckoned.silent.includes(each)),
          reckoned,
        ),
    spread: await spreadView(deps, queries, site, spread, facts),
    certificate: certificateView(facts, certificate, nowMs),
  };
}

/** Only what the site needs is watched: nobody waits for a TXT record. */
async function reckonSpreadOf(
  deps: Deps,
  queries: Queries,
  site: string,
  watched: readonly WatchedSet[],
): Promise<Spread> {
  const { authority, sightings } = await sightingsLately(queries, site);
  return reckonSpread({
    watched,
    authority,
    sightings,
    resolvers: (await resolversOf(deps, queries, site)).map(({ address }) => address),
  });
}

async function spreadView(
  deps: Deps,
  queries: Queries,
  site: string,
  spread: Spread,
  facts: LookFacts,
): Promise<SpreadView> {
  const resolvers = await resolversOf(deps, queries, site);
  const present = facts.authority.filter(({ kind }) => kind === 'data').map(({ ttlSeconds }) => ttlSeconds);
  return {
    authorityAnswers: facts.zones.every(({ answered }) => answered),
    authorityNewSince: spread.authorityNewSinceMs === undefined ? null : iso(spread.authorityNewSinceMs),
    everyoneBy: spread.everyoneByMs === undefined ? null : iso(spread.everyoneByMs),
    presentTtlSeconds: present.length > 0 ? Math.max(...present) : null,
    negativeTtlSeconds: facts.zones[0]?.negativeTtlSeconds ?? null,
    resolvers: spread.resolvers.map(({ resolver, state, oldUntilMs, sets }) => {
      const known = resolvers.find(({ address }) => address === resolver);
      const oldSets = sets.filter((set) => set.state !== 'new');
      return {
        resolver: known?.name ?? resolver,
        address: resolver,
        state,
        oldUntil: oldUntilMs === undefined ? null : iso(oldUntilMs),
        added: known?.added ?? false,
        words: oldSets
          .map(
            ({ name, type, state: how, data }) =>
              `${type} ${name}: ${how === 'silent' ? 'no answer' : data.join(', ') || 'none'}`,
          )
          .join('; '),
      };
    }),
  };
}

export interface CertificateRow extends Record<string, unknown> {
  readonly names: string[];
  readonly notBefore: Date | null;
  readonly notAfter: Date | null;
  readonly error: { readonly message: string } | null;
  readonly attempts: number;
  readonly nextTryAt: Date | null;
  readonly ordering: boolean;
}

export function certificateRow(queries: Queries, site: string): Promise<CertificateRow | undefined> {
  return queries.maybeOne<CertificateRow>(
    `select names, not_before as "notBefore", not_after as "notAfter", error, attempts, next_try_at as "nextTryAt",
            exists (select 1 from job j where j.site_id = c.site_id and j.kind = 'certificate' and j.state in ('waiting', 'running')) as ordering
       from certificate c where site_id = $1`,
    [site],
  );
}

function certificateView(
  facts: LookFacts | undefined,
  row: CertificateRow | undefined,
  nowMs: number,
): CertificateView {
  const common = { nextTry: row?.nextTryAt?.toISOString() ?? null, error: row?.error?.message ?? null };
  const seen = facts?.certificate.kind === 'served' ? facts.certificate.seen : undefined;
  if (!seen) {
    const state = row?.ordering === true ? 'ordering' : row ? 'waiting' : 'none';
    return {
      ...common,
      state,
      words:
        state === 'ordering'
          ? 'being ordered'
          : row?.error
            ? 'ordering failed; tried again by itself'
            : 'none served yet',
      names: row?.names ?? [],
      issuer: null,
      chain: [],
      notBefore: null,
      notAfter: null,
      daysLeft: null,
      renewAt: null,
    };
  }
  const left = daysLeft(seen.notAfterMs, nowMs);
  const state = row?.ordering === true ? 'ordering' : left <= 0 ? 'expired' : seen.trusted ? 'served' : 'wrong';
  return {
    ...common,
    state,
    words:
      state === 'ordering'
        ? 'a new one is being ordered'
        : state === 'expired'
          ? 'it has run out'
          : state === 'wrong'
            ? 'served, but not trusted'
            : 'served and trusted',
    names: seen.names,
    issuer: seen.issuer,
    chain: seen.chain,
    notBefore: iso(seen.notBeforeMs),
    notAfter: iso(seen.notAfterMs),
    daysLeft: left,
    renewAt: iso(renewAtMs(seen.notBeforeMs, seen.notAfterMs)),
  };
}

export const iso = (ms: number): string => new Date(ms).toISOString();
