import { importsApi } from '@fastigium/contracts/api/imports';
import type { Deps } from '../../deps.ts';
import type { Routes } from '../../http/route.ts';
import { applyImport, dropReview } from './applyImport.ts';
import { importReview } from './review.ts';
import { placeOf, survey } from './survey.ts';
import { takeUpload } from './upload.ts';
import { takeCrawl } from './crawl/takeCrawl.ts';

export function addImportsRoutes(routes: Routes, deps: Deps): void {
  routes.on(importsApi.start, ({ upload, params, query, person }) =>
    takeUpload(deps, { site: params.site, by: person.id, fileName: query.fileName, stream: upload.read() }),
  );
  routes.on(importsApi.crawl, ({ params, body, person }) =>
    takeCrawl(deps, { site: params.site, by: person.id, address: body.address }),
  );
  routes.on(importsApi.place, ({ params, query }) => placeOf(deps.db, params.site, query.path, query.href));
  routes.on(importsApi.review, ({ params }) => importReview(deps, params.site));
  routes.on(importsApi.apply, async ({ params, body, person }) => ({
    version: await applyImport(deps, params.site, body.import, {
      by: person,
      import: body.import,
      version: body.version,
      choices: body.choices,
    }),
  }));
  routes.on(importsApi.drop, async ({ params }) => {
    await dropReview(deps, params.site);
    return { done: true as const };
  });
  routes.on(importsApi.survey, ({ params }) => survey(deps.db, params.site));
}
