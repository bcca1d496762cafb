import { sitesApi } from '@fastigium/contracts/api/sites';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { showOwnSite } from '../people/seenSites.ts';
import { createSite, siteList, siteOverview } from './sites.ts';

export function sitesRoutes(routes: Routes, deps: Deps): void {
  routes.on(sitesApi.list, ({ person }) => siteList(deps, person.id));
  routes.on(sitesApi.create, async ({ person, body }) => {
    const made = await createSite(deps, person.team, body.name);
    await showOwnSite(deps.db, person.id, made.id);
    return made;
  });
  routes.on(sitesApi.overview, ({ params }) => siteOverview(deps, params.site));
}
