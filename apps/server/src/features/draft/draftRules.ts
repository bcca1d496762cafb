/** A draft's rules, with what releases before it have to do with them. */
import { LRUCache } from 'lru-cache';
import { compileRules, type Answered, type CompiledRules } from '@fastigium/core/release';
import { leadsToNewest, readReleased, withNewest, type Draft, type Released } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { foldDraftAt, readHistory } from './history.ts';
import { readListings, findNewest, listListingPaths } from './listings.ts';
import { readPagesOfRules, type SourcePage } from './pageFiles.ts';

export interface DraftRules extends CompiledRules {
  /** The pages the rules speak of. */
  readonly pages: ReadonlyMap<string, SourcePage>;
}

export async function readDraftRules(
  queries: Queries,
  importId: string,
  decided: Draft,
  day: string,
): Promise<DraftRules> {
  const answered = await readAnsweredBefore(queries, importId, decided);
  const draft = leadsToNewest(decided) ? await readNewestMeant(queries, importId, decided) : decided;
  const pages = await readPagesOfRules(queries, importId, draft, answered.released);
  return { ...compileRules(draft, pages, day, answered), pages };
}

async function readNewestMeant(queries: Queries, importId: string, draft: Draft): Promise<Draft> {
  const site = await readSiteOfImport(queries, importId);
  return withNewest(draft, findNewest(await readListings(queries, site, importId, draft)));
}

async function readSiteOfImport(queries: Queries, importId: string): Promise<string> {
  return (await queries.one<{ site: string }>('select site_id as site from import where id = $1', [importId])).site;
}

/** What visitors were answered at up to now. */
export async function readAnsweredBefore(queries: Queries, importId: string, draft: Draft): Promise<Answered> {
  const site = await readSiteOfImport(queries, importId);
  const released = await readReleasedPlaces(queries, site);
  const needsFiles = draft.basePath !== '' && released.some(({ basePath }) => basePath === '');
  return { released, files: needsFiles ? await readFiles(queries, site, importId, draft) : [] };
}

/** A version of a draft never changes, since decisions are only appended. */
const kept = new LRUCache<string, Released>({ max: 500 });

async function readReleasedPlaces(queries: Queries, site: string): Promise<Released[]> {
  const versions = (
    await queries.many<{ version: number }>(
      `select distinct version from release where site_id = $1 and live_at is not null order by version`,
      [site],
    )
  ).map(({ version }) => version);
  const missing = versions.filter((version) => !kept.has(`${site} ${version}`));
  const decisions = missing.length > 0 ? await readHistory(queries, site) : [];
  for (const version of missing) kept.set(`${site} ${version}`, readReleased(foldDraftAt(decisions, version)));
  return versions.flatMap((version) => kept.get(`${site} ${version}`) ?? []);
}

/** Paths inside the site of everything published that is no page. */
async function readFiles(queries: Queries, site: string, importId: string, draft: Draft): Promise<string[]> {
  const imported = await queries.many<{ path: string }>(
    'select path from source_file where import_id = $1 and page_id is null',
    [importId],
  );
  const listings = await readListings(queries, site, importId, draft);
  const base = draft.basePath.slice(1);
  const made = [...listings.values()]
    .flatMap(listListingPaths)
    .map((path) => (base !== '' && path.startsWith(`${base}/`) ? path.slice(base.length + 1) : path));
  return [...new Set([...imported.map(({ path }) => path), ...draft.assets.keys(), ...made])].filter(
    (path) => !draft.removedFiles.has(path),
  );
}
