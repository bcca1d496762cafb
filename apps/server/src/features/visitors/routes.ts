import { visitorsApi } from '@fastigium/contracts/api/visitors';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { passwordsInDraft, visitorsOf } from './visitors.ts';

export function visitorsRoutes(routes: Routes, deps: Deps): void {
  routes.on(visitorsApi.get, ({ params }) => visitorsOf(deps, params.site));
  routes.on(visitorsApi.passwords, async ({ params }) => ({ passwords: await passwordsInDraft(deps, params.site) }));
}
