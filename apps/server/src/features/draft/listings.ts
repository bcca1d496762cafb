/** The listing pages of a draft: their entries, their further pages and their feeds. */
import { findAddressOfFile, findFileOfAddress, isUnder } from '@fastigium/core/address';
import { SettingIndex } from '@fastigium/core/head';
import { writeAtomFeed, planListing, type Entry, type ListingPlan } from '@fastigium/core/listing';
import { findFileHeaders, planPage, type ManifestEntry, type PagePlan } from '@fastigium/core/release';
import {
  findDraftAddress,
  isAdded,
  labelTitle,
  findSiteAddress,
  findWrittenFrom,
  type Draft,
} from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { readSiteAddress as siteNames } from '../shared/siteAddress.ts';
import { hashSha256 } from '../../threads/tasks.ts';
import { keepContents } from '../shared/contents.ts';
import { indexBranches } from './heads/branches.ts';
import { readAllPages, type SourcePage } from './pageFiles.ts';
import { readTitleEndings } from './prepare/situation.ts';

export interface ListingInDraft {
  readonly page: SourcePage;
  readonly plans: readonly ListingPlan[];
  /** Where its entries stood in the import, by which the page's own list is known. */
  readonly importedAddresses: readonly string[];
  readonly feed: string;
}

interface DatedPage extends Record<string, unknown> {
  id: string;
  title: string | null;
  language: string | null;
  description: string | null;
  date: string | null;
}

/** By page; a listing whose page is gone or held back is none. */
export async function readListings(
  tx: Queries,
  site: string,
  importId: string,
  draft: Draft,
): Promise<Map<string, ListingInDraft>> {
  const out = new Map<string, ListingInDraft>();
  if (draft.listings.size === 0) return out;
  const pages = await readAllPages(tx, importId, draft);
  const readings = new Map(
    (
      await tx.many<DatedPage>(
        `select f.page_id as id, r.title, r.language, r.description, r.dated::text as date
       from source_file f join file_reading r using (import_id, path) where f.import_id = $1 and f.page_id is not null and (r.dated is not null or f.page_id = any($3))
      union all select page_id as id, title, language, description, dated::text from added_page where site_id = $2`,
        [importId, site, [...draft.listings.keys()]],
      )
    ).map((row) => [row.id, row]),
  );
  const endings = await readTitleEndings(tx, importId);
  const { name } = await tx.one<{ name: string }>('select name from site where id = $1', [site]);
  const domain = (await siteNames(tx, site))?.main;
  const titleOf = (id: string) => labelTitle(draft.titles.get(id) ?? readings.get(id)?.title ?? '', endings);
  const settings = new SettingIndex(draft.head);
  const branchesOf = indexBranches(settings, (id) => {
    const page = pages.get(id);
    return page && findSiteAddress(draft, page);
  });
  const descriptionOf = (id: string) => {
    const { text, replacesOwn } = settings.inForce('meta:description', id, branchesOf(id));
    const description = readings.get(id)?.description ?? '';
    return typeof text === 'string' && (description === '' || replacesOwn) ? text : description;
  };
  for (const [id, { perPage }] of draft.listings) {
    const page = pages.get(id);
    if (!page || draft.notReady.has(id)) continue;
    const address = findSiteAddress(draft, page);
    const entryPages = [...pages.values()].filter(
      (each) =>
        each.id !== id &&
        !draft.notReady.has(each.id) &&
        readings.get(each.id)?.date != null &&
        isUnder(findSiteAddress(draft, each), address),
    );
    const entries: Entry[] = entryPages.map((each) => {
      const reading = readings.get(each.id);
      return {
        id: each.id,
        title: titleOf(each.id),
        address: findDraftAddress(draft, each),
        date: reading?.date ?? '',
        summary: descriptionOf(each.id),
      };
    });
    const plans = planListing(entries, findDraftAddress(draft, page), perPage);
    out.set(id, {
      page,
      plans,
      importedAddresses: entryPages
        .filter((each) => !isAdded(draft, each.id))
        .map(({ sourcePath }) => findAddressOfFile(sourcePath)),
      feed: writeAtomFeed({
        id,
        title: titleOf(id),
        origin: domain === undefined ? '' : `https://${domain}`,
        address: plans[0]?.feed ?? '',
        listing: findDraftAddress(draft, page),
        author: name,
        language: readings.get(id)?.language ?? undefined,
        entries,
      }),
    });
  }
  return out;
}

/** The plan of the listing's own page, and those of the pages it goes on with. */
export function planListingPages(
  draft: Draft,
  { page, plans, importedAddresses }: ListingInDraft,
  addressOf: (page: string) => string | undefined,
): PagePlan[] {
  const planned = planPage(draft, page, findWrittenFrom(page), addressOf);
  return plans.map((plan, index) => {
    const address = plan.addresses[index] ?? planned.after;
    return {
      ...planned,
      ...(index === 0 ? {} : { after: address, path: findFileOfAddress(address) ?? planned.path }),
      listing: { plan, importedAddresses },
    };
  });
}

export function findFeedPath({ plans }: ListingInDraft): string | undefined {
  const address = plans[0]?.feed;
  return address?.slice(1);
}

/** Paths of everything a listing publishes beside its own page. */
export function listListingPaths(listing: ListingInDraft): string[] {
  const addresses = listing.plans[0]?.addresses.slice(1) ?? [];
  return [...addresses.flatMap((address) => findFileOfAddress(address) ?? []), ...[findFeedPath(listing) ?? []].flat()];
}

/** Listings that are not in both drafts, or not the same in both. */
export function compareListings(
  before: ReadonlyMap<string, ListingInDraft>,
  after: ReadonlyMap<string, ListingInDraft>,
): string[] {
  const text = (listing: ListingInDraft | undefined) => JSON.stringify(listing && [listing.plans, listing.feed]);
  return [...new Set([...before.keys(), ...after.keys()])].filter((id) => text(before.get(id)) !== text(after.get(id)));
}

/** The newest entry of a list, by the page the list is. */
export function findNewest(listings: ReadonlyMap<string, ListingInDraft>): (listing: string) => string | undefined {
  return (id) => listings.get(id)?.plans[0]?.entries[0]?.id;
}

export async function readFeedEntries(tx: Queries, listing: ListingInDraft): Promise<ManifestEntry[]> {
  const path = findFeedPath(listing);
  if (path === undefined) return [];
  const bytes = Buffer.from(listing.feed);
  const hash = hashSha256(bytes);
  await keepContents(tx, [{ hash, bytes }], null);
  return [
    {
      path,
      hash,
      sizeBytes: bytes.length,
      headers: { ...findFileHeaders(path), 'content-type': 'application/atom+xml; charset=utf-8' },
    },
  ];
}
