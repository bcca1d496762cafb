/** What compiling pages of a draft takes, read once for all of them. */
import { planPage, type PagePlan, type SharedPlan } from '@fastigium/core/release';
import { isOut, withNewest, findWrittenFrom, type Draft } from '@fastigium/core/site';
import type { Progress } from '@fastigium/contracts/api/jobs';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { compilePages, type CompiledFile } from '../../threads/tasks.ts';
import { readContentsByHash } from '../shared/contents.ts';
import { readAffectedPages } from './affectedPages.ts';
import { compareHeads, readHeads, readHeadSources, setsHeads, type Heads, type HeadSources } from './heads/heads.ts';
import { compareListings, readListings, findNewest, planListingPages, type ListingInDraft } from './listings.ts';
import { readMenusInDraft, type MenusInDraft } from './menus.ts';
import { readPagesById, type SourcePage } from './pageFiles.ts';
import { readBranchAddresses, readSharedPlan, withHead } from './sharedPlan.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

/** The site and the import a draft stands on. */
export interface Basis {
  readonly site: string;
  readonly importId: string;
  readonly origin: string | undefined;
}

export interface ReadDraft {
  readonly importId: string;
  /** With the newest entries of lists for what leads to them. */
  readonly draft: Draft;
  readonly menus: MenusInDraft;
  readonly listings: ReadonlyMap<string, ListingInDraft>;
  /** Undefined for a draft in which nothing was set for heads: then no record is read. */
  readonly heads: Heads | undefined;
}

/** @param sources what heads are made from, where it is read already */
export async function readDraft(
  tx: Queries,
  { site, importId, origin }: Basis,
  decided: Draft,
  sources?: HeadSources,
): Promise<ReadDraft> {
  const listings = await readListings(tx, site, importId, decided);
  const draft = withNewest(decided, findNewest(listings));
  return {
    importId,
    draft,
    menus: await readMenusInDraft(tx, importId, draft),
    listings,
    heads: setsHeads(draft)
      ? await readHeads(tx, importId, draft, sources ?? (await readHeadSources(tx, site, importId)), origin)
      : undefined,
  };
}

/** Two drafts of the same import; what both need is read once. */
export async function readBoth(
  tx: Queries,
  basis: Basis,
  before: { readonly draft: Draft; readonly origin: string | undefined },
  after: Draft,
): Promise<{ before: ReadDraft; after: ReadDraft }> {
  const sources =
    setsHeads(before.draft) || setsHeads(after) ? await readHeadSources(tx, basis.site, basis.importId) : undefined;
  return {
    before: await readDraft(tx, { ...basis, origin: before.origin }, before.draft, sources),
    after: await readDraft(tx, basis, after, sources),
  };
}

/** Every page whose bytes may differ between two drafts; those of a list only with the files it makes itself. */
export async function readPagesThatMayDiffer(
  tx: Queries,
  before: ReadDraft,
  after: ReadDraft,
): Promise<Map<string, SourcePage>> {
  const { importId } = after;
  const pages = await readAffectedPages(tx, importId, before.draft, after.draft, {
    before: before.menus,
    after: after.menus,
  });
  const more = [...compareHeads(before.heads, after.heads), ...compareListings(before.listings, after.listings)];
  for (const [id, page] of await readPagesById(tx, importId, after.draft, more)) pages.set(id, page);
  return pages;
}

/** Pages compiled at once; small enough for progress and cancelling, large enough for the threads. */
const PAGES_A_BATCH = 64;
/** Up to here the way to a thread and back costs more than the work. */
const INLINE_PAGES = 4;

export interface CompileRun {
  readonly signal?: AbortSignal | undefined;
  readonly report?: ((progress: Progress) => void) | undefined;
}

export interface CompiledOf {
  readonly page: SourcePage;
  readonly file: CompiledFile;
}

/** What is done to each page; of a list, to each page it consists of. */
export async function planPages(
  tx: Queries,
  { draft, importId, listings, heads }: ReadDraft,
  pages: readonly SourcePage[],
): Promise<{ page: SourcePage; plan: PagePlan }[]> {
  const addressOf = await readBranchAddresses(tx, importId, draft);
  return pages.flatMap((page) => {
    const listing = listings.get(page.id);
    const plans = listing
      ? planListingPages(draft, listing, addressOf)
      : [planPage(draft, page, findWrittenFrom(page), addressOf)];
    return plans.map((plan) => ({ page, plan: withHead(plan, heads) }));
  });
}

/** The files that a draft publishes for some pages, batch by batch; what it does not publish is passed over. */
export async function* compileIn(
  deps: Deps,
  tx: Queries,
  read: ReadDraft,
  pages: readonly SourcePage[],
  { signal, report }: CompileRun = {},
): AsyncGenerator<readonly CompiledOf[]> {
  const { draft, importId, menus } = read;
  const shared = await readSharedPlan(tx, importId, draft, menus);
  const shown = await planPages(
    tx,
    read,
    pages.filter(({ id }) => !draft.notReady.has(id) && !isOut(draft, id)),
  );
  const atOnce = PAGES_A_BATCH * deps.threads.size;
  for (let from = 0; from < shown.length; from += atOnce) {
    signal?.throwIfAborted();
    report?.({ step: progressStep('compiling-pages'), done: from, total: shown.length, unit: 'pages' });
    const batch = shown.slice(from, from + atOnce);
    const files = await compileBatch(deps, tx, batch, shared, signal);
    yield files.flatMap((file, index) => {
      const page = batch[index]?.page;
      return page ? [{ page, file }] : [];
    });
  }
}

async function compileBatch(
  deps: Deps,
  tx: Queries,
  pages: readonly { page: SourcePage; plan: PagePlan }[],
  shared: SharedPlan,
  signal?: AbortSignal,
): Promise<readonly CompiledFile[]> {
  const contents = await readContentsByHash(
    tx,
    pages.map(({ page }) => page.hash),
  );
  const work = pages.map(({ page, plan }) => {
    const bytes = contents.get(page.hash);
    if (bytes === undefined) throw new Error(`content ${page.hash} is not kept`);
    return { plan, bytes };
  });
  if (work.length <= INLINE_PAGES) return compilePages(work, shared);
  const share = Math.ceil(work.length / deps.threads.size);
  const shares = Array.from({ length: deps.threads.size }, (_, i) => work.slice(i * share, (i + 1) * share)).filter(
    (part) => part.length > 0,
  );
  return (await Promise.all(shares.map((part) => deps.threads.compile(part, shared, signal)))).flat();
}
