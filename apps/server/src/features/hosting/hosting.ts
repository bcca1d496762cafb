/** Choosing a host: plans against needs, regions by distance, and places of one's own, tried before they count. */
import type { HostingView, SftpRequest } from '@fastigium/contracts/api/hosting';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { host, type HostMessage } from '@fastigium/contracts/messages/address';
import type { HostOffer } from '@fastigium/contracts/ports/host';
import { distanceToVisitors, downMinutesPerMonth, fitOf, planCost, type SiteNeeds } from '@fastigium/core/hosting';
import { probeFolder } from '../../adapters/host/folderHost.ts';
import { hostAccount, hostSettings, secretPurpose, sftpSecret, type HostSettings } from '../../adapters/host/hosts.ts';
import { isWithin, placeShut } from '../../adapters/host/places.ts';
import { probeSftp, shownKey } from '../../adapters/host/sftpHost.ts';
import { announce } from '../../db/events.ts';
import { countryOf } from './countries.ts';
import { isUniqueViolation } from '../../db/sqlstate.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import type { Deps } from '../../deps.ts';

const DAY_MS = 86_400_000;

export async function hostingView(deps: Deps, site: string, months?: number): Promise<HostingView> {
  const account = await hostAccount(deps.db, site);
  const settings = hostSettings.parse(account?.settings ?? {});
  const term = months ?? settings.months ?? 12;
  const needs = await needsOf(deps, site);
  const offer = await deps.hosts.standIn?.naming?.offer();
  const visitors = settings.visitors ?? [];
  const { label } = await deps.db.one<{ label: string }>('select temporary_label as label from site where id = $1', [
    site,
  ]);
  return {
    account: {
      kind: account?.kind ?? 'stand-in',
      words: hostMessage(account?.kind ?? 'stand-in', settings, offer),
      plan: settings.plan ?? null,
      region: settings.region ?? null,
      months: settings.months ?? null,
      pinnedKey: account?.pinnedKey ?? null,
      probedAt: account?.probedAt?.toISOString() ?? null,
      hasSecret: account?.secret != null,
      folder: settings.folder ?? null,
      server: settings.server ?? null,
      user: settings.user ?? null,
    },
    simulated: offer?.simulated ?? false,
    needs,
    months: term,
    visitors,
    plans: (offer?.plans ?? []).map((plan) => {
      const fit = fitOf(plan, needs);
      const { setUpCents, totalCents, perMonthCents } = planCost(plan, term);
      return {
        plan,
        fits: fit.fits,
        lacks: [...fit.lacks],
        usedPercent: fit.usedPercent,
        setUpCents,
        totalCents,
        perMonthCents,
        downMinutesPerMonth: downMinutesPerMonth(plan.uptimePercent),
      };
    }),
    regions: (offer?.regions ?? [])
      .map((region) => {
        const far = distanceToVisitors(region, visitors);
        return {
          id: region.id,
          name: region.name,
          km: far?.km ?? null,
          leastRoundTripMs: far?.leastRoundTripMs ?? null,
        };
      })
      .sort((one, other) => (one.km ?? 0) - (other.km ?? 0)),
    temporary: temporaryAt(deps, label),
    folders: [...deps.config.places.folders],
  };
}

/** Computed from the site as it will be published. */
async function needsOf(deps: Deps, site: string): Promise<SiteNeeds> {
  const { hasDomain, isThere } = await deps.db.one<{ hasDomain: boolean; isThere: boolean }>(
    `select exists (select 1 from domain d where d.site_id = s.id) as "hasDomain", s.current_import is not null as "isThere" from site s where s.id = $1`,
    [site],
  );
  const { files, bytes } = isThere ? await compileDraft(deps, site) : { files: 0, bytes: 0 };
  return { files, bytes, ownDomain: hasDomain, certificate: hasDomain, password: false, backups: true };
}

/** Where a site is published. @param offer of the host this Fastigium came with, where it is that */
export function hostMessage(
  kind: HostingView['account']['kind'],
  { folder = '', user = '', server = '', plan: chosen }: HostSettings,
  offer?: HostOffer,
): HostMessage {
  if (kind === 'folder') return host('folder', { folder });
  if (kind === 'sftp') return host('sftp', { user, server, folder });
  if (!offer) return host('none');
  const plan = offer.plans.find(({ id }) => id === chosen);
  return plan ? host('plan', { host: offer.name, plan: plan.name }) : host('no-plan', { host: offer.name });
}

/** The name a site has at the host this Fastigium came with, before it has one of its own; null where it came with none. */
export function temporaryAt(deps: Pick<Deps, 'hosts'>, label: string): { label: string; url: string } | null {
  const url = deps.hosts.standIn?.urlOf(label);
  return url === undefined ? null : { label, url };
}

export async function choosePlan(
  deps: Deps,
  site: string,
  by: string,
  choice: { plan: string; region: string; months: number },
): Promise<void> {
  const offer = await deps.hosts.standIn?.naming?.offer();
  if (!offer?.plans.some(({ id }) => id === choice.plan) || !offer.regions.some(({ id }) => id === choice.region))
    throw new DomainError('not-found', { what: 'planOrRegion' });
  await keep(deps, site, by, 'stand-in', choice);
}

export async function sayVisitors(
  deps: Deps,
  site: string,
  by: string,
  visits: readonly { code: string; visits: number }[],
): Promise<void> {
  const visitors = visits
    .filter((each) => each.visits > 0)
    .map((each) => {
      const country = countryOf(each.code);
      if (!country) throw new DomainError('not-found', { what: 'country' });
      return {
        code: country.code,
        country: country.name,
        latitude: country.latitude,
        longitude: country.longitude,
        weight: each.visits,
      };
    });
  const account = await hostAccount(deps.db, site);
  await deps.db.run(
    `insert into host_account (site_id, kind, settings, connected_by) values ($1, $2, jsonb_strip_nulls($3), $4) on conflict (site_id) do update set settings = jsonb_strip_nulls(host_account.settings || excluded.settings)`,
    [site, account?.kind ?? 'stand-in', JSON.stringify({ visitors: visitors.length > 0 ? visitors : null }), by],
  );
}

export async function changeTemporaryName(deps: Deps, site: string, label: string, keepOldDays: number): Promise<void> {
  const naming = deps.hosts.standIn?.naming;
  if (!naming) throw new DomainError('host-offers-no-names');
  await deps.db.transaction(async (tx) => {
    const { hostName } = await tx.one<{ hostName: string }>(
      'select host_name as "hostName" from site where id = $1 for no key update',
      [site],
    );
    try {
      await tx.run('update site set temporary_label = $2 where id = $1', [site, label]);
    } catch (error) {
      if (!isUniqueViolation(error, 'site_temporary_label_key')) throw error;
      throw new DomainError('temporary-name-taken', { label, free: `${label}-site, ${label}-new` }, { cause: error });
    }
    await naming.setTemporaryName(hostName, {
      label,
      keepOldUntilMs: keepOldDays === 0 ? null : deps.world.clock.nowMs() + keepOldDays * DAY_MS,
    });
    await announce(tx, { kind: 'address', site });
  });
}

export async function connectFolder(
  deps: Deps,
  site: string,
  by: string,
  { folder, url, log }: { folder: string; url?: string | undefined; log?: string | undefined },
): Promise<void> {
  if (!folder.startsWith('/')) throw new DomainError('host-folder-unusable', { reason: reason('whole-path') });
  await refuseOutside(folder, deps.config.places.folders, 'FASTIGIUM_HOST_FOLDERS');
  if (log !== undefined) await refuseOutside(log, deps.config.places.logs, 'FASTIGIUM_HOST_LOGS');
  await probeFolder(folder);
  await keep(deps, site, by, 'folder', { folder, url, log });
}

/** What people may name of the machine Fastigium runs on is its operator's to say, links in the way followed. */
async function refuseOutside(path: string, open: readonly string[], setting: string): Promise<void> {
  if (!(await isWithin(path, open))) throw placeShut(path, open, setting);
}

export async function connectSftp(deps: Deps, site: string, by: string, request: SftpRequest): Promise<void> {
  const { server, port, user, folder, url, log, password, key, fingerprint } = request;
  const shown = await shownKey({ server, port }, deps.world.gate);
  // Nothing is said to a server whose key nobody has agreed to.
  if (fingerprint !== shown)
    throw new DomainError('host-key-changed', { seen: shown, pinned: fingerprint ?? 'none yet' });
  const secret = sftpSecret.parse({ password, key });
  await probeSftp(
    {
      server,
      port,
      user,
      folder,
      pinned: shown,
      ...(password === undefined ? {} : { password }),
      ...(key === undefined ? {} : { key }),
    },
    deps.world.gate,
  );
  await keep(
    deps,
    site,
    by,
    'sftp',
    { server, port, user, folder, url, log },
    { secret: deps.seal.seal(secretPurpose(site), JSON.stringify(secret)), pinnedKey: shown },
  );
}

export async function useStandIn(deps: Deps, site: string, by: string): Promise<void> {
  if (!deps.hosts.standIn) throw new DomainError('host-needed');
  await keep(deps, site, by, 'stand-in', {});
}

async function keep(
  deps: Deps,
  site: string,
  by: string,
  kind: 'stand-in' | 'folder' | 'sftp',
  settings: HostSettings | Record<string, unknown>,
  sealed?: { secret: Buffer; pinnedKey: string },
): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await tx.run(
      `insert into host_account (site_id, kind, settings, secret, pinned_key, probed_at, connected_by) values ($1, $2, $3, $4, $5, now(), $6)
       on conflict (site_id) do update set kind = excluded.kind, secret = excluded.secret, pinned_key = excluded.pinned_key, probed_at = excluded.probed_at, connected_by = excluded.connected_by,
           settings = excluded.settings || jsonb_strip_nulls(jsonb_build_object('visitors', host_account.settings -> 'visitors'))`,
      [site, kind, JSON.stringify(settings), sealed?.secret ?? null, sealed?.pinnedKey ?? null, by],
    );
    // Another host has none of the releases; the next publish sends everything to it.
    await announce(tx, { kind: 'address', site });
  });
}
