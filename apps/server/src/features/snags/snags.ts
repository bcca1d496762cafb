/** Snags as people see them: listed, looked at in the source, dismissed, mended. */
import { isDeepStrictEqual } from 'node:util';
import type { Snag, Snags } from '@fastigium/contracts/api/snags';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile } from '@fastigium/core/address';
import {
  ALL_CHECKS,
  readCheckedPage,
  describeConflict,
  METADATA_CODES,
  PAGE_CHECKS,
  createRemedy,
  createCheckTitle,
} from '@fastigium/core/checks';
import { decodeSource, placeOfSpan, type SourcePlace } from '@fastigium/core/html';
import { type readPictureSize } from '@fastigium/core/picture';
import { labelTitle } from '@fastigium/core/site';
import type { Part } from '@fastigium/core/messages';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { decide } from '../draft/decide.ts';
import { readSiteState } from '../draft/history.ts';
import { openPage } from '../draft/openPage.ts';
import { readTitleEndings } from '../draft/prepare/situation.ts';
import { readEntries } from '../shared/manifests.ts';
import { readDraftHeads } from '../metadata/table.ts';
import { deriveInitials } from '../shared/initials.ts';

interface Row extends Record<string, unknown> {
  key: string;
  code: string;
  severity: 'must' | 'should';
  path: string;
  page: string | null;
  detail: Part;
  start: number | null;
  mend: Snag['mend'];
  title: string | null;
  reason: string | null;
  byId: string | null;
  byName: string | null;
  at: Date | null;
}

/** No more than a ledger shows smoothly. */
const MOST = 50_000;

export async function readSnags(deps: Deps, site: string): Promise<Snags> {
  const { db } = deps;
  const { version, currentImport } = await readSiteState(db, site);
  if (currentImport === null) throw new DomainError('nothing-imported');
  const state = await db.maybeOne<{ version: number }>('select version from check_state where site_id = $1', [site]);
  const rows = await db.many<Row>(
    `select s.key, s.code, s.severity, s.path, s.page_id as page, coalesce(s.message, to_jsonb(s.detail)) as detail, s.span_start as start, s.mend,
            f.title, d.reason, p.id as "byId", p.name as "byName", d.at
       from snag s left join page_fact f using (site_id, path) left join snag_dismissal d using (site_id, key) left join person p on p.id = d.by
      where s.site_id = $1 order by s.path, s.span_start nulls first, s.key limit $2`,
    [site, MOST],
  );
  const endings = await readTitleEndings(db, currentImport);
  return {
    version: state?.version ?? 0,
    isCurrent: state?.version === version,
    kinds: ALL_CHECKS.map(({ code, severity, source }) => ({
      code,
      severity,
      title: createCheckTitle(code),
      how: createRemedy(code),
      source,
    })),
    snags: rows.map((row) => ({
      key: row.key,
      code: row.code,
      severity: row.severity,
      path: row.path,
      page: row.page,
      detail: row.detail,
      hasPlace: row.start !== null,
      subject:
        row.page !== null || row.title !== null
          ? labelTitle(row.title ?? '', endings) || findAddressOfFile(row.path)
          : `/${row.path}`,
      mend: row.page === null && row.code !== 'redirect-chain' ? null : row.mend,
      dismissed:
        row.reason !== null && row.byId !== null && row.byName !== null && row.at
          ? {
              reason: row.reason,
              by: { id: row.byId, name: row.byName, initials: deriveInitials(row.byName) },
              at: row.at.toISOString(),
            }
          : null,
    })),
  };
}

interface KnownSnag extends Record<string, unknown> {
  code: string;
  path: string;
  page: string | null;
  detail: Part;
  start: number | null;
  end: number | null;
}

async function requireSnag(queries: Queries, site: string, key: string): Promise<KnownSnag> {
  const row = await queries.maybeOne<KnownSnag>(
    'select code, path, page_id as page, coalesce(message, to_jsonb(detail)) as detail, span_start as start, span_end as "end" from snag where site_id = $1 and key = $2',
    [site, key],
  );
  if (!row) throw new DomainError('not-found', { what: 'snag' });
  return row;
}

/** In the file as it would be published, which is what the check read. */
export async function readSnagPlace(deps: Deps, site: string, key: string): Promise<SourcePlace> {
  const { path, start, end } = await requireSnag(deps.db, site, key);
  if (start === null || end === null) throw new DomainError('not-found', { what: 'placeInSource' });
  const { shards } = await compileDraft(deps, site);
  const entry = (await readEntries(deps.db, shards, [path])).get(path);
  if (!entry) throw new DomainError('not-found', { what: 'file' });
  return placeOfSpan(decodeSource(await readContent(deps.db, entry.hash)).text, start, end);
}

export async function dismissSnag(deps: Deps, site: string, by: string, key: string, reason: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await requireSnag(tx, site, key);
    await tx.run(
      'insert into snag_dismissal (site_id, key, reason, by) values ($1, $2, $3, $4) on conflict (site_id, key) do update set reason = $3, by = $4, at = now()',
      [site, key, reason, by],
    );
    await announce(tx, { kind: 'snags', site });
  });
}

export async function recallSnag(deps: Deps, site: string, key: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await tx.run('delete from snag_dismissal where site_id = $1 and key = $2', [site, key]);
    await announce(tx, { kind: 'snags', site });
  });
}

/** The check is run on the page's source, where touches are anchored; the finding of the same words is the one meant, else the one in the same order. */
export async function mendSnag(
  deps: Deps,
  site: string,
  by: { id: string; name: string },
  key: string,
  request: { version: number; answer: string },
) {
  const snag = await requireSnag(deps.db, site, key);
  const found = PAGE_CHECKS.find(({ code }) => code === snag.code);
  if (snag.code === 'redirect-chain')
    return decide(deps, site, by, {
      version: request.version,
      decision: { kind: 'chains-flattened', addresses: [`/${snag.path}`] },
    });
  if (snag.page !== null && snag.code === 'head-conflict')
    return useWhatIsSet(deps, site, by, snag.page, snag.detail, request.version);
  if (snag.page === null || !found) throw new DomainError('snag-not-mendable');
  const { page, bytes, importId } = await openPage(deps.db, site, snag.page);
  const sizes = await readSizesNear(deps.db, importId);
  const findings = [
    ...found.find(
      readCheckedPage(
        { path: page.sourcePath, address: findAddressOfFile(page.sourcePath), bytes },
        { sheetAt: () => undefined, pictureAt: sizes },
      ),
    ),
  ];
  const alike = (
    await deps.db.many<{ key: string }>(
      'select key from snag where site_id = $1 and path = $2 and code = $3 order by span_start',
      [site, snag.path, snag.code],
    )
  ).findIndex((each) => each.key === key);
  const finding = findings.find(({ detail }) => isDeepStrictEqual(detail, snag.detail)) ?? findings[alike];
  const work = finding?.mend?.work(request.answer);
  if (!work) throw new DomainError('snag-not-mendable');
  if (snag.code === 'language-missing' && !/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/.test(request.answer))
    throw new DomainError('language-unreadable', { language: request.answer });
  const scope = { kind: 'page', page: page.id } as const;
  if (work.kind === 'line')
    return decide(deps, site, by, {
      version: request.version,
      decision: { kind: 'head', settings: [{ scope, name: work.name, text: work.text, own: null }] },
    });
  const touch = { ...work, scope } as const;
  return decide(deps, site, by, {
    version: request.version,
    decision: { kind: 'touch', touch } as Parameters<typeof decide>[3]['decision'],
  });
}

/** The page's own tag gives way to what is inherited, and follows it from then on. */
async function useWhatIsSet(
  deps: Deps,
  site: string,
  by: { id: string; name: string },
  page: string,
  detail: Part,
  version: number,
) {
  const { heads } = await readDraftHeads(deps.db, site);
  const line = heads.of(page).lines.find((each) => isDeepStrictEqual(describeConflict(each), detail));
  if (!line) throw new DomainError('snag-not-mendable');
  return decide(deps, site, by, {
    version,
    decision: {
      kind: 'head',
      settings: [{ scope: { kind: 'page', page }, name: line.name, text: null, own: 'replaced' }],
    },
  });
}

/** Sizes of the import's and the draft's pictures, looked up as they are asked for. */
async function readSizesNear(
  queries: Queries,
  importId: string,
): Promise<(address: string) => ReturnType<typeof readPictureSize>> {
  const rows = await queries.many<{ address: string; widthPx: number; heightPx: number }>(
    'select f.address, p.width_px as "widthPx", p.height_px as "heightPx" from source_file f join picture_size p using (hash) where f.import_id = $1 and p.width_px is not null',
    [importId],
  );
  const sizes = new Map(rows.map(({ address, widthPx, heightPx }) => [address, { widthPx, heightPx }]));
  return (address) => sizes.get(address);
}

/** Snags that hold a release: those that must be fixed and nobody has taken on their name. */
export async function countHoldingSnags(queries: Queries, site: string): Promise<number> {
  const { n } = await queries.one<{ n: number }>(
    `select count(*)::int as n from snag s where site_id = $1 and severity = 'must' and not exists (select 1 from snag_dismissal d where d.site_id = s.site_id and d.key = s.key)`,
    [site],
  );
  return n;
}

export async function countSnags(
  queries: Queries,
  site: string,
): Promise<{ must: number; should: number; dismissed: number; metadata: number }> {
  return queries.one<{ must: number; should: number; dismissed: number; metadata: number }>(
    `select count(*) filter (where d.key is null and s.severity = 'must')::int as must, count(*) filter (where d.key is null and s.severity = 'should')::int as should,
            count(*) filter (where d.key is not null)::int as dismissed, count(*) filter (where d.key is null and s.code = any($2))::int as metadata
       from snag s left join snag_dismissal d using (site_id, key) where s.site_id = $1`,
    [site, METADATA_CODES],
  );
}
