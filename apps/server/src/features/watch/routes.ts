import { watchApi } from '@fastigium/contracts/api/watch';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { tellAlerts } from './alerts.ts';
import { readDrift, checkDrift } from '../inspection/drift.ts';
import { putRight } from './putRight.ts';
import { readLogNow } from './readLog.ts';
import { watchOf } from './watch.ts';

export function watchRoutes(routes: Routes, deps: Deps): void {
  routes.on(watchApi.get, ({ params }) => watchOf(deps, params.site));
  routes.on(watchApi.checkDrift, async ({ params }) => {
    await checkDrift(deps, params.site);
    await tellAlerts(deps, params.site);
    return { findings: (await readDrift(deps.db, params.site))?.findings.length ?? 0 };
  });
  routes.on(watchApi.putRight, ({ params, person }) => putRight(deps, params.site, person.id));
  routes.on(watchApi.read, async ({ params }) => ({ requests: await readLogNow(deps, params.site) }));
}
