/** Zone files in and out, and changes sent to a name server. Nothing that is not the site's is ever dropped. */
import type { RecordChangeView } from '@fastigium/contracts/api/address';
import { DomainError } from '@fastigium/contracts/errors';
import {
  applyChanges,
  readZone,
  groupRecordSets,
  writeZone,
  type RecordSet,
  type ResourceRecord,
  zoneFault,
} from '@fastigium/core/dns';
import type { TsigAlgorithm, TsigKey, UpdateStep } from '@fastigium/wire';
import { readEndpoint, type Endpoint } from '../../adapters/world/routes.ts';
import type { Deps } from '../../deps.ts';
import { readLatestLookup } from './history.ts';
import { lookUpNow } from './lookUpNow.ts';
import { readSiteAddress, type SiteAddress } from '../shared/siteAddress.ts';
import { judgeMail, reckonRecords, reckonZones } from './reckoned.ts';
import { readSiteHost } from './siteHost.ts';

interface Base {
  readonly records: readonly ResourceRecord[];
  /** Where it is from, in words. */
  readonly source: string;
}

async function requireZone(deps: Deps, site: string): Promise<SiteAddress & { readonly zone: string }> {
  const address = await readSiteAddress(deps.db, site);
  if (!address) throw new DomainError('no-domain');
  return { ...address, zone: address.zones[0]?.zone ?? address.own };
}

/** The fullest picture of the zone there is: the registrar's, else a file somebody brought, else what was answered. */
async function readBaseZone(deps: Deps, site: string, zone: string): Promise<Base> {
  if (deps.world.registrar && (await deps.world.registrar.holding(zone))) {
    const read = readZone(await deps.world.registrar.zone(zone), zone);
    if (read.ok) return { records: read.records, source: 'the registrar’s zone, whole' };
  }
  const { zoneFile } = await deps.db.one<{ zoneFile: string | null }>(
    'select zone_file as "zoneFile" from address where site_id = $1',
    [site],
  );
  const brought = zoneFile === null ? undefined : readZone(zoneFile, zone);
  if (brought?.ok === true) return { records: brought.records, source: 'the zone file that was brought in' };
  const seen = await readLatestLookup(deps.db, site);
  if (!seen) throw new DomainError('no-lookup-yet');
  const answer = seen.facts.zones.find((each) => each.zone === zone);
  // A file without what stands there now would end mail and everything else for whoever uploads it.
  if (answer?.answered !== true) throw new DomainError('zone-not-known', { zone });
  const { sets } = answer;
  return { records: listRecords(sets), source: 'what the name servers answered; names nobody asked for are not in it' };
}

const listRecords = (sets: readonly RecordSet[]): ResourceRecord[] =>
  sets.flatMap(({ name, type, ttlSeconds, data }) => data.map((each) => ({ name, type, ttlSeconds, data: each })));

export async function exportZone(
  deps: Deps,
  site: string,
): Promise<{ zone: string; text: string; now: string; source: string }> {
  const address = await requireZone(deps, site);
  const { records, source } = await readBaseZone(deps, site, address.zone);
  const host = await readSiteHost(deps, deps.db, site);
  const sets = groupRecordSets(records);
  const { changes } = reckonZones(
    [{ zone: address.zone, names: address.zones[0]?.names ?? [], answered: true, sets }],
    host.targets,
    deps.world.acme?.caaIdentity,
  );
  return {
    zone: address.zone,
    text: writeZone(address.zone, listRecords(applyChanges(sets, changes))),
    now: writeZone(address.zone, records),
    source,
  };
}

export async function bringZone(deps: Deps, site: string, text: string): Promise<{ records: number; kept: number }> {
  const address = await requireZone(deps, site);
  const read = readZone(text, address.zone);
  if (!read.ok)
    throw new DomainError('zone-unreadable', {
      line: read.problems[0]?.line ?? 0,
      fault: read.problems[0]?.reason ?? zoneFault('no-record'),
      more: read.problems.length - 1,
    });
  await deps.db.run('update address set zone_file = $2 where site_id = $1', [site, text]);
  const needed = new Set(address.names);
  return {
    records: read.records.length,
    kept: read.records.filter(({ name, type }) => !(needed.has(name) && ['A', 'AAAA', 'CNAME'].includes(type))).length,
  };
}

const updatePurpose = (site: string): string => `dns update ${site}`;

export async function keepUpdateKey(
  deps: Deps,
  site: string,
  key: { server: string; keyName: string; algorithm: string; secret: string },
): Promise<void> {
  await requireZone(deps, site);
  const secret = Buffer.from(key.secret, 'base64');
  const server = readEndpoint(key.server);
  if (
    secret.length === 0 ||
    secret.toString('base64').replace(/=+$/, '') !== key.secret.replace(/=+$/, '') ||
    !Number.isInteger(server.port) ||
    server.port > 65_535 ||
    server.address === ''
  )
    throw new DomainError('update-key-unreadable');
  await deps.db.run(
    'update address set update_server = $2, update_key_name = $3, update_algorithm = $4, update_secret = $5 where site_id = $1',
    [
      site,
      key.server,
      key.keyName.toLowerCase().replace(/\.$/, ''),
      key.algorithm,
      deps.seal.seal(updatePurpose(site), key.secret),
    ],
  );
}

/** Sends what was shown and agreed to, if it is still what is needed; each zone gets an update of its own. */
export async function sendUpdate(
  deps: Deps,
  site: string,
  agreed: readonly Omit<RecordChangeView, 'words'>[],
): Promise<void> {
  const address = await requireZone(deps, site);
  const keys = await Promise.all(
    [...new Set(agreed.map(({ zone }) => zone))].map(async (zone) => ({
      zone,
      ...(await updateKeyOf(deps, site, zone, address.zone)),
    })),
  );
  await lookUpNow(deps, site);
  const seen = await readLatestLookup(deps.db, site);
  if (!seen) throw new DomainError('no-lookup-yet');
  const host = await readSiteHost(deps, deps.db, site);
  const reckoned = reckonRecords(seen.facts, address, host.targets, deps.world.acme?.caaIdentity);
  const key = (change: Omit<RecordChangeView, 'words'>) =>
    JSON.stringify([
      change.zone,
      change.kind,
      change.name,
      change.type,
      [...change.from].sort(),
      [...change.to].sort(),
    ]);
  const now = new Set(reckoned.changes.map((change) => key({ ...change, from: [...change.from], to: [...change.to] })));
  if (agreed.some((change) => !now.has(key(change)))) throw new DomainError('update-outdated');
  if (
    judgeMail(
      keys.map(({ zone }) => zone),
      reckoned,
    ).endangered
  )
    throw new DomainError('update-ends-mail', { zone: address.zone });
  for (const { zone, server, tsig } of keys) {
    const steps = agreed
      .filter((change) => change.zone === zone)
      .flatMap((change): UpdateStep[] => [
        { kind: 'delete-set', name: change.name, type: change.type },
        ...change.to.map((data): UpdateStep => ({
          kind: 'add',
          record: { name: change.name, type: change.type, ttlSeconds: change.ttlSeconds, data },
        })),
      ]);
    await deps.world.dns.update(server, zone, steps, tsig);
  }
  await lookUpNow(deps, site);
}

/** The key that is kept for the main zone; for others the one that comes with the registrar's account. */
async function updateKeyOf(
  deps: Deps,
  site: string,
  zone: string,
  mainZone: string,
): Promise<{ server: Endpoint; tsig: TsigKey }> {
  const row = await deps.db.one<{
    server: string | null;
    keyName: string | null;
    algorithm: string | null;
    secret: Buffer | null;
  }>(
    'select update_server as server, update_key_name as "keyName", update_algorithm as algorithm, update_secret as secret from address where site_id = $1',
    [site],
  );
  if (row.server === null || row.keyName === null || row.secret === null) throw new DomainError('update-not-set-up');
  const server = readEndpoint(row.server);
  if (zone === mainZone)
    return {
      server,
      tsig: {
        name: row.keyName,
        algorithm: (row.algorithm ?? 'hmac-sha256') as TsigAlgorithm,
        secret: Buffer.from(deps.seal.open(updatePurpose(site), row.secret), 'base64'),
      },
    };
  const key = (await deps.world.registrar?.holding(zone))?.updateKey;
  if (!key) throw new DomainError('update-not-set-up');
  return { server, tsig: { name: key.name, algorithm: 'hmac-sha256', secret: Buffer.from(key.secret, 'base64') } };
}
