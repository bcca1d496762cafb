/** A page's lasting identity; the server gives UUIDs. */
export type PageId = string;
