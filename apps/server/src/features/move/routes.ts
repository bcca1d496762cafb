import { moveApi } from '@fastigium/contracts/api/move';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { moveOf, planMove } from './move.ts';

export function moveRoutes(routes: Routes, deps: Deps): void {
  routes.on(moveApi.get, ({ params }) => moveOf(deps, params.site));
  routes.on(moveApi.plan, ({ params, body }) => planMove(deps, params.site, body.changeAt));
}
