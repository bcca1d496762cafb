import { redirectsApi } from '@fastigium/contracts/api/redirects';
import { formatAddress, parseAddress } from '@fastigium/core/address';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { takeFetched } from './gather/gatherJob.ts';
import { takeFile, takePasted } from './gather/file.ts';
import { gatherings } from './gather/gatherings.ts';
import { takeSightings, type Sighting } from './gather/take.ts';
import { oneOldAddress } from './one.ts';
import { patternRows, previewPattern } from './patterns.ts';
import { redirectRows } from './rows.ts';
import { suggestSoon } from './suggest/suggestSoon.ts';

export function redirectsRoutes(routes: Routes, deps: Deps): void {
  routes.on(redirectsApi.rows, ({ params }) => redirectRows(deps, params.site));
  routes.on(redirectsApi.one, ({ params, query }) => oneOldAddress(deps, params.site, query.from));
  routes.on(redirectsApi.gatherings, async ({ params }) => ({ searchIndex: deps.config.world.searchIndex ?? null, done: await gatherings(deps.db, params.site) }));
  routes.on(redirectsApi.add, ({ params, body, person }) => addListed(deps, { site: params.site, by: person.id }, body.addresses));
  routes.on(redirectsApi.paste, ({ params, body, person }) => takePasted(deps, { site: params.site, by: person.id, text: body.text }));
  routes.on(redirectsApi.file, ({ params, query, person, req }) => takeFile(deps, {
    site: params.site, by: person.id, fileName: query.fileName, columns: query.columns, hasNames: query.hasNames === undefined ? undefined : query.hasNames === 'yes', stream: req,
  }));
  routes.on(redirectsApi.fetched, ({ params, body, person }) => takeFetched(deps, { site: params.site, by: person.id, ...body }));
  routes.on(redirectsApi.kind, async ({ params, body, person }) => {
    await deps.db.transaction(async (tx) => {
      await tx.run(
        `update old_address set kind = case when $3 then 'noise' else 'page' end, noise = null, kind_by = $4 where site_id = $1 and address = any($2)`,
        [params.site, body.addresses, body.noise, person.id],
      );
      await announce(tx, { kind: 'redirects', site: params.site });
      await suggestSoon(tx, params.site, person.id);
    });
    return { done: true as const };
  });
  routes.on(redirectsApi.patterns, ({ params }) => patternRows(deps, params.site));
  routes.on(redirectsApi.previewPattern, ({ params, body }) => previewPattern(deps, params.site, body));
  routes.on(redirectsApi.suggest, async ({ params, person }) => ({ job: await deps.db.transaction((tx) => suggestSoon(tx, params.site, person.id)) }));
}

/** A list given with the site or by the programming interface; what is no address is told. */
export async function addListed(
  deps: Deps, of: { site: string; by: string }, list: readonly { address: string; visits: number | null }[],
): Promise<{ taken: number; notAddresses: string[] }> {
  const notAddresses: string[] = [];
  const sightings = list.flatMap(({ address: written, visits }): Sighting[] => {
    const parsed = parseAddress(written);
    if (parsed.ok) return [{ address: formatAddress(parsed.address), visits: visits ?? undefined }];
    notAddresses.push(written);
    return [];
  });
  return deps.db.transaction(async (tx) => {
    const { read } = await takeSightings(tx, { ...of, source: 'list', name: '' }, sightings, []);
    await suggestSoon(tx, of.site, of.by);
    return { taken: read, notAddresses };
  });
}
