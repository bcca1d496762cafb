import { removalsApi } from '@fastigium/contracts/api/removals';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { readRemovalDetail } from './detail.ts';
import { readThingInRelease, readThingsInRelease } from './fromRelease/things.ts';
import { keepFor } from './keepFor.ts';
import { readRemovalList } from './list.ts';
import { readNotices, markNoticeSeen } from '../shared/notices.ts';
import { previewPutBack, previewRemove } from './previews.ts';
import { removeForGood } from './sweep.ts';

export function addRemovalsRoutes(routes: Routes, deps: Deps): void {
  routes.on(removalsApi.list, ({ params }) => readRemovalList(deps, params.site));
  routes.on(removalsApi.previewRemove, ({ params, body }) => previewRemove(deps, params.site, body.thing));
  routes.on(removalsApi.previewPutBack, ({ params, body }) => previewPutBack(deps, params.site, body));
  routes.on(removalsApi.inRelease, ({ params }) => readThingsInRelease(deps, params.site, params.number));
  routes.on(removalsApi.thingInRelease, ({ params, query }) =>
    readThingInRelease(deps, params.site, params.number, query.path),
  );
  routes.on(removalsApi.forGood, ({ params, body, person }) => removeForGood(deps, params.site, person, body));
  routes.on(removalsApi.keepFor, ({ params, body }) => keepFor(deps, params.site, body.days));
  routes.on(removalsApi.notices, ({ params, person }) => readNotices(deps.db, params.site, person.id));
  routes.on(removalsApi.noticeSeen, ({ params, person }) =>
    markNoticeSeen(deps.db, params.site, person.id, params.notice),
  );
  routes.on(removalsApi.detail, ({ params }) => readRemovalDetail(deps, params.site, params.of));
}
