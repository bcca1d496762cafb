/** Connecting names, letting them go, and how they hang together. The host is told in the same step. */
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { splitName, readTypedName } from '@fastigium/core/domain';
import type { DomainName } from '@fastigium/core/dns';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import { isUniqueViolation } from '../../db/sqlstate.ts';
import type { Deps } from '../../deps.ts';
import { readLatestLookup } from './history.ts';
import type { SiteNames } from '@fastigium/contracts/ports/host';
import { listHostNames, readSiteAddress } from '../shared/siteAddress.ts';

/** Reads a name and finds its zone, what was registered. Throws a DomainError with the reason. */
export function readName(text: string, sold: readonly string[]): { name: DomainName; zone: DomainName } {
  const typed = readTypedName(text);
  if (!typed.ok) throw new DomainError('name-unreadable', { name: text.slice(0, 100), reason: typed.reason });
  const { registrable } = splitName(typed.name, sold);
  if (registrable === undefined)
    throw new DomainError('name-unreadable', {
      name: text.slice(0, 100),
      reason: reason('is-ending'),
    });
  // The www of a name is the name: both are connected anyway.
  return { name: typed.name === `www.${registrable}` ? registrable : typed.name, zone: registrable };
}

/** Endings the registrar sells names under; none where there is no registrar, or it does not answer. */
export async function listEndingsSold(deps: Deps): Promise<string[]> {
  return Object.keys((await deps.world.registrar?.prices().catch(() => undefined)) ?? {});
}

export async function connectDomain(deps: Deps, site: string, by: string, text: string): Promise<void> {
  const typed = readName(text, await listEndingsSold(deps));
  await changeAddress(deps, site, async (tx) => {
    await tx.run(`delete from domain where site_id = $1 and role = 'own'`, [site]);
    await tx.run('delete from address_lookup where site_id = $1', [site]);
    await insert(deps, tx, site, by, typed, 'own');
    await tx.run(
      `insert into address (site_id, main_form) values ($1, $2) on conflict (site_id) do update
          set main_form = $2, force_https = false, hsts_seconds = null, zone_file = null, update_server = null, update_key_name = null, update_secret = null, changed_at = null, next_lookup_at = null`,
      [site, 'www'],
    );
    await tx.run('delete from certificate where site_id = $1', [site]);
  });
}

export async function addFurther(deps: Deps, site: string, by: string, text: string): Promise<void> {
  const typed = readName(text, await listEndingsSold(deps));
  await changeAddress(deps, site, async (tx) => {
    if (!(await readSiteAddress(tx, site))) throw new DomainError('no-domain');
    await insert(deps, tx, site, by, typed, 'further');
  });
}

export async function letGo(deps: Deps, site: string, name: string): Promise<void> {
  await changeAddress(deps, site, async (tx) => {
    const gone = await tx.maybeOne<{ role: string }>(
      'delete from domain where site_id = $1 and name = $2 returning role',
      [site, name.toLowerCase()],
    );
    if (!gone) throw new DomainError('not-found', { what: 'name' });
    if (gone.role !== 'own') {
      await tx.run(
        'delete from certificate where site_id = $1 and zone not in (select zone from domain where site_id = $1)',
        [site],
      );
      return;
    }
    // Without a main address there is nothing the others could redirect to.
    await tx.run('delete from domain where site_id = $1', [site]);
    for (const table of ['address_lookup', 'certificate', 'address'])
      await tx.run(`delete from ${table} where site_id = $1`, [site]);
  });
}

export async function setAddress(
  deps: Deps,
  site: string,
  settings: {
    mainForm?: 'www' | 'apex' | undefined;
    forceHttps?: boolean | undefined;
    hstsSeconds?: number | null | undefined;
  },
): Promise<void> {
  await changeAddress(deps, site, async (tx) => {
    if (!(await readSiteAddress(tx, site))) throw new DomainError('no-domain');
    const served = (await readLatestLookup(tx, site))?.facts.certificate;
    const hasCertificate =
      served?.kind === 'served' && served.seen.trusted && served.seen.notAfterMs > deps.world.clock.nowMs();
    if (typeof settings.hstsSeconds === 'number' && !hasCertificate) throw new DomainError('hsts-too-early');
    if (settings.forceHttps === true && !hasCertificate)
      throw new DomainError('certificate-not-ready', {
        reason: reason('https-silent'),
      });
    await tx.run(
      `update address set main_form = coalesce($2, main_form), force_https = coalesce($3, force_https), hsts_seconds = case when $4 then $5 else hsts_seconds end, next_lookup_at = null where site_id = $1`,
      [
        site,
        settings.mainForm ?? null,
        settings.forceHttps ?? null,
        settings.hstsSeconds !== undefined,
        settings.hstsSeconds ?? null,
      ],
    );
  });
}

async function insert(
  deps: Deps,
  tx: Queries,
  site: string,
  by: string,
  { name, zone }: { name: DomainName; zone: DomainName },
  role: 'own' | 'further',
): Promise<void> {
  try {
    await tx.run(
      'insert into domain (site_id, name, zone, role, connected_by, connected_at) values ($1, $2, $3, $4, $5, $6)',
      [site, name, zone, role, by, new Date(deps.world.clock.nowMs())],
    );
  } catch (error) {
    if (isUniqueViolation(error, 'domain_name') || isUniqueViolation(error, 'domain_pkey'))
      throw new DomainError('name-elsewhere', { name }, { cause: error });
    throw error;
  }
}

class OnlyTried extends Error {}

const MOST_TRIES = 5;

/**
 * The host learns of a change before it is kept, so that what stands here and what it does never differ for long; and
 * nobody waits for the host with the site held. What it is told is reckoned by making the change and taking it back, and
 * kept is the change only where it still comes to the same.
 */
async function changeAddress(deps: Deps, site: string, work: (tx: Queries) => Promise<void>): Promise<void> {
  const { hostName } = await deps.db.one<{ hostName: string }>(
    'select host_name as "hostName" from site where id = $1',
    [site],
  );
  const made = async (tx: Queries): Promise<SiteNames> => {
    await tx.one('select 1 from site where id = $1 for no key update', [site]);
    await work(tx);
    return listHostNames(await readSiteAddress(tx, site));
  };
  for (let tries = 1; tries <= MOST_TRIES; tries += 1) {
    const names = await tryOut(deps, made);
    const host = await deps.hosts.of(deps.db, site);
    await host.naming?.setNames(hostName, names);
    try {
      await deps.db.transaction(async (tx) => {
        if (JSON.stringify(await made(tx)) !== JSON.stringify(names)) throw new OnlyTried();
        await announce(tx, { kind: 'address', site });
      });
      return;
    } catch (error) {
      if (error instanceof OnlyTried) continue;
      // It knows the names that are kept again, should it be there to hear it.
      await host.naming?.setNames(hostName, listHostNames(await readSiteAddress(deps.db, site))).catch(() => undefined);
      throw error;
    }
  }
  throw new DomainError('draft-stale');
}

/** What a change comes to, without making it. */
async function tryOut<T>(deps: Deps, made: (tx: Queries) => Promise<T>): Promise<T> {
  let result: { readonly value: T } | undefined;
  await deps.db
    .transaction(async (tx) => {
      result = { value: await made(tx) };
      throw new OnlyTried();
    })
    .catch((error: unknown) => {
      if (!(error instanceof OnlyTried)) throw error;
    });
  if (!result) throw new Error('a change that was tried comes to something');
  return result.value;
}
