/** What was answered held against what is needed, over all zones of a site. */
import type { HostOffer } from '@fastigium/contracts/ports/host';
import {
  compareRecords,
  judgeMailOfZone,
  listRecordChanges,
  type DomainName,
  type MailMessage,
  type RecordChange,
  type RecordRow,
  type RecordSet,
  type WatchedSet,
} from '@fastigium/core/dns';
import type { LookupFacts } from './facts.ts';
import type { SiteAddress } from '../shared/siteAddress.ts';

export interface ZoneChange extends RecordChange {
  readonly zone: DomainName;
}

export interface Reckoned {
  readonly rows: readonly RecordRow[];
  readonly changes: readonly ZoneChange[];
  readonly sets: readonly RecordSet[];
  /** Whether every zone's name servers answered; of one whose did not nothing is known. */
  readonly answered: boolean;
}

interface ZoneToReckon {
  readonly zone: DomainName;
  readonly names: readonly DomainName[];
  readonly answered: boolean;
  readonly sets: readonly RecordSet[];
}

export function reckonZones(
  zones: readonly ZoneToReckon[],
  targets: HostOffer['targets'],
  issuer: string | undefined,
): Reckoned {
  const compared = zones.map(({ zone, names, answered, sets }) => ({
    zone,
    rows: answered
      ? compareRecords(sets, { zone, names, issuer, host: { ...targets, edge: targets.edge ?? undefined } })
      : [],
  }));
  return {
    rows: compared.flatMap(({ rows }) => rows),
    changes: compared.flatMap(({ zone, rows }) => listRecordChanges(rows).map((change) => ({ ...change, zone }))),
    sets: zones.flatMap(({ sets }) => sets),
    answered: zones.every(({ answered }) => answered),
  };
}

/** What is waited for at resolvers, also while no name server answers. */
export function listWatchedSets(
  address: Pick<SiteAddress, 'zones'>,
  facts: Pick<LookupFacts, 'zones'>,
  targets: HostOffer['targets'],
): WatchedSet[] {
  const zones = address.zones.map(({ zone, names }) => ({
    zone,
    names,
    answered: true,
    sets: facts.zones.find((each) => each.zone === zone)?.sets ?? [],
  }));
  return reckonZones(zones, targets, undefined).rows.flatMap(({ name, type, needed }) =>
    needed === undefined ? [] : [{ name, type, wanted: needed }],
  );
}

/** What happens to the mail of every zone; the main one's always said, the others' where it is in danger. */
export function judgeMail(
  zones: readonly DomainName[],
  { sets, changes }: Reckoned,
): { endangered: boolean; messages: MailMessage[] } {
  const [main, ...others] = zones.map((zone) =>
    judgeMailOfZone(
      zone,
      sets,
      changes.filter((change) => change.zone === zone),
    ),
  );
  const worse = others.filter(({ endangered }) => endangered);
  return {
    endangered: main?.endangered === true || worse.length > 0,
    messages: [main, ...worse].flatMap((verdict) => verdict?.message ?? []),
  };
}

export function reckonRecords(
  facts: Pick<LookupFacts, 'zones'>,
  address: Pick<SiteAddress, 'zones'>,
  targets: HostOffer['targets'],
  issuer: string | undefined,
): Reckoned {
  return reckonZones(
    address.zones.map(({ zone, names }) => {
      const seen = facts.zones.find((each) => each.zone === zone);
      return { zone, names, answered: seen?.answered === true, sets: seen?.sets ?? [] };
    }),
    targets,
    issuer,
  );
}
