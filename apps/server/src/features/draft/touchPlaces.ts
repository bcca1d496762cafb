/** Finding the places a touch means, in the pages it may concern. */
import { isInScope } from '@fastigium/core/release';
import { findDraftAddress, findSiteAddress, findWrittenFrom, type Draft } from '@fastigium/core/site';
import type { Touch } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readContentsByHash } from '../shared/contents.ts';
import type { SourcePage } from './pageFiles.ts';

export interface FoundPlaces {
  readonly page: SourcePage;
  readonly places: number;
  readonly changed: boolean;
}

const PAGES_A_BATCH = 64;

/** A page a touch may concern, and where the draft has it. */
export interface PageInScope {
  readonly page: SourcePage;
  readonly address: string;
}

/** @param pages of the draft, with removed ones where their places are asked for too */
export function findPagesInScope(
  pages: ReadonlyMap<string, SourcePage>,
  draft: Draft,
  { scope }: Pick<Touch, 'scope'>,
): PageInScope[] {
  const root = scope.kind === 'everywhere' ? undefined : pages.get(scope.page);
  const rootAddress = root && findSiteAddress(draft, root);
  return [...pages.values()]
    .filter((page) => isInScope(scope, page.id, findSiteAddress(draft, page), () => rootAddress))
    .map((page) => ({ page, address: findDraftAddress(draft, page) }));
}

/**
 * Of the pages a touch may concern, those with at least one of its places, and those where its place was changed. They
 * are read in worker threads, so no transaction is open meanwhile.
 */
export async function findTouchPlaces(
  { threads, db: queries }: Pick<Deps, 'threads' | 'db'>,
  inScope: readonly PageInScope[],
  touch: Touch,
  signal?: AbortSignal,
): Promise<FoundPlaces[]> {
  const candidates = touch.scope.kind === 'page' ? inScope : await filterHolding(queries, inScope, touch);
  const out: FoundPlaces[] = [];
  for (let from = 0; from < candidates.length; from += PAGES_A_BATCH) {
    signal?.throwIfAborted();
    const batch = candidates.slice(from, from + PAGES_A_BATCH);
    const contents = await readContentsByHash(
      queries,
      batch.map(({ page }) => page.hash),
    );
    const work = batch.flatMap(({ page, address }) => {
      const bytes = contents.get(page.hash);
      return bytes ? [{ page: { id: page.id, before: findWrittenFrom(page), after: address }, bytes }] : [];
    });
    const found = await threads.find(work, [touch], signal);
    batch.forEach(({ page }, index) => {
      const place = found[index]?.[0];
      if (place && (place.places > 0 || place.changed)) out.push({ page, ...place });
    });
  }
  return out;
}

/**
 * The pages whose source holds the longest plain word of what the touch looks for. Pages in other
 * encodings than those that write such words as ASCII does are all looked at.
 */
async function filterHolding(queries: Queries, pages: readonly PageInScope[], touch: Touch): Promise<PageInScope[]> {
  const word = findLongestWord(touch);
  if (word === undefined) return [...pages];
  const rows = await queries.many<{ hash: string }>(
    `select hash from content where hash = any($1) and (position($2::bytea in bytes) > 0 or get_byte(bytes || '\\x00'::bytea, 0) in (254, 255) or position('\\x00'::bytea in substring(bytes from 1 for 4)) > 0)`,
    [[...new Set(pages.map(({ page }) => page.hash))], Buffer.from(word, 'latin1')],
  );
  const found = new Set(rows.map(({ hash }) => hash));
  return pages.filter(({ page }) => found.has(page.hash));
}

function findLongestWord(touch: Touch): string | undefined {
  const text =
    'place' in touch ? touch.place.mark : touch.kind === 'picture' ? (touch.from.split('/').at(-1) ?? '') : '';
  return [...text.matchAll(/[A-Za-z0-9]{3,}/g)].map(([found]) => found).sort((a, b) => b.length - a.length)[0];
}

/** Keeps where a touch stands, for compiling to know. Touches of one page need no keeping: their scope says it. */
export async function keepTouchPlaces(
  tx: Queries,
  site: string,
  importId: string,
  seq: number,
  found: readonly FoundPlaces[],
): Promise<void> {
  await tx.run('delete from touch_place where import_id = $1 and seq = $2', [importId, seq]);
  await tx.run(
    'insert into touch_place (site_id, import_id, seq, page_id, places, changed) select $1, $2, $3, * from unnest($4::uuid[], $5::int[], $6::boolean[])',
    [
      site,
      importId,
      seq,
      found.map(({ page }) => page.id),
      found.map(({ places }) => places),
      found.map(({ changed }) => changed),
    ],
  );
}
