import { redirectProofApi } from '@fastigium/contracts/api/redirectProof';
import { redirectsApi } from '@fastigium/contracts/api/redirects';
import { ruleFilesApi } from '@fastigium/contracts/api/ruleFiles';
import { formatAddress, parseAddress } from '@fastigium/core/address';
import type { Sighting } from '@fastigium/core/redirects/gather';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { ANSWERED, type Routes } from '../../http/route.ts';
import { readRuleFile } from './files/read.ts';
import { writeRules } from './files/write.ts';
import { takeFetched } from './gather/gatherJob.ts';
import { takeFile, takePasted } from './gather/file.ts';
import { readGatherings } from './gather/gatherings.ts';
import { takeGathering } from './gather/take.ts';
import { addOldDomain, readOldDomains, removeOldDomain } from '../draft/oldDomains.ts';
import { readOneOldAddress } from './one.ts';
import { readPatternProposals, readPatternRows, previewPattern } from './patterns.ts';
import { readRedirectProof } from './prove/proof.ts';
import { proveSoon } from './prove/proveJob.ts';
import { writeProofPage, writeProofTable } from './prove/report.ts';
import { readRedirectRows } from './rows.ts';
import { suggestSoon } from '../shared/suggestSoon.ts';

export function addRedirectsRoutes(routes: Routes, deps: Deps): void {
  routes.on(redirectsApi.rows, ({ params }) => readRedirectRows(deps, params.site));
  routes.on(redirectsApi.one, ({ params, query }) => readOneOldAddress(deps, params.site, query.from));
  routes.on(redirectsApi.gatherings, async ({ params }) => ({
    searchIndex: deps.config.world.searchIndex ?? null,
    done: await readGatherings(deps.db, params.site),
  }));
  routes.on(redirectsApi.add, ({ params, body, person }) =>
    addListed(deps, { site: params.site, by: person.id }, body.addresses),
  );
  routes.on(redirectsApi.paste, ({ params, body, person }) =>
    takePasted(deps, { site: params.site, by: person.id, text: body.text, domain: body.domain }),
  );
  routes.on(redirectsApi.file, ({ params, query, person, upload }) =>
    takeFile(
      deps,
      {
        site: params.site,
        by: person.id,
        fileName: query.fileName,
        columns: query.columns,
        hasNames: query.hasNames === undefined ? undefined : query.hasNames === 'yes',
        domain: query.domain,
      },
      upload,
    ),
  );
  routes.on(redirectsApi.fetched, ({ params, body, person }) =>
    takeFetched(deps, { site: params.site, by: person.id, ...body }),
  );
  routes.on(redirectsApi.oldDomains, ({ params }) => readOldDomains(deps.db, params.site));
  routes.on(redirectsApi.addOldDomain, async ({ params, body, person }) => ({
    host: await deps.db.transaction((tx) => addOldDomain(tx, params.site, person.id, body.host)),
  }));
  routes.on(redirectsApi.removeOldDomain, async ({ params, query }) => {
    await deps.db.transaction((tx) => removeOldDomain(tx, params.site, query.host));
    return { done: true as const };
  });
  routes.on(redirectsApi.kind, async ({ params, body, person }) => {
    await deps.db.transaction(async (tx) => {
      await tx.run(
        `update old_address set kind = case when $3 then 'noise' else 'page' end, noise = null, kind_by = $4 where site_id = $1 and address = any($2)`,
        [params.site, body.addresses, body.noise, person.id],
      );
      await announce(tx, { kind: 'redirects', site: params.site });
      await suggestSoon(tx, params.site, person.id);
    });
    return { done: true as const };
  });
  routes.on(redirectProofApi.get, ({ params }) => readRedirectProof(deps, params.site));
  routes.on(redirectProofApi.ask, async ({ params, person }) => ({
    job: await proveSoon(deps, params.site, person.id),
  }));
  routes.on(redirectProofApi.table, async ({ params, res }) => {
    res
      .type('text/csv')
      .attachment('proof-of-redirects.csv')
      .send(writeProofTable(await readRedirectProof(deps, params.site)));
    return ANSWERED;
  });
  routes.on(redirectProofApi.report, async ({ params, res }) => {
    const { name } = await deps.db.one<{ name: string }>('select name from site where id = $1', [params.site]);
    res
      .type('text/html')
      .attachment('proof-of-redirects.html')
      .send(
        writeProofPage(await readRedirectProof(deps, params.site), {
          site: name,
          madeAt: new Date(deps.world.clock.nowMs()).toISOString(),
        }),
      );
    return ANSWERED;
  });
  routes.on(ruleFilesApi.write, ({ params, query }) => writeRules(deps, params.site, query));
  routes.on(ruleFilesApi.read, ({ params, query, upload }) =>
    readRuleFile(deps, params.site, { fileName: query.fileName, form: query.form, stream: upload.read() }),
  );
  routes.on(redirectsApi.patterns, ({ params }) => readPatternRows(deps, params.site));
  routes.on(redirectsApi.proposals, ({ params }) => readPatternProposals(deps, params.site));
  routes.on(redirectsApi.previewPattern, ({ params, body }) => previewPattern(deps, params.site, body));
  routes.on(redirectsApi.suggest, async ({ params, person }) => ({
    job: await deps.db.transaction((tx) => suggestSoon(tx, params.site, person.id)),
  }));
}

/** A list given with the site or by the programming interface; what is no address is told. */
export async function addListed(
  deps: Deps,
  asking: { site: string; by: string },
  list: readonly { address: string; visits: number | null }[],
): Promise<{ taken: number; notAddresses: string[] }> {
  const notAddresses: string[] = [];
  const sightings = list.flatMap(({ address: written, visits }): Sighting[] => {
    const parsed = parseAddress(written);
    if (parsed.ok) return [{ address: formatAddress(parsed.address), host: parsed.host, visits: visits ?? undefined }];
    notAddresses.push(written);
    return [];
  });
  return deps.db.transaction(async (tx) => {
    const { read } = await takeGathering(tx, { ...asking, source: 'list', name: '' }, sightings, []);
    await suggestSoon(tx, asking.site, asking.by);
    return { taken: read, notAddresses };
  });
}
