/** The listing pages of a draft: their entries, their further pages and their feeds. */
import { addressOfFile, fileOfAddress, isUnder } from '@fastigium/core/address';
import { SettingIndex } from '@fastigium/core/head';
import { atomFeed, listingPlans, type Entry, type ListingPlan } from '@fastigium/core/listing';
import { fileHeaders, planPage, type ManifestEntry, type PagePlan } from '@fastigium/core/release';
import { draftAddress, isAdded, labelOf, siteAddress, writtenFrom, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { siteAddress as siteNames } from '../shared/siteAddress.ts';
import { sha256 } from '../../threads/tasks.ts';
import { keepContents } from '../shared/contents.ts';
import { branchesIn } from './heads/branches.ts';
import { allPages, type SourcePage } from './pageFiles.ts';
import { titleEndings } from './prepare/situation.ts';

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
export async function listingsInDraft(
  tx: Queries,
  site: string,
  importId: string,
  draft: Draft,
): Promise<Map<string, ListingInDraft>> {
  const out = new Map<string, ListingInDraft>();
  if (draft.listings.size === 0) return out;
  const pages = await allPages(tx, importId, draft);
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
  const endings = await titleEndings(tx, importId);
  const { name } = await tx.one<{ name: string }>('select name from site where id = $1', [site]);
  const domain = (await siteNames(tx, site))?.main;
  const titleOf = (id: string) => labelOf(draft.titles.get(id) ?? readings.get(id)?.title ?? '', endings);
  const settings = new SettingIndex(draft.head);
  const branchesOf = branchesIn(settings, (id) => {
    const page = pages.get(id);
    return page && siteAddress(draft, page);
  });
  const descriptionOf = (id: string) => {
    const { text, replacesOwn } = settings.inForce('meta:description', id, branchesOf(id));
    const description = readings.get(id)?.description ?? '';
    return typeof text === 'string' && (description === '' || replacesOwn) ? text : description;
  };
  for (const [id, { perPage }] of draft.listings) {
    const page = pages.get(id);
    if (!page || draft.notReady.has(id)) continue;
    const address = siteAddress(draft, page);
    const entryPages = [...pages.values()].filter(
      (each) =>
        each.id !== id &&
        !draft.notReady.has(each.id) &&
        readings.get(each.id)?.date != null &&
        isUnder(siteAddress(draft, each), address),
    );
    const entries: Entry[] = entryPages.map((each) => {
      const reading = readings.get(each.id);
      return {
        id: each.id,
        title: titleOf(each.id),
        address: draftAddress(draft, each),
        date: reading?.date ?? '',
        summary: descriptionOf(each.id),
      };
    });
    const plans = listingPlans(entries, draftAddress(draft, page), perPage);
    out.set(id, {
      page,
      plans,
      importedAddresses: entryPages
        .filter((each) => !isAdded(draft, each.id))
        .map(({ sourcePath }) => addressOfFile(sourcePath)),
      feed: atomFeed({
        id,
        title: titleOf(id),
        origin: domain === undefined ? '' : `https://${domain}`,
        address: plans[0]?.feed ?? '',
        listing: draftAddress(draft, page),
        author: name,
        language: readings.get(id)?.language ?? undefined,
        entries,
      }),
    });
  }
  return out;
}

/** The plan of the listing's own page, and those of the pages it goes on with. */
export function plansOfListing(
  draft: Draft,
  { page, plans, importedAddresses }: ListingInDraft,
  addressOf: (page: string) => string | undefined,
): PagePlan[] {
  const planned = planPage(draft, page, writtenFrom(page), addressOf);
  return plans.map((plan, index) => {
    const address = plan.addresses[index] ?? planned.after;
    return {
      ...planned,
      ...(index === 0 ? {} : { after: address, path: fileOfAddress(address) ?? planned.path }),
      listing: { plan, importedAddresses },
    };
  });
}

export function feedPath({ plans }: ListingInDraft): string | undefined {
  const address = plans[0]?.feed;
  return address?.slice(1);
}

/** Paths of everything a listing publishes beside its own page. */
export function pathsOfListing(listing: ListingInDraft): string[] {
  const addresses = listing.plans[0]?.addresses.slice(1) ?? [];
  return [...addresses.flatMap((address) => fileOfAddress(address) ?? []), ...[feedPath(listing) ?? []].flat()];
}

/** Listings that are not in both drafts, or not the same in both. */
export function differingListings(
  before: ReadonlyMap<string, ListingInDraft>,
  after: ReadonlyMap<string, ListingInDraft>,
): string[] {
  const text = (listing: ListingInDraft | undefined) => JSON.stringify(listing && [listing.plans, listing.feed]);
  return [...new Set([...before.keys(), ...after.keys()])].filter((id) => text(before.get(id)) !== text(after.get(id)));
}

/** The newest entry of a list, by the page the list is. */
export function newestIn(listings: ReadonlyMap<string, ListingInDraft>): (listing: string) => string | undefined {
  return (id) => listings.get(id)?.plans[0]?.entries[0]?.id;
}

export async function feedEntry(tx: Queries, listing: ListingInDraft): Promise<ManifestEntry[]> {
  const path = feedPath(listing);
  if (path === undefined) return [];
  const bytes = Buffer.from(listing.feed);
  const hash = sha256(bytes);
  await keepContents(tx, [{ hash, bytes }], null);
  return [
    {
      path,
      hash,
      sizeBytes: bytes.length,
      headers: { ...fileHeaders(path), 'content-type': 'application/atom+xml; charset=utf-8' },
    },
  ];
}
