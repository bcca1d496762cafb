/** One page of a draft alone, as it is or was. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Edit, PageDocument } from '@fastigium/core/html';
import {
  compilePage,
  findFileHeaders,
  findPublishedPath,
  type CompiledPage,
  type PagePlan,
  type SharedPlan,
} from '@fastigium/core/release';
import { isOut, withRemoved, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { readOrigin } from './heads/heads.ts';
import { foldDraftAt, readHistory, readSiteState } from './history.ts';
import { readAllPages, type SourcePage } from './pageFiles.ts';
import { planPages, readDraft } from './readDraft.ts';
import { readSharedPlan } from './sharedPlan.ts';

/** One page of the draft as it stands, with further edits; undefined where no page is published at the path. */
export async function compileWith(
  deps: Deps,
  site: string,
  path: string,
  extra: (document: PageDocument) => readonly Edit[],
): Promise<Uint8Array | undefined> {
  return (await compileOne(deps.db, site, await readDraftNow(deps, site), path, () => true, extra))?.bytes;
}

/** A removed page as it was, at the first of some paths that one was published at. */
export async function compileRemoved(
  deps: Deps,
  site: string,
  paths: readonly string[],
): Promise<{ path: string; bytes: Uint8Array; headers: Readonly<Record<string, string>> } | undefined> {
  const now = await readDraftNow(deps, site);
  const draft = { ...withRemoved(now.draft), removals: new Map(), removedSections: new Map() };
  for (const path of paths) {
    const page = await compileOne(deps.db, site, { ...now, draft }, path, (id) => isOut(now.draft, id));
    if (page) return { path: page.path, bytes: page.bytes, headers: findFileHeaders(page.path, page.encoding) };
  }
  return undefined;
}

async function readDraftNow({ db }: Deps, site: string): Promise<{ draft: Draft; importId: string }> {
  const { currentImport: importId, version } = await readSiteState(db, site);
  if (importId === null) throw new DomainError('nothing-imported');
  return { importId, draft: foldDraftAt(await readHistory(db, site), version) };
}

/** What compiling one page takes: for whoever reads in it as it will be published. */
export async function planOne(
  db: Queries,
  site: string,
  { draft, importId }: { draft: Draft; importId: string },
  page: SourcePage,
): Promise<{ plan: PagePlan; shared: SharedPlan }> {
  const read = await readDraft(db, { site, importId, origin: await readOrigin(db, site) }, draft);
  const [first] = await planPages(db, read, [page]);
  if (!first) throw new Error(`page ${page.id} has no plan`);
  return { plan: first.plan, shared: await readSharedPlan(db, importId, draft, read.menus) };
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
  const read = await readDraft(db, { site, importId, origin: await readOrigin(db, site) }, draft);
  const pages = [...(await readAllPages(db, importId, draft)).values()].filter(
    (page) => isInQuestion(page.id) && (read.listings.has(page.id) || findPublishedPath(draft, page) === path),
  );
  const found = (await planPages(db, read, pages)).find(({ plan }) => plan.path === path);
  if (!found) return undefined;
  const shared = await readSharedPlan(db, importId, draft, read.menus);
  return compilePage(found.plan, shared, await readContent(db, found.page.hash), extra);
}
