import { sitesApi } from '@fastigium/contracts/api/sites';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { createSite, siteList, siteOverview } from './sites.ts';

export function sitesRoutes(routes: Routes, deps: Deps): void {
  routes.on(sitesApi.list, ({ person }) => siteList(deps, person.team));
  routes.on(sitesApi.create, ({ person, body }) => createSite(deps, person.team, body.name));
  routes.on(sitesApi.overview, ({ params }) => siteOverview(deps, params.site));
}
