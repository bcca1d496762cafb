/** One page of a draft alone, as it is or was. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Edit, PageDocument } from '@fastigium/core/html';
import {
  compilePage,
  fileHeaders,
  planPage,
  publishedPath,
  type CompiledPage,
  type PagePlan,
  type SharedPlan,
} from '@fastigium/core/release';
import { isOut, withRemoved, writtenFrom, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { contentBytes } from '../contents.ts';
import { headsOf, headSources, originOf, setsHeads } from './heads/heads.ts';
import { draftAt, history, siteState } from './history.ts';
import { listingsInDraft, plansOfListing } from './listings.ts';
import { menusInDraft } from './menus.ts';
import { allPages, type SourcePage } from './pageFiles.ts';
import { branchAddresses, sharedPlan, withHead } from './sharedPlan.ts';

/** One page of the draft as it stands, with further edits; undefined where no page is published at the path. */
export async function compileWith(
  deps: Deps,
  site: string,
  path: string,
  extra: (document: PageDocument) => readonly Edit[],
): Promise<Uint8Array | undefined> {
  return (await compileOne(deps.db, site, await draftNow(deps, site), path, () => true, extra))?.bytes;
}

/** A removed page as it was, at the first of some paths that one was published at. */
export async function compileRemoved(
  deps: Deps,
  site: string,
  paths: readonly string[],
): Promise<{ bytes: Uint8Array; headers: Readonly<Record<string, string>> } | undefined> {
  const now = await draftNow(deps, site);
  const draft = { ...withRemoved(now.draft), removals: new Map(), removedSections: new Map() };
  for (const path of paths) {
    const page = await compileOne(deps.db, site, { ...now, draft }, path, (id) => isOut(now.draft, id));
    if (page) return { bytes: page.bytes, headers: fileHeaders(page.path, page.encoding) };
  }
  return undefined;
}

async function draftNow({ db }: Deps, site: string): Promise<{ draft: Draft; importId: string }> {
  const { currentImport: importId, version } = await siteState(db, site);
  if (importId === null) throw new DomainError('nothing-imported');
  return { importId, draft: draftAt(await history(db, site), version) };
}

/** What compiling one page takes: for whoever reads in it as it will be published. */
export async function planOne(
  db: Queries,
  site: string,
  { draft, importId }: { draft: Draft; importId: string },
  page: SourcePage,
): Promise<{ plan: PagePlan; shared: SharedPlan }> {
  const listing = (await listingsInDraft(db, site, importId, draft)).get(page.id);
  const addressOf = await branchAddresses(db, importId, draft);
  const [first] = listing ? plansOfListing(draft, listing, addressOf) : [];
  const plan = first ?? planPage(draft, page, writtenFrom(page), addressOf);
  const heads = setsHeads(draft)
    ? await headsOf(db, importId, draft, await headSources(db, site, importId), await originOf(db, site))
    : undefined;
  return {
    plan: withHead(plan, heads),
    shared: await sharedPlan(db, importId, draft, await menusInDraft(db, importId, draft)),
  };
}

/** The page that a draft publishes at a path, of those in question; undefined where none does. */
export async function compileOne(
  db: Queries,
  site: string,
  { draft, importId }: { draft: Draft; importId: string },
  path: string,
  isInQuestion: (id: string) => boolean,
  extra?: (document: PageDocument) => readonly Edit[],
): Promise<CompiledPage | undefined> {
  const addressOf = await branchAddresses(db, importId, draft);
  const listings = await listingsInDraft(db, site, importId, draft);
  for (const page of (await allPages(db, importId, draft)).values()) {
    if (!isInQuestion(page.id)) continue;
    const listing = listings.get(page.id);
    const plans = listing
      ? plansOfListing(draft, listing, addressOf)
      : publishedPath(draft, page) === path
        ? [planPage(draft, page, writtenFrom(page), addressOf)]
        : [];
    const plan = plans.find((each) => each.path === path);
    if (!plan) continue;
    const heads = setsHeads(draft)
      ? await headsOf(db, importId, draft, await headSources(db, site, importId), await originOf(db, site))
      : undefined;
    const shared = await sharedPlan(db, importId, draft, await menusInDraft(db, importId, draft));
    return compilePage(withHead(plan, heads), shared, await contentBytes(db, page.hash), extra);
  }
  return undefined;
}
