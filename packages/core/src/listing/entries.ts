/** What a listing page lists: the dated pages of its branch, the newest first, so many to a page. */
import { stripAddressEnding } from '../address/index.ts';

export interface Entry {
  readonly id: string;
  readonly title: string;
  /** Where it answers in the draft, the base path included. */
  readonly address: string;
  /** `2016-05-09`. */
  readonly date: string;
  readonly summary: string;
}

/** One page of a listing. */
export interface ListingPlan {
  readonly entries: readonly Entry[];
  /** From 1. */
  readonly number: number;
  /** Addresses of all pages of the listing, the first being the listing's own. */
  readonly addresses: readonly string[];
  readonly feed: string;
}

export function sortNewestFirst(entries: readonly Entry[]): Entry[] {
  return [...entries].sort((a, b) =>
    a.date === b.date ? (a.title < b.title ? -1 : a.title > b.title ? 1 : 0) : a.date < b.date ? 1 : -1,
  );
}

/** `/journal/` goes on at `/journal/page-2/`; with a style of its own ending, `/journal.html` at `/journal/page-2.html`. */
export function addressPage(listing: string, number: number): string {
  if (number === 1) return listing;
  const stem = stripAddressEnding(listing);
  return `${stem === '/' ? '' : stem}/page-${number}${listing === '/' ? '/' : listing.slice(stem.length)}`;
}

/** The feed stands beside the pages after the first. */
export function addressFeed(listing: string): string {
  const stem = stripAddressEnding(listing);
  return `${stem === '/' ? '' : stem}/feed.xml`;
}

/** @param perPage at least 1 */
export function planListing(entries: readonly Entry[], listing: string, perPage: number): ListingPlan[] {
  const sorted = sortNewestFirst(entries);
  const count = Math.max(1, Math.ceil(sorted.length / perPage));
  const addresses = Array.from({ length: count }, (_, index) => addressPage(listing, index + 1));
  return addresses.map((_, index) => ({
    entries: sorted.slice(index * perPage, (index + 1) * perPage),
    number: index + 1,
    addresses,
    feed: addressFeed(listing),
  }));
}
