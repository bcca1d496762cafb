/** The host of each site, by the account somebody connected; without one, the host this Fastigium came with. */
import type { HostKindName } from '@fastigium/contracts/hosts/request';
import type { HostOffer, HostPort } from '@fastigium/contracts/ports/host';
import { z } from 'zod';
import type { Queries } from '../../db/database.ts';
import type { Seal } from '../../secrets.ts';
import { findHostKind } from './kinds/index.ts';
import type { HostAccount, HostTools, OpenHost } from './kinds/kind.ts';
import { noHost } from './noHost.ts';

/** What is kept of any site's host, whatever kind it is: where it answers, and what was chosen of an offer. */
export const hostSettings = z.object({
  url: z.string().optional(),
  plan: z.string().optional(),
  region: z.string().optional(),
  months: z.number().optional(),
  visitors: z
    .array(
      z.object({
        code: z.string(),
        country: z.string(),
        latitude: z.number(),
        longitude: z.number(),
        weight: z.number(),
      }),
    )
    .optional(),
});
export type HostSettings = z.infer<typeof hostSettings>;

export interface HostAccountRow extends Record<string, unknown> {
  readonly kind: HostKindName;
  readonly settings: unknown;
  readonly secret: Buffer | null;
  readonly pinnedKey: string | null;
  readonly probedAt: Date | null;
}

export const nameSecretPurpose = (site: string): string => `host ${site}`;

export interface Hosts {
  /** The host this Fastigium came with, which says of itself whether it is simulated; undefined where it came with none. */
  readonly standIn: HostPort | undefined;
  of(queries: Queries, site: string): Promise<HostPort>;
  close(): Promise<void>;
}

export async function readHostAccount(queries: Queries, site: string): Promise<HostAccountRow | undefined> {
  return queries.maybeOne<HostAccountRow>(
    'select kind, settings, secret, pinned_key as "pinnedKey", probed_at as "probedAt" from host_account where site_id = $1',
    [site],
  );
}

export function createHosts(
  standIn: (HostPort & { close(): void }) | undefined,
  { seal, ...tools }: HostTools & { readonly seal: Seal },
): Hosts {
  // A connection is used by all steps of a publish; another account makes another one.
  const open = new Map<string, { key: string; host: OpenHost }>();
  return {
    standIn,
    async of(queries, site) {
      const row = await readHostAccount(queries, site);
      if (!row || row.kind === 'stand-in') return standIn ?? noHost;
      const kind = findHostKind(row.kind);
      const account: HostAccount<unknown, unknown> = {
        settings: kind.settings.parse(row.settings),
        secret: kind.secret.parse(
          row.secret === null ? {} : JSON.parse(seal.open(nameSecretPurpose(site), row.secret)),
        ),
        pinnedKey: row.pinnedKey ?? undefined,
      };
      const key = JSON.stringify([row.kind, account]);
      const kept = open.get(site);
      if (kept?.key === key) return kept.host;
      open.delete(site);
      await kept?.host.close?.();
      const host = await kind.open(account, tools);
      // Whoever asked meanwhile may have opened it already, and one is enough.
      const other = open.get(site);
      if (other?.key === key) return other.host;
      // What has nothing to close costs nothing to open, and asks each time whether it may.
      if (host.close) open.set(site, { key, host });
      return host;
    },
    async close() {
      for (const { host } of open.values()) await host.close?.();
      standIn?.close();
    },
  };
}

/** Where visitors of a host that tells nothing itself are sent: the address it was said to answer at. */
export function findTargets(url: string | undefined): HostOffer['targets'] {
  if (url === undefined || url === '') return { ipv4: [], ipv6: [], edge: null };
  const { hostname } = new URL(url);
  if (/^\d+\.\d+\.\d+\.\d+$/.test(hostname)) return { ipv4: [hostname], ipv6: [], edge: null };
  if (hostname.startsWith('[')) return { ipv4: [], ipv6: [hostname.slice(1, -1)], edge: null };
  return { ipv4: [], ipv6: [], edge: hostname };
}
