import { draftApi } from '@fastigium/contracts/api/draft';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { decide } from './decide.ts';
import { addOldAddresses } from './oldAddresses.ts';
import { historyRows, pageRows, proveOnDraft, redirectRows } from './queries.ts';

export function draftRoutes(routes: Routes, deps: Deps): void {
  routes.on(draftApi.pages, ({ params }) => pageRows(deps, params.site));
  routes.on(draftApi.decide, ({ params, body, person }) => decide(deps, params.site, person, body));
  routes.on(draftApi.history, ({ params }) => historyRows(deps.db, params.site));
  routes.on(draftApi.redirects, ({ params }) => redirectRows(deps, params.site));
  routes.on(draftApi.prove, ({ params, body }) => proveOnDraft(deps, params.site, body.address));
  routes.on(draftApi.addOldAddresses, ({ params, body }) => addOldAddresses(deps.db, params.site, body.addresses));
}
