/** What decisions put into a site: nodes of its tree, their places and addresses, sources and files of its own. */
import type { PageId } from './pageId.ts';

/** What is added to the tree here and was in no import. */
export type AddedNode =
  | {
      readonly kind: 'page';
      readonly id: PageId;
      /** Its source: SHA-256 of the content and its size. */
      readonly hash: string;
      readonly sizeBytes: number;
      /** The source file whose place its links were written from. */
      readonly writtenAt: string;
      /** Inside the site, as if it stood at the root. */
      readonly address: string;
      /** The page it was made a copy of: it begins with what had been decided for that page alone. */
      readonly copyOf?: PageId;
    }
  | { readonly kind: 'group'; readonly id: PageId; readonly title: string }
  | { readonly kind: 'link'; readonly id: PageId; readonly title: string; readonly url: string };

/** A place in the tree. */
export interface Place {
  /** Null for the top. */
  readonly parent: PageId | null;
  /** The sibling before it; null for the first place. */
  readonly after: PageId | null;
}

/** A file made for the site's icon, and how pages refer to it; the page's folder is the site's. */
export interface IconFile {
  readonly path: string;
  readonly hash: string;
  readonly sizeBytes: number;
  /** `icon`, `apple-touch-icon` or `manifest`; undefined for files only the manifest names. */
  readonly relation: string | undefined;
  readonly attributes: Readonly<Record<string, string>>;
}

/** A source that stands in place of a page's file. */
export interface TakenSource {
  readonly hash: string;
  readonly sizeBytes: number;
  /** The source file whose place its links were written from. */
  readonly writtenAt: string;
  /** The release it was taken from. */
  readonly release: number;
}

/** New addresses inside the site, by page. */
export type Addresses = Readonly<Record<PageId, string>>;

/** A page that becomes home. */
export interface HomeChoice {
  readonly page: PageId;
  /**
   * The page that stood at "/" in the import, where there was one, and where it lives while
   * another page is home. It may be the new home itself; then it is back where it was.
   */
  readonly importedHome: { readonly page: PageId; readonly address: string } | undefined;
}
