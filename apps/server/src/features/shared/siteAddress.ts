/** Which names a site has, and how they hang together. */
import type { SiteNames } from '@fastigium/contracts/ports/host';
import { formatReadableName } from '@fastigium/core/domain';
import type { DomainName } from '@fastigium/core/dns';
import type { Queries } from '../../db/database.ts';

export interface ZoneNames {
  readonly zone: DomainName;
  readonly names: readonly DomainName[];
}

export interface SiteAddress {
  readonly own: DomainName;
  readonly unicode: string;
  /** Apex and www belong together; a name below the apex stands alone. */
  readonly hasPair: boolean;
  readonly mainForm: 'www' | 'apex';
  readonly main: DomainName;
  readonly others: readonly { readonly name: DomainName; readonly status: 301 | 308; readonly further: boolean }[];
  /** By zone, the main one's first. */
  readonly zones: readonly ZoneNames[];
  /** Every name, the main one first. */
  readonly names: readonly DomainName[];
  readonly forceHttps: boolean;
  readonly hstsSeconds: number | null;
}

/** Undefined while the site has no domain of its own. */
export async function readSiteAddress(queries: Queries, site: string): Promise<SiteAddress | undefined> {
  const domains = await queries.many<{ name: string; zone: string; role: 'own' | 'further' }>(
    'select name, zone, role from domain where site_id = $1 order by role desc, connected_at',
    [site],
  );
  const ownDomain = domains.find(({ role }) => role === 'own');
  if (ownDomain === undefined) return undefined;
  const row = await queries.maybeOne<{ mainForm: 'www' | 'apex'; forceHttps: boolean; hstsSeconds: number | null }>(
    'select main_form as "mainForm", force_https as "forceHttps", hsts_seconds as "hstsSeconds" from address where site_id = $1',
    [site],
  );
  return deriveSiteAddress(
    ownDomain,
    domains.filter(({ role }) => role === 'further'),
    row ?? { mainForm: 'www', forceHttps: false, hstsSeconds: null },
  );
}

interface ConnectedName {
  readonly name: DomainName;
  readonly zone: DomainName;
}

export function deriveSiteAddress(
  ownName: ConnectedName,
  further: readonly ConnectedName[],
  settings: { mainForm: 'www' | 'apex'; forceHttps: boolean; hstsSeconds: number | null },
): SiteAddress {
  const pair = pairOf(ownName);
  const main = (settings.mainForm === 'www' ? pair[1] : pair[0]) ?? ownName.name;
  const others = [
    ...pair.filter((name) => name !== main).map((name) => ({ name, status: 308 as const, further: false })),
    ...further.flatMap(pairOf).map((name) => ({ name, status: 301 as const, further: true })),
  ];
  const zones = new Map<DomainName, DomainName[]>([[ownName.zone, [main, ...pair.filter((name) => name !== main)]]]);
  for (const each of further) zones.set(each.zone, [...(zones.get(each.zone) ?? []), ...pairOf(each)]);
  return {
    own: ownName.name,
    unicode: formatReadableName(ownName.name),
    hasPair: pair.length === 2,
    ...settings,
    main,
    others,
    names: [main, ...others.map(({ name }) => name)],
    zones: [...zones].map(([zone, names]) => ({ zone, names })),
  };
}

/** A registrable name is reached with and without www; one below it is reached as it is. */
function pairOf({ name, zone }: ConnectedName): DomainName[] {
  return zone === name ? [name, `www.${name}`] : [name];
}

/** As the host has to know them. */
export function listHostNames(address: SiteAddress | undefined): SiteNames {
  if (!address) return { main: null, others: [], forceHttps: false, hstsSeconds: null };
  return {
    main: address.main,
    others: address.others.map(({ name, status }) => ({ name, status })),
    forceHttps: address.forceHttps,
    hstsSeconds: address.hstsSeconds,
  };
}
