/** Snags in the database, each under a key that stays the same from check to check. */
import { checkOf, type Mend, type Severity, type SnagDetail } from '@fastigium/core/checks';
import type { RuleFaultMessage } from '@fastigium/core/redirects';
import { findPublishedPath } from '@fastigium/core/release';
import { isOut, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { speak } from '../../words.ts';
import { readAllPages, readPagesAt, readPagesById, type SourcePage } from '../draft/pageFiles.ts';

export interface NewSnag {
  readonly code: string;
  readonly path: string;
  readonly page: string | undefined;
  readonly detail: SnagDetail | RuleFaultMessage;
  readonly start: number | undefined;
  readonly end: number | undefined;
  readonly mend: Pick<Mend, 'label' | 'asks'> | undefined;
}

const LINK_CODES = ['link-dead', 'anchor-dead'];
/** Snags that only the whole site shows, by what they follow from. */
const SITE_FAMILIES = {
  titles: ['title-doubled'],
  descriptions: ['description-doubled'],
  reach: ['page-orphan', 'site-shut'],
  files: ['file-secret', 'name-case', 'sample-picture', 'picture-doubled', 'picture-heavy'],
  heads: ['head-conflict', 'canonical-gone', 'sitemap-shut'],
  shared: ['share-picture-small'],
  structure: ['menu-differs', 'listing-content', 'listing-unreached'],
  redirects: [
    'redirect-loop',
    'redirect-dead',
    'redirect-no-target',
    'redirect-chain',
    'redirect-idle',
    'redirect-twice',
    'redirect-outside',
    'redirect-over',
  ],
} as const;
export type SiteFamily = keyof typeof SITE_FAMILIES;

/** Page ids by the path a page is published at: a snag stays the page's own when the page moves. */
export type Subjects = (paths: readonly string[]) => Promise<ReadonlyMap<string, string>>;

/** Where few paths are asked for, only their pages are read, and those that moved. */
export function createSubjects(tx: Queries, importId: string, draft: Draft): Subjects {
  const isPlain = draft.style === 'imported' && draft.basePath === '';
  let all: Promise<Map<string, string>> | undefined;
  const byPath = (pages: ReadonlyMap<string, SourcePage>) =>
    new Map([...pages.values()].map((page) => [findPublishedPath(draft, page), page.id]));
  return async (paths) => {
    if (!isPlain || all !== undefined || paths.length > FEW_PATHS)
      return (all ??= readAllPages(tx, importId, draft).then(byPath));
    if (paths.length === 0) return new Map();
    const [standing, moved] = [
      await readPagesAt(tx, importId, paths),
      await readPagesById(tx, importId, draft, [...draft.addresses.keys(), ...draft.nodes.keys()]),
    ];
    return byPath(
      new Map([...standing.filter(({ id }) => !isOut(draft, id)), ...moved.values()].map((page) => [page.id, page])),
    );
  };
}

const FEW_PATHS = 500;

/** Puts the new snags of some pages, those of the page alone, in place of those they had. */
export async function keepPageSnags(
  tx: Queries,
  site: string,
  paths: readonly string[],
  snags: readonly NewSnag[],
): Promise<void> {
  await tx.run('delete from snag where site_id = $1 and path = any($2) and code <> all ($3)', [
    site,
    paths,
    [...LINK_CODES, ...Object.values(SITE_FAMILIES).flat()],
  ]);
  await addSnags(tx, site, snags);
}

/** The same for those of their links. */
export async function keepLinkSnags(
  tx: Queries,
  site: string,
  paths: readonly string[],
  snags: readonly NewSnag[],
): Promise<void> {
  await tx.run('delete from snag where site_id = $1 and path = any($2) and code = any($3)', [site, paths, LINK_CODES]);
  await addSnags(tx, site, snags);
}

/** Puts the new snags of a family in place of all it had; with details, only of those that are about one of them. */
export async function keepSiteFamily(
  tx: Queries,
  site: string,
  family: SiteFamily,
  snags: readonly NewSnag[],
  details?: readonly string[],
): Promise<void> {
  await tx.run('delete from snag where site_id = $1 and code = any($2) and ($3::text[] is null or detail = any($3))', [
    site,
    SITE_FAMILIES[family],
    details?.map(shortenDetail) ?? null,
  ]);
  await addSnags(tx, site, snags);
}

/** What tells it from others: the text itself, or what its message is made of. */
const textOf = (detail: NewSnag['detail']): string => (typeof detail === 'string' ? detail : JSON.stringify(detail));

const shortenDetail = (detail: string): string => detail.slice(0, 2000);

/** The keys of snags in their order: the same from check to check, of several that are alike by their number. */
function deriveKeys(snags: readonly NewSnag[], wordsOf: (detail: NewSnag['detail']) => string): string[] {
  const counts = new Map<string, number>();
  return snags.map(({ code, page, path, detail }) => {
    const identity = JSON.stringify([code, page ?? path, wordsOf(detail)]);
    const nth = counts.get(identity) ?? 0;
    counts.set(identity, nth + 1);
    return hashSha256(`${identity} ${nth}`).slice(0, 24);
  });
}

/** What was dismissed while snags were told by their words stays dismissed now that they are messages. */
async function takeOverDismissals(tx: Queries, site: string, snags: readonly NewSnag[]): Promise<void> {
  const dismissed = new Set(
    (await tx.many<{ key: string }>('select key from snag_dismissal where site_id = $1', [site])).map(({ key }) => key),
  );
  if (dismissed.size === 0) return;
  const [before, now] = [deriveKeys(snags, speak), deriveKeys(snags, textOf)];
  const moved = [...now.entries()].filter(
    ([at, key]) => before[at] !== key && dismissed.has(before[at] ?? '') && !dismissed.has(key),
  );
  if (moved.length > 0)
    await tx.run(
      `update snag_dismissal d set key = m.now from unnest($2::text[], $3::text[]) as m(before, now)
        where d.site_id = $1 and d.key = m.before`,
      [site, moved.map(([at]) => before[at]), moved.map(([, key]) => key)],
    );
}

async function addSnags(tx: Queries, site: string, snags: readonly NewSnag[]): Promise<void> {
  if (snags.length === 0) return;
  await takeOverDismissals(tx, site, snags);
  const keys = deriveKeys(snags, textOf);
  const keyed = snags.map((snag, at) => ({ ...snag, key: keys[at] ?? '', severity: findSeverity(snag.code) }));
  await tx.run(
    `insert into snag (site_id, key, code, severity, path, page_id, detail, message, span_start, span_end, mend)
     select $1, * from unnest($2::text[], $3::text[], $4::text[], $5::text[], $6::uuid[], $7::text[], $8::jsonb[], $9::int[], $10::int[], $11::jsonb[])
     on conflict (site_id, key) do nothing`,
    [
      site,
      keyed.map((s) => s.key),
      keyed.map((s) => s.code),
      keyed.map((s) => s.severity),
      keyed.map((s) => s.path),
      keyed.map((s) => s.page ?? null),
      keyed.map((s) => shortenDetail(textOf(s.detail))),
      keyed.map((s) => (typeof s.detail === 'string' ? null : JSON.stringify(s.detail))),
      keyed.map((s) => s.start ?? null),
      keyed.map((s) => s.end ?? null),
      keyed.map((s) => (s.mend ? JSON.stringify({ label: s.mend.label, asks: s.mend.asks ?? null }) : null)),
    ],
  );
}

function findSeverity(code: string): Severity {
  const check = checkOf(code);
  if (!check) throw new Error(`there is no check ${code}`);
  return check.severity;
}

export async function forgetSnags(tx: Queries, site: string, paths: readonly string[]): Promise<void> {
  if (paths.length > 0) await tx.run('delete from snag where site_id = $1 and path = any($2)', [site, paths]);
}
