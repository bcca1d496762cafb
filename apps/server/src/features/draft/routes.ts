import { draftApi } from '@fastigium/contracts/api/draft';
import { pagesApi } from '@fastigium/contracts/api/pages';
import type { Touch } from '@fastigium/core/touches';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { previewAddresses } from './addressPreviews.ts';
import { addAsset } from './assets.ts';
import { decide } from './decide.ts';
import { previewHome } from './homePreview.ts';
import { readPageInside, readPointed } from './inside.ts';
import { readMenuRows } from './menuRows.ts';
import { readPageRows } from './pageRows.ts';
import { readHistoryRows, proveOnDraft } from './queries.ts';
import { findFilesNamed, listPlacesInPage } from './targets.ts';
import { letGoOfMenu, pointAtMenu } from './pointedMenus.ts';
import { readTouchPlaces, readTouchRows } from './touchRows.ts';

export function addDraftRoutes(routes: Routes, deps: Deps): void {
  routes.on(draftApi.pages, ({ params }) => readPageRows(deps, params.site));
  routes.on(draftApi.decide, ({ params, body, person }) => decide(deps, params.site, person, body));
  routes.on(draftApi.history, ({ params, query }) => readHistoryRows(deps.db, params.site, query.before));
  routes.on(draftApi.prove, ({ params, body }) => proveOnDraft(deps, params.site, body.address));
  routes.on(pagesApi.inside, ({ params }) => readPageInside(deps, params.site, params.page));
  routes.on(pagesApi.pointed, ({ params, body }) => readPointed(deps, params.site, params.page, body));
  routes.on(pagesApi.places, ({ params }) => listPlacesInPage(deps, params.site, params.page));
  routes.on(pagesApi.files, ({ params, query }) => findFilesNamed(deps, params.site, query.search));
  routes.on(pagesApi.touches, ({ params }) => readTouchRows(deps, params.site));
  routes.on(pagesApi.touchPlaces, ({ params, body }) =>
    readTouchPlaces(deps, params.site, body.page, body.touch as Touch),
  );
  routes.on(pagesApi.menus, ({ params }) => readMenuRows(deps, params.site));
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
    addAsset(deps, params.site, person, { ...query, stream: upload.read() }),
  );
}
