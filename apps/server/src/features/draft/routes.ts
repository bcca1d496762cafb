import { draftApi } from '@fastigium/contracts/api/draft';
import { pagesApi } from '@fastigium/contracts/api/pages';
import type { Touch } from '@fastigium/core/touches';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { previewAddresses } from './addressPreviews.ts';
import { addAsset } from './assets.ts';
import { decide } from './decide.ts';
import { previewHome } from './homePreview.ts';
import { pageInside, pointedAt } from './inside.ts';
import { menuRows } from './menuRows.ts';
import { pageRows } from './pageRows.ts';
import { historyRows, proveOnDraft } from './queries.ts';
import { filesNamed, placesInPage } from './targets.ts';
import { letGoOfMenu, pointAtMenu } from './pointedMenus.ts';
import { touchPlaces, touchRows } from './touchRows.ts';

export function draftRoutes(routes: Routes, deps: Deps): void {
  routes.on(draftApi.pages, ({ params }) => pageRows(deps, params.site));
  routes.on(draftApi.decide, ({ params, body, person }) => decide(deps, params.site, person, body));
  routes.on(draftApi.history, ({ params, query }) => historyRows(deps.db, params.site, query.before));
  routes.on(draftApi.prove, ({ params, body }) => proveOnDraft(deps, params.site, body.address));
  routes.on(pagesApi.inside, ({ params }) => pageInside(deps, params.site, params.page));
  routes.on(pagesApi.pointed, ({ params, body }) => pointedAt(deps, params.site, params.page, body));
  routes.on(pagesApi.places, ({ params }) => placesInPage(deps, params.site, params.page));
  routes.on(pagesApi.files, ({ params, query }) => filesNamed(deps, params.site, query.search));
  routes.on(pagesApi.touches, ({ params }) => touchRows(deps, params.site));
  routes.on(pagesApi.touchPlaces, ({ params, body }) => touchPlaces(deps, params.site, body.page, body.touch as Touch));
  routes.on(pagesApi.menus, ({ params }) => menuRows(deps, params.site));
  routes.on(pagesApi.pointMenu, ({ params, body, person }) => pointAtMenu(deps, params.site, person.id, body));
  routes.on(pagesApi.letGoMenu, async ({ params, body, person }) => {
    await letGoOfMenu(deps, params.site, person.id, body.menu);
    return { done: true } as const;
  });
  routes.on(pagesApi.previewRename, ({ params, body }) =>
    previewAddresses(deps, params.site, { kind: 'rename', page: params.page, address: body.address }),
  );
  routes.on(pagesApi.previewHome, ({ params, body }) => previewHome(deps, params.site, { page: params.page, ...body }));
  routes.on(pagesApi.previewStyle, ({ params, body }) =>
    previewAddresses(deps, params.site, { kind: 'address-style', style: body.style }),
  );
  routes.on(pagesApi.addAsset, ({ upload, params, query, person }) =>
    addAsset(deps, params.site, person, { ...query, stream: upload }),
  );
}
