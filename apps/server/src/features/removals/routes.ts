import { removalsApi } from '@fastigium/contracts/api/removals';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { removalDetail } from './detail.ts';
import { thingInRelease, thingsInRelease } from './fromRelease/things.ts';
import { keepFor } from './keepFor.ts';
import { removalList } from './list.ts';
import { noticesFor, noticeSeen } from '../shared/notices.ts';
import { previewPutBack, previewRemove } from './previews.ts';
import { removeForGood } from './sweep.ts';

export function removalsRoutes(routes: Routes, deps: Deps): void {
  routes.on(removalsApi.list, ({ params }) => removalList(deps, params.site));
  routes.on(removalsApi.previewRemove, ({ params, body }) => previewRemove(deps, params.site, body.thing));
  routes.on(removalsApi.previewPutBack, ({ params, body }) => previewPutBack(deps, params.site, body));
  routes.on(removalsApi.inRelease, ({ params }) => thingsInRelease(deps, params.site, params.number));
  routes.on(removalsApi.thingInRelease, ({ params, query }) =>
    thingInRelease(deps, params.site, params.number, query.path),
  );
  routes.on(removalsApi.forGood, ({ params, body, person }) => removeForGood(deps, params.site, person, body));
  routes.on(removalsApi.keepFor, ({ params, body }) => keepFor(deps, params.site, body.days));
  routes.on(removalsApi.notices, ({ params, person }) => noticesFor(deps.db, params.site, person.id));
  routes.on(removalsApi.noticeSeen, ({ params, person }) => noticeSeen(deps.db, params.site, person.id, params.notice));
  routes.on(removalsApi.detail, ({ params }) => removalDetail(deps, params.site, params.of));
}
