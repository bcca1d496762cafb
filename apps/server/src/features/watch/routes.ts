import { watchApi } from '@fastigium/contracts/api/watch';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { readLogNow } from './readLog.ts';
import { watchOf } from './watch.ts';

export function watchRoutes(routes: Routes, deps: Deps): void {
  routes.on(watchApi.get, ({ params }) => watchOf(deps, params.site));
  routes.on(watchApi.read, async ({ params }) => ({ requests: await readLogNow(deps, params.site) }));
}
