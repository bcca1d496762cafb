import { hostingApi } from '@fastigium/contracts/api/hosting';
import { askServerKey } from '../../adapters/host/sftpHost.ts';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { listCountries } from './countries.ts';
import { changeTemporaryName, choosePlan, connectHost, readHostingView, sayVisitors } from './hosting.ts';

export function addHostingRoutes(routes: Routes, deps: Deps): void {
  routes.on(hostingApi.view, ({ params, query }) => readHostingView(deps, params.site, query.months));
  routes.on(hostingApi.choose, async ({ params, body, person }) => {
    await choosePlan(deps, params.site, person.id, body);
    return readHostingView(deps, params.site);
  });
  routes.on(hostingApi.visitors, async ({ params, body, person }) => {
    await sayVisitors(deps, params.site, person.id, body.visitors);
    return readHostingView(deps, params.site);
  });
  routes.on(hostingApi.countries, () => Promise.resolve(listCountries()));
  routes.on(hostingApi.temporary, async ({ params, body }) => {
    await changeTemporaryName(deps, params.site, body.label, body.keepOldDays);
    return readHostingView(deps, params.site);
  });
  routes.on(hostingApi.hostKey, async ({ body }) => ({ fingerprint: await askServerKey(body, deps.world.gate) }));
  routes.on(hostingApi.connect, async ({ params, body, person }) => {
    await connectHost(deps, params.site, person.id, body);
    return readHostingView(deps, params.site);
  });
}
