/** Snags in the database, each under a key that stays the same from check to check. */
import { checkOf, type Severity } from '@fastigium/core/checks';
import { publishedPath } from '@fastigium/core/release';
import type { Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { sha256 } from '../../threads/tasks.ts';
import { allPages } from '../draft/pageFiles.ts';

export interface NewSnag {
  readonly code: string;
  readonly path: string;
  readonly page: string | undefined;
  readonly detail: string;
  readonly start: number | undefined;
  readonly end: number | undefined;
  readonly mend: { readonly label: string; readonly asks: string | undefined } | undefined;
}

/** Which of a file's snags are meant: those of the page alone, of its links, or of the whole site. */
export type SnagFamily = 'page' | 'links' | 'site';

const LINK_CODES = ['link-dead', 'anchor-dead'];
export const SITE_CODES = [
  'title-doubled', 'description-doubled', 'page-orphan', 'site-shut', 'file-secret', 'name-case', 'sample-picture', 'picture-doubled', 'picture-heavy',
  'menu-differs', 'listing-content', 'listing-unreached',
];

/** Page ids by the path a page is published at: a snag stays the page's own when the page moves. */
export async function subjectsOf(tx: Queries, _site: string, importId: string, draft: Draft): Promise<Map<string, string>> {
  return new Map([...(await allPages(tx, importId, draft)).values()].map((page) => [publishedPath(draft, page), page.id]));
}

/** Puts new snags of a family in place of those that some files had; of the whole site, in place of all. */
export async function keepSnags(tx: Queries, site: string, paths: readonly string[], family: SnagFamily, snags: readonly NewSnag[]): Promise<void> {
  if (family === 'site') await tx.run('delete from snag where site_id = $1 and code = any($2)', [site, SITE_CODES]);
  else if (family === 'links') await tx.run('delete from snag where site_id = $1 and path = any($2) and code = any($3)', [site, paths, LINK_CODES]);
  else await tx.run('delete from snag where site_id = $1 and path = any($2) and code <> all ($3)', [site, paths, [...LINK_CODES, ...SITE_CODES]]);
  const counts = new Map<string, number>();
  const keyed = snags.map((snag) => {
    const identity = JSON.stringify([snag.code, snag.page ?? snag.path, snag.detail]);
    const nth = counts.get(identity) ?? 0;
    counts.set(identity, nth + 1);
    return { ...snag, key: sha256(`${identity} ${nth}`).slice(0, 24), severity: severityOf(snag.code) };
  });
  await tx.run(
    `insert into snag (site_id, key, code, severity, path, page_id, detail, span_start, span_end, mend_label, mend_asks)
     select $1, * from unnest($2::text[], $3::text[], $4::text[], $5::text[], $6::uuid[], $7::text[], $8::int[], $9::int[], $10::text[], $11::text[])
     on conflict (site_id, key) do nothing`,
    [site, keyed.map((s) => s.key), keyed.map((s) => s.code), keyed.map((s) => s.severity), keyed.map((s) => s.path), keyed.map((s) => s.page ?? null), keyed.map((s) => s.detail.slice(0, 2000)),
      keyed.map((s) => s.start ?? null), keyed.map((s) => s.end ?? null), keyed.map((s) => s.mend?.label ?? null), keyed.map((s) => s.mend?.asks ?? null)],
  );
}

function severityOf(code: string): Severity {
  const check = checkOf(code);
  if (!check) throw new Error(`there is no check ${code}`);
  return check.severity;
}

export async function forgetSnags(tx: Queries, site: string, paths: readonly string[]): Promise<void> {
  if (paths.length > 0) await tx.run('delete from snag where site_id = $1 and path = any($2)', [site, paths]);
}
