import { sitesApi } from '@fastigium/contracts/api/sites';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { showOwnSite } from '../people/seenSites.ts';
import { deleteSite, readGoingSites, takeSiteBack } from './deletion.ts';
import { createSite, readSiteList, readSiteOverview } from './sites.ts';

export function addSitesRoutes(routes: Routes, deps: Deps): void {
  routes.on(sitesApi.list, ({ person }) => readSiteList(deps, person.id));
  routes.on(sitesApi.create, async ({ person, body }) => {
    const made = await createSite(deps, person.team, body.name);
    await showOwnSite(deps.db, person.id, made.id);
    return made;
  });
  routes.on(sitesApi.overview, ({ params }) => readSiteOverview(deps, params.site));
  routes.on(sitesApi.delete, ({ person, params, body }) => deleteSite(deps, person, params.site, body.confirmed));
  routes.on(sitesApi.going, ({ person }) => readGoingSites(deps, person.team));
  routes.on(sitesApi.takeBack, async ({ person, params, note }) => {
    const site = await takeSiteBack(deps, person.team, params.going);
    note(site.name);
    return site;
  });
}
