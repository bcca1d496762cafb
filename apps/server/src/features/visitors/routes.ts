import { visitorsApi } from '@fastigium/contracts/api/visitors';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { readPasswordsInDraft, readVisitors } from './visitors.ts';

export function addVisitorsRoutes(routes: Routes, deps: Deps): void {
  routes.on(visitorsApi.get, ({ params }) => readVisitors(deps, params.site));
  routes.on(visitorsApi.passwords, async ({ params }) => ({
    passwords: await readPasswordsInDraft(deps, params.site),
  }));
}
