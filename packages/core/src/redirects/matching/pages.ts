/** What is known of both sides of a relaunch. */

/** An old address, with as much of its page as is still known; an address alone is enough. */
export interface OldPage {
  /** Path with its query, as it was asked for. */
  readonly address: string;
  readonly title?: string | undefined;
  readonly headings?: readonly string[] | undefined;
  /** The main text, or its beginning. */
  readonly text?: string | undefined;
  /** BCP 47. */
  readonly language?: string | undefined;
}

/** A page that old addresses may land on. */
export interface NewPage extends OldPage {
  /** Whatever its owner calls it by. */
  readonly id: string;
}

/** What a person decided for an old address: a page, or that nothing takes its place. */
export interface Settled {
  readonly address: string;
  readonly page: string | null;
}
