import { snagsApi } from '@fastigium/contracts/api/snags';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { dismissSnag, mendSnag, recallSnag, readSnags, readSnagPlace } from './snags.ts';

export function addSnagsRoutes(routes: Routes, deps: Deps): void {
  routes.on(snagsApi.list, ({ params }) => readSnags(deps, params.site));
  routes.on(snagsApi.place, ({ params }) => readSnagPlace(deps, params.site, params.key));
  routes.on(snagsApi.dismiss, async ({ params, body, person }) => {
    await dismissSnag(deps, params.site, person.id, params.key, body.reason);
    return { done: true as const };
  });
  routes.on(snagsApi.recall, async ({ params }) => {
    await recallSnag(deps, params.site, params.key);
    return { done: true as const };
  });
  routes.on(snagsApi.mend, ({ params, body, person }) => mendSnag(deps, params.site, person, params.key, body));
}
