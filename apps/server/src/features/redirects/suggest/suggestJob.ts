/** Suggestions for all old addresses of a site, reckoned by a worker thread and kept until the next time. */
import { formatAddress } from '@fastigium/core/address';
import type { Match, NewPage, OldPage, Settled } from '@fastigium/core/redirects/matching';
import type { Draft } from '@fastigium/core/site';
import { MessageChannel } from 'node:worker_threads';
import { announce } from '../../../db/events.ts';
import type { Queries } from '../../../db/database.ts';
import type { Deps } from '../../../deps.ts';
import type { JobHandler, JobRun } from '../../../jobs/queue.ts';
import { compileDraft } from '../../draft/compileDraft.ts';
import { readDraftReadings } from '../../draft/readings.ts';
import { readKnownFiles, readKnownPages } from './knownPages.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

interface OldRow extends Record<string, unknown> {
  readonly address: string;
  readonly title: string | null;
  readonly text: string | null;
  readonly headings: string[];
  readonly language: string | null;
  readonly kind: 'page' | 'file';
}

export function suggestJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      if (!(await deps.db.maybeOne('select 1 from site where id = $1 and current_import is not null', [job.site])))
        return;
      const compiled = await compileDraft(deps, job.site);
      const { draft, importId } = compiled;
      const olds = await deps.db.many<OldRow>(
        `select address, title, text, headings, language, kind from old_address where site_id = $1 and kind <> 'noise'`,
        [job.site],
      );
      const [pages, files] = [
        await readKnownPages(deps.db, importId, draft, await readDraftReadings(deps, job.site, compiled)),
        await readKnownFiles(deps.db, importId, draft),
      ];
      const ofKind = (kind: OldRow['kind']) =>
        olds
          .filter((old) => old.kind === kind)
          .map(({ address, title, text, headings, language }): OldPage => ({
            address,
            title: title ?? undefined,
            text: text ?? undefined,
            headings,
            language: language ?? undefined,
          }));
      const settled = listSettled(draft, pages);
      const matches = await matchInThread(deps, job, ofKind('page'), pages, settled, olds.length);
      const ofFiles = await matchInThread(deps, job, ofKind('file'), files, [], olds.length);
      await deps.db.transaction(async (tx) => {
        await keep(tx, job.site, matches, ofFiles);
        await announce(tx, { kind: 'redirects', site: job.site });
      });
    },
  };
}

/** What people decided, page by page, and what moved by itself. */
function listSettled(draft: Draft, pages: readonly NewPage[]): Settled[] {
  const byAddress = new Map(pages.map(({ id, address }) => [address, id]));
  return [...draft.redirects.values()].flatMap((redirect): Settled[] => {
    if (redirect.status === 410) return [{ address: redirect.from, page: null }];
    const { target } = redirect;
    const page =
      target.kind === 'page'
        ? target.page
        : target.kind === 'address'
          ? byAddress.get(formatAddress({ path: target.address.split(/[?#]/)[0] ?? '', query: undefined }))
          : undefined;
    // Sent to the home page, an address had no counterpart; a file or another site teaches nothing about pages.
    return page === undefined
      ? []
      : [{ address: redirect.from, page: page === byAddress.get(`${draft.basePath}/`) ? null : page }];
  });
}

async function matchInThread(
  deps: Deps,
  job: JobRun,
  olds: readonly OldPage[],
  pages: readonly NewPage[],
  settled: readonly Settled[],
  all: number,
): Promise<readonly Match[]> {
  if (olds.length === 0 || pages.length === 0)
    return olds.map(({ address }) => ({ address, suggestions: [], none: 1 }));
  const { port1, port2 } = new MessageChannel();
  port1.on('message', (share: number) =>
    job.report({
      step: progressStep('comparing-pages'),
      done: Math.round(share * all),
      total: all,
      unit: 'addresses',
    }),
  );
  try {
    return await deps.threads.match({ olds, pages, settled, port: port2 }, job.signal);
  } finally {
    port1.close();
  }
}

async function keep(tx: Queries, site: string, ofPages: readonly Match[], ofFiles: readonly Match[]): Promise<void> {
  const rows = [
    ...ofPages.map((match) => ({ ...match, isPage: true })),
    ...ofFiles.map((match) => ({ ...match, isPage: false })),
  ].flatMap(({ address, suggestions, isPage }) =>
    suggestions.map(({ page, probability }, at) => ({
      address,
      rank: at + 1,
      page: isPage ? page : null,
      path: isPage ? null : page,
      probability,
    })),
  );
  await tx.run('delete from suggestion where site_id = $1', [site]);
  // An address that was taken away meanwhile has none.
  await tx.run(
    `insert into suggestion (site_id, address, rank, page_id, path, probability)
     select $1, t.address, t.rank, t.page_id, t.path, t.probability from unnest($2::text[], $3::smallint[], $4::uuid[], $5::text[], $6::real[]) as t(address, rank, page_id, path, probability)
       join old_address o on o.site_id = $1 and o.address = t.address`,
    [
      site,
      rows.map((r) => r.address),
      rows.map((r) => r.rank),
      rows.map((r) => r.page),
      rows.map((r) => r.path),
      rows.map((r) => r.probability),
    ],
  );
  const all = [...ofPages, ...ofFiles];
  await tx.run(
    'update old_address o set none = t.none from unnest($2::text[], $3::real[]) as t(address, none) where o.site_id = $1 and o.address = t.address',
    [site, all.map(({ address }) => address), all.map(({ none }) => none)],
  );
}
