/** Choosing a host: plans against needs, regions by distance, and places of one's own, tried before they count. */
import type { HostingView } from '@fastigium/contracts/api/hosting';
import type { HostKindName, HostRequest } from '@fastigium/contracts/hosts/request';
import { DomainError } from '@fastigium/contracts/errors';
import { host, type HostMessage } from '@fastigium/contracts/messages/address';
import type { HostOffer } from '@fastigium/contracts/ports/host';
import {
  computeDistanceToVisitors,
  computeDownMinutesPerMonth,
  fitOf,
  planCost,
  type SiteNeeds,
} from '@fastigium/core/hosting';
import { readHostAccount, hostSettings, nameSecretPurpose, type HostAccountRow } from '../../adapters/host/hosts.ts';
import { findHostKind } from '../../adapters/host/kinds/index.ts';
import { announce } from '../../db/events.ts';
import { findCountry } from './countries.ts';
import { isUniqueViolation } from '../../db/sqlstate.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import type { Deps } from '../../deps.ts';

const DAY_MS = 86_400_000;

export async function readHostingView(deps: Deps, site: string, months?: number): Promise<HostingView> {
  const account = await readHostAccount(deps.db, site);
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
      words: describeHost(account, offer),
      plan: settings.plan ?? null,
      region: settings.region ?? null,
      months: settings.months ?? null,
      pinnedKey: account?.pinnedKey ?? null,
      probedAt: account?.probedAt?.toISOString() ?? null,
      hasSecret: account?.secret != null,
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
        downMinutesPerMonth: computeDownMinutesPerMonth(plan.uptimePercent),
      };
    }),
    regions: (offer?.regions ?? [])
      .map((region) => {
        const far = computeDistanceToVisitors(region, visitors);
        return {
          id: region.id,
          name: region.name,
          km: far?.km ?? null,
          leastRoundTripMs: far?.leastRoundTripMs ?? null,
        };
      })
      .sort((one, other) => (one.km ?? 0) - (other.km ?? 0)),
    temporary: findTemporaryName(deps, label),
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
export function describeHost(
  account: Pick<HostAccountRow, 'kind' | 'settings'> | undefined,
  offer?: HostOffer,
): HostMessage {
  if (account && account.kind !== 'stand-in') {
    const kind = findHostKind(account.kind);
    return kind.message(kind.settings.parse(account.settings));
  }
  if (!offer) return host('none');
  const { plan: chosen } = hostSettings.parse(account?.settings ?? {});
  const plan = offer.plans.find(({ id }) => id === chosen);
  return plan ? host('plan', { host: offer.name, plan: plan.name }) : host('no-plan', { host: offer.name });
}

/** The name a site has at the host this Fastigium came with, before it has one of its own; null where it came with none. */
export function findTemporaryName(deps: Pick<Deps, 'hosts'>, label: string): { label: string; url: string } | null {
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
      const country = findCountry(each.code);
      if (!country) throw new DomainError('not-found', { what: 'country' });
      return {
        code: country.code,
        country: country.name,
        latitude: country.latitude,
        longitude: country.longitude,
        weight: each.visits,
      };
    });
  const account = await readHostAccount(deps.db, site);
  await deps.db.run(
    `insert into host_account (site_id, kind, settings, connected_by) values ($1, $2, jsonb_strip_nulls($3), $4) on conflict (site_id) do update set settings = jsonb_strip_nulls(host_account.settings || excluded.settings)`,
    [site, account?.kind ?? 'stand-in', JSON.stringify({ visitors: visitors.length > 0 ? visitors : null }), by],
  );
}

export async function changeTemporaryName(deps: Deps, site: string, label: string, keepOldDays: number): Promise<void> {
  const naming = deps.hosts.standIn?.naming;
  if (!naming) throw new DomainError('host-offers-no-names');
  const { hostName, before } = await deps.db.one<{ hostName: string; before: string }>(
    'select host_name as "hostName", temporary_label as before from site where id = $1',
    [site],
  );
  if (await deps.db.maybeOne('select 1 from site where temporary_label = $2 and id <> $1', [site, label]))
    throw describeTakenName(label);
  // The host first, which knows every name: should nothing be written down after it, the old one leads to the new one.
  const keepOldUntilMs = keepOldDays === 0 ? null : deps.world.clock.nowMs() + keepOldDays * DAY_MS;
  await naming.setTemporaryName(hostName, { label, keepOldUntilMs });
  try {
    await deps.db.transaction(async (tx) => {
      await tx.run('update site set temporary_label = $2 where id = $1', [site, label]);
      await announce(tx, { kind: 'address', site });
    });
  } catch (error) {
    if (!isUniqueViolation(error, 'site_temporary_label_key')) throw error;
    await naming.setTemporaryName(hostName, { label: before, keepOldUntilMs: null });
    throw describeTakenName(label, error);
  }
}

const describeTakenName = (label: string, cause?: unknown) =>
  new DomainError('temporary-name-taken', { label, free: `${label}-site, ${label}-new` }, { cause });

export async function connectHost(deps: Deps, site: string, by: string, request: HostRequest): Promise<void> {
  if (request.kind === 'stand-in') {
    if (!deps.hosts.standIn) throw new DomainError('host-needed');
    await keep(deps, site, by, 'stand-in', {});
    return;
  }
  const { settings, secret, pinnedKey } = await findHostKind(request.kind).probe(request, {
    gate: deps.world.gate,
    places: deps.config.places,
  });
  const hasSecret = Object.values(secret as object).some((each) => each !== undefined);
  await keep(deps, site, by, request.kind, settings as object, {
    secret: hasSecret ? deps.seal.seal(nameSecretPurpose(site), JSON.stringify(secret)) : null,
    pinnedKey: pinnedKey ?? null,
  });
}

async function keep(
  deps: Deps,
  site: string,
  by: string,
  kind: HostKindName,
  settings: object,
  sealed?: { secret: Buffer | null; pinnedKey: string | null },
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
