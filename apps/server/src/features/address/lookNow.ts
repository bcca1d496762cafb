/** A look, kept, and what follows from it: when to look again, and whether a certificate is due. */
import { nextLookAfterMs } from '@fastigium/core/dns';
import { renewAtMs } from '@fastigium/core/reach';
import { DomainError } from '@fastigium/contracts/errors';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';
import type { LookFacts } from './facts.ts';
import { keepLook, latestLook } from './history.ts';
import { look } from './look.ts';
import { siteAddress, type SiteAddress } from './names.ts';
import { reckonRecords } from './reckoned.ts';
import { resolversOf, siteHost, type SiteHost } from './siteHost.ts';
import { addressView, certificateRow } from './view.ts';
import type { AddressStanding } from './standing.ts';

/** When all is right and nothing changed for a long time, once a day is enough. */
const QUIET_LOOK_MS = 86_400_000;

export async function lookNow(deps: Deps, site: string): Promise<void> {
  const address = await siteAddress(deps.db, site);
  if (!address) throw new DomainError('no-domain');
  await deps.world.clock.refresh().catch(() => {});
  const host = await siteHost(deps, deps.db, site);
  const facts = await look(deps.world, await resolversOf(deps, deps.db, site), address, host.targets);
  const atMs = deps.world.clock.nowMs();
  const before = await latestLook(deps.db, site);
  const reckoned = reckonRecords(facts, address, host.targets, deps.world.acme?.caaIdentity);
  const changed = !before || standing(before.facts) !== standing(facts);
  await deps.db.transaction(async (tx) => {
    await keepLook(tx, site, atMs, facts);
    const { changedAt } = await tx.one<{ changedAt: Date }>(
      `insert into address (site_id, changed_at) values ($1, $2)
       on conflict (site_id) do update set changed_at = case when $3 then $2 else coalesce(address.changed_at, $2) end returning changed_at as "changedAt"`,
      [site, new Date(atMs), changed],
    );
    const allRight =
      reckoned.answered &&
      reckoned.silent.length === 0 &&
      reckoned.changes.length === 0 &&
      facts.certificate.kind === 'served';
    const after = nextLookAfterMs(atMs - changedAt.getTime());
    await tx.run('update address set next_look_at = $2 where site_id = $1', [
      site,
      new Date(atMs + (allRight ? Math.min(QUIET_LOOK_MS, after * 4) : after)),
    ]);
    await tx.run('update address set standing = $2 where site_id = $1', [
      site,
      JSON.stringify(await standingOf(deps, tx, site)),
    ]);
    if (
      isCertificateDue(
        facts,
        address,
        host,
        reckoned.answered && reckoned.silent.length === 0 && reckoned.changes.length === 0,
        atMs,
      )
    )
      await orderIfFree(deps, tx, site, address, atMs);
    await announce(tx, { kind: 'address', site });
  });
}

/** The first link that is not right, or how long all of it holds. */
async function standingOf(deps: Deps, tx: Queries, site: string): Promise<AddressStanding> {
  const { chain, firstBroken } = await addressView(deps, site, tx);
  const link = chain.find((each) => each.link === firstBroken);
  return link
    ? { state: link.state, words: `${link.link.replace('-', ' ')}: ${link.words}` }
    : { state: 'right', words: 'all five links right' };
}

/** What is compared to see that something changed; times and measurements differ at every look. */
function standing(facts: LookFacts): string {
  const sets = facts.zones.map(({ zone, answered, sets: all }) => [
    zone,
    answered,
    all.map(({ name, type, data }) => `${name} ${type} ${[...data].sort().join()}`).sort(),
  ]);
  const resolvers = facts.sightings
    .map(({ resolver, name, type, kind, data }) => `${resolver} ${name} ${type} ${kind} ${[...data].sort().join()}`)
    .sort();
  return JSON.stringify([sets, resolvers, facts.certificate.kind, facts.registration.kind]);
}

/** None served yet, one for other names, or a third of its life left. */
function isCertificateDue(
  facts: LookFacts,
  address: SiteAddress,
  { port }: SiteHost,
  recordsRight: boolean,
  nowMs: number,
): boolean {
  if (!port.naming || !recordsRight) return false;
  if (facts.certificate.kind === 'failed') return true;
  const { names, notBeforeMs, notAfterMs, trusted } = facts.certificate.seen;
  return (
    !trusted || !address.names.every((name) => names.includes(name)) || renewAtMs(notBeforeMs, notAfterMs) <= nowMs
  );
}

async function orderIfFree(deps: Deps, tx: Queries, site: string, address: SiteAddress, nowMs: number): Promise<void> {
  if (!deps.world.acme) return;
  const row = await certificateRow(tx, site);
  if (row?.ordering === true || (row?.nextTryAt && row.nextTryAt.getTime() > nowMs)) return;
  await orderCertificate(tx, site, address);
}

/** As a job in the name of whoever connected the domain. */
export async function orderCertificate(tx: Queries, site: string, address: SiteAddress): Promise<string> {
  await tx.run(
    'insert into certificate (site_id, names) values ($1, $2) on conflict (site_id) do update set names = excluded.names',
    [site, address.names],
  );
  const { by } = await tx.one<{ by: string }>(
    `select connected_by as by from domain where site_id = $1 and role = 'own'`,
    [site],
  );
  return enqueue(tx, { kind: 'certificate', site, body: { names: address.names }, by });
}
