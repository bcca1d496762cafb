/** What was answered held against what is needed, over all zones of a site. */
import type { HostOffer } from '@fastigium/contracts/ports/host';
import { compareRecords, recordChanges, type DomainName, type RecordChange, type RecordRow, type RecordSet } from '@fastigium/core/dns';
import type { LookFacts } from './facts.ts';
import type { SiteAddress } from './names.ts';

export interface Reckoned {
  readonly rows: readonly RecordRow[];
  readonly changes: readonly RecordChange[];
  readonly sets: readonly RecordSet[];
  readonly answered: boolean;
}

interface ZoneToReckon {
  readonly zone: DomainName;
  readonly names: readonly DomainName[];
  readonly answered: boolean;
  readonly sets: readonly RecordSet[];
}

export function reckonZones(zones: readonly ZoneToReckon[], targets: HostOffer['targets'], issuer: string | undefined): Reckoned {
  const rows = zones.flatMap(({ zone, names, answered, sets }) => (answered ? compareRecords(sets, { zone, names, issuer, host: { ...targets, edge: targets.edge ?? undefined } }) : []));
  return { rows, changes: recordChanges(rows), sets: zones.flatMap(({ sets }) => sets), answered: zones.every(({ answered }) => answered) };
}

export function reckonRecords(facts: Pick<LookFacts, 'zones'>, address: Pick<SiteAddress, 'zones'>, targets: HostOffer['targets'], issuer: string | undefined): Reckoned {
  return reckonZones(address.zones.map(({ zone, names }) => {
    const seen = facts.zones.find((each) => each.zone === zone);
    return { zone, names, answered: seen?.answered === true, sets: seen?.sets ?? [] };
  }), targets, issuer);
}
