/** The host of each site, by the account somebody connected; without one, the host this Fastigium came with. */
import type { HostOffer, HostPort } from '@fastigium/contracts/ports/host';
import { z } from 'zod';
import type { Queries } from '../../db/database.ts';
import type { PlacesConfig } from '../../config/config.ts';
import type { Seal } from '../../secrets.ts';
import type { Gate } from '../web/gate.ts';
import { folderHost } from './folderHost.ts';
import { noHost, refusingHost } from './noHost.ts';
import { isWithin, placeShut } from './places.ts';
import { sftpHost } from './sftpHost.ts';

export const hostSettings = z.object({
  folder: z.string().optional(),
  server: z.string().optional(),
  port: z.number().optional(),
  user: z.string().optional(),
  url: z.string().optional(),
  log: z.string().optional(),
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
  readonly kind: 'stand-in' | 'folder' | 'sftp';
  readonly settings: unknown;
  readonly secret: Buffer | null;
  readonly pinnedKey: string | null;
  readonly probedAt: Date | null;
}

export const sftpSecret = z.object({ password: z.string().optional(), key: z.string().optional() });
export const secretPurpose = (site: string): string => `host ${site}`;

export interface Hosts {
  /** The host this Fastigium came with, which says of itself whether it is simulated; undefined where it came with none. */
  readonly standIn: HostPort | undefined;
  of(queries: Queries, site: string): Promise<HostPort>;
  close(): Promise<void>;
}

export async function hostAccount(queries: Queries, site: string): Promise<HostAccountRow | undefined> {
  return queries.maybeOne<HostAccountRow>(
    'select kind, settings, secret, pinned_key as "pinnedKey", probed_at as "probedAt" from host_account where site_id = $1',
    [site],
  );
}

/** @param places what of this machine may be used, asked at each use: what was open once may not be any more */
export function hostsBy(
  standIn: (HostPort & { close(): void }) | undefined,
  { seal, gate, places }: { readonly seal: Seal; readonly gate: Gate; readonly places: PlacesConfig },
): Hosts {
  // A connection is used by all steps of a publish; another secret or server makes another one.
  const open = new Map<string, { key: string; host: ReturnType<typeof sftpHost> }>();
  return {
    standIn,
    async of(queries, site) {
      const account = await hostAccount(queries, site);
      if (!account || account.kind === 'stand-in') return standIn ?? noHost;
      const settings = hostSettings.parse(account.settings);
      const url = settings.url ?? '';
      if (account.kind === 'folder') return folderWithin(places, settings, url);
      const secret =
        account.secret === null ? {} : sftpSecret.parse(JSON.parse(seal.open(secretPurpose(site), account.secret)));
      const key = JSON.stringify([settings, secret, account.pinnedKey]);
      const kept = open.get(site);
      if (kept?.key === key) return kept.host;
      await kept?.host.close();
      const host = sftpHost(
        {
          server: settings.server ?? '',
          port: settings.port ?? 22,
          user: settings.user ?? '',
          folder: settings.folder ?? '',
          pinned: account.pinnedKey ?? undefined,
          ...(secret.password === undefined ? {} : { password: secret.password }),
          ...(secret.key === undefined ? {} : { key: secret.key }),
        },
        gate,
        url,
        settings.log,
      );
      open.set(site, { key, host });
      return host;
    },
    async close() {
      for (const { host } of open.values()) await host.close();
      standIn?.close();
    },
  };
}

/** What was open when it was connected may not be any more. */
async function folderWithin(
  { folders, logs }: PlacesConfig,
  { folder = '', log }: HostSettings,
  url: string,
): Promise<HostPort> {
  if (!(await isWithin(folder, folders)))
    return refusingHost(() => placeShut(folder, folders, 'FASTIGIUM_HOST_FOLDERS'), url);
  return folderHost(folder, url, log !== undefined && (await isWithin(log, logs)) ? log : undefined);
}

/** Where visitors of a host that tells nothing itself are sent: the address it was said to answer at. */
export function targetsOf(url: string | undefined): HostOffer['targets'] {
  if (url === undefined || url === '') return { ipv4: [], ipv6: [], edge: null };
  const { hostname } = new URL(url);
  if (/^\d+\.\d+\.\d+\.\d+$/.test(hostname)) return { ipv4: [hostname], ipv6: [], edge: null };
  if (hostname.startsWith('[')) return { ipv4: [], ipv6: [hostname.slice(1, -1)], edge: null };
  return { ipv4: [], ipv6: [], edge: hostname };
}
