/** A lookup, kept, and what follows from it: when to look again, and whether a certificate is due. */
import type { DomainStanding } from '@fastigium/contracts/api/address';
import { reckonNextLookupMs } from '@fastigium/core/dns';
import { formatReadableName } from '@fastigium/core/domain';
import { covers, LINK_NAMES, renewAtMs, standing } from '@fastigium/core/reach';
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';
import type { DomainFacts, LookupFacts } from './facts.ts';
import { keepLookup, readLatestLookup } from './history.ts';
import { lookUp } from './lookup.ts';
import { readSiteAddress, type SiteAddress, type ZoneNames } from '../shared/siteAddress.ts';
import { reckonRecords } from './reckoned.ts';
import { readResolvers, readSiteHost } from './siteHost.ts';
import { readCertificateRow, findDomainFacts, readStandings } from './view.ts';
import type { AddressStanding } from './standing.ts';

/** When all is right and nothing changed for a long time, once a day is enough. */
const QUIET_LOOKUP_MS = 86_400_000;

export async function lookUpNow(deps: Deps, site: string): Promise<void> {
  const address = await readSiteAddress(deps.db, site);
  if (!address) throw new DomainError('no-domain');
  await deps.world.clock.refresh().catch(() => {});
  const host = await readSiteHost(deps, deps.db, site);
  const facts = await lookUp(deps.world, await readResolvers(deps, deps.db, site), address, host.targets);
  const atMs = deps.world.clock.nowMs();
  const before = await readLatestLookup(deps.db, site);
  const domains = address.zones.map((zone) => {
    const { answered, changes } = reckonRecords(facts, { zones: [zone] }, host.targets, deps.world.acme?.caaIdentity);
    return {
      zone,
      recordsRight: answered && changes.length === 0,
      certificate: findDomainFacts(facts, address, zone.zone)?.certificate,
    };
  });
  const changed = !before || writeComparable(before.facts) !== writeComparable(facts);
  await deps.db.transaction(async (tx) => {
    await keepLookup(tx, site, atMs, facts);
    const { changedAt } = await tx.one<{ changedAt: Date }>(
      `insert into address (site_id, changed_at) values ($1, $2)
       on conflict (site_id) do update set changed_at = case when $3 then $2 else coalesce(address.changed_at, $2) end returning changed_at as "changedAt"`,
      [site, new Date(atMs), changed],
    );
    const allRight = domains.every(({ recordsRight, certificate }) => recordsRight && certificate?.kind === 'served');
    const after = reckonNextLookupMs(atMs - changedAt.getTime());
    await tx.run('update address set next_lookup_at = $2 where site_id = $1', [
      site,
      new Date(atMs + (allRight ? Math.min(QUIET_LOOKUP_MS, after * 4) : after)),
    ]);
    await tx.run('update address set standing = $2 where site_id = $1', [
      site,
      JSON.stringify(findStanding(address, await readStandings(deps, tx, { site, address, host, facts, nowMs: atMs }))),
    ]);
    for (const { zone, recordsRight, certificate } of domains) {
      if (recordsRight && host.port.naming && certificate && isCertificateDue(certificate, zone, atMs))
        await orderIfFree(deps, tx, site, zone, atMs);
    }
    await announce(tx, { kind: 'address', site });
  });
}

/** The main domain's first link that is not right; else that of a domain that redirects to it. */
function findStanding(address: SiteAddress, standings: readonly DomainStanding[]): AddressStanding {
  for (const [index, { chain, firstBroken }] of standings.entries()) {
    const link = chain.find((each) => each.link === firstBroken);
    if (!link) continue;
    const words = standing('at-link', { link: LINK_NAMES[link.link], words: link.words });
    if (index === 0) return { state: link.state, words };
    // The site itself is reached all the same.
    return {
      state: 'moving',
      words: standing('of-domain', { domain: formatReadableName(address.zones[index]?.zone ?? ''), standing: words }),
    };
  }
  return { state: 'right', words: standing('all-right') };
}

/** What is compared to see that something changed; times and measurements differ at every lookup. */
function writeComparable(facts: LookupFacts): string {
  const sets = facts.zones.map(({ zone, answered, sets: all }) => [
    zone,
    answered,
    all.map(({ name, type, data }) => `${name} ${type} ${[...data].sort().join()}`).sort(),
  ]);
  const resolvers = facts.sightings
    .map(({ resolver, name, type, kind, data }) => `${resolver} ${name} ${type} ${kind} ${[...data].sort().join()}`)
    .sort();
  const domains = [facts, ...facts.further].map(({ certificate, registration }) => [
    certificate.kind,
    registration.kind,
  ]);
  return JSON.stringify([sets, resolvers, domains]);
}

/** None served yet, one for other names, or a third of its life left. */
function isCertificateDue(certificate: DomainFacts['certificate'], { names }: ZoneNames, nowMs: number): boolean {
  if (certificate.kind === 'failed') return true;
  const { names: covered, notBeforeMs, notAfterMs, trusted } = certificate.seen;
  return (
    !trusted ||
    !names.every((name) => covered.some((each) => covers(each, name))) ||
    renewAtMs(notBeforeMs, notAfterMs) <= nowMs
  );
}

async function orderIfFree(deps: Deps, tx: Queries, site: string, zone: ZoneNames, nowMs: number): Promise<void> {
  if (!deps.world.acme) return;
  const row = await readCertificateRow(tx, site, zone.zone);
  if (row?.ordering === true || (row?.nextTryAt && row.nextTryAt.getTime() > nowMs)) return;
  await orderCertificate(tx, site, zone);
}

/** For one domain of the site, as a job in the name of whoever connected the main one. */
export async function orderCertificate(tx: Queries, site: string, { zone, names }: ZoneNames): Promise<string> {
  await tx.run(
    'insert into certificate (site_id, zone, names) values ($1, $2, $3) on conflict (site_id, zone) do update set names = excluded.names',
    [site, zone, names],
  );
  const { by } = await tx.one<{ by: string }>(
    `select connected_by as by from domain where site_id = $1 and role = 'own'`,
    [site],
  );
  return enqueue(tx, { kind: 'certificate', site, body: { zone }, by });
}
