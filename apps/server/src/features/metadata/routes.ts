import { metadataApi } from '@fastigium/contracts/api/metadata';
import { checkData } from '@fastigium/core/structured';
import type { Deps } from '../../deps.ts';
import { ANSWERED, type Routes } from '../../http/route.ts';
import { readCsv, writeTableCsv, takeCsv } from './csv.ts';
import { makeIcons } from './icons.ts';
import { readPageHead } from './pageHead.ts';
import { readMetadata } from './table.ts';

export function addMetadataRoutes(routes: Routes, deps: Deps): void {
  routes.on(metadataApi.table, ({ params }) => readMetadata(deps, params.site));
  routes.on(metadataApi.page, ({ params }) => readPageHead(deps, params.site, params.page));
  routes.on(metadataApi.csv, async ({ params, res }) => {
    res
      .type('text/csv')
      .attachment('metadata.csv')
      .send(await writeTableCsv(deps.db, params.site));
    return ANSWERED;
  });
  routes.on(metadataApi.readCsv, ({ params, upload }) => readCsv(deps.db, params.site, upload.read()));
  routes.on(metadataApi.takeCsv, ({ params, query, person, upload }) =>
    takeCsv(deps, params.site, person, query.version, upload.read()),
  );
  routes.on(metadataApi.checkData, ({ body }) => Promise.resolve({ problems: checkData(body.text) }));
  routes.on(metadataApi.icons, ({ params, query, person, upload }) =>
    makeIcons(deps, params.site, person, { ...query, stream: upload.read() }),
  );
}
