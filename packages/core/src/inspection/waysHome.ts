/** The ways home from a page as it is live: the items of menus that mean the home page, and logos. */

/** A link as a page has it. */
export interface LiveLink {
  readonly words: string;
  /** Where it leads, in the one spelling of `resolveLed`; undefined where it leads nowhere. */
  readonly leads: string | undefined;
  readonly hasPicture: boolean;
}

/** A menu as it was published. */
export interface PublishedMenu {
  /** Of all items in the order they stand in. */
  readonly labels: readonly string[];
  /** Positions of those that mean the home page. */
  readonly home: readonly number[];
}

export interface WayHome {
  /** What visitors see of it; empty for a logo. */
  readonly words: string;
  /** Position among the links. */
  readonly link: number;
}

/**
 * An item is known by its words and by those of an item beside it, so that a link with the same words elsewhere in the
 * page is not taken for it. A picture in a link to the front is a logo (common practice, no source).
 *
 * @param root where the home page is, as `resolveLed` spells it
 */
export function findWaysHome(links: readonly LiveLink[], menus: readonly PublishedMenu[], root: string): WayHome[] {
  const found = new Map<number, WayHome>();
  for (const [link, { leads, hasPicture }] of links.entries())
    if (hasPicture && leads === root) found.set(link, { words: '', link });
  for (const { labels, home } of menus)
    for (const position of home) {
      const label = labels[position] ?? '';
      for (const [link, { words, leads }] of links.entries()) {
        const isBesideOwn = [-1, 1].some((step) => {
          const beside = labels[position + step];
          return beside !== undefined && links[link + step]?.words === beside;
        });
        if (words === label && leads !== undefined && isBesideOwn) found.set(link, { words, link });
      }
    }
  return [...found.values()].sort((a, b) => a.link - b.link);
}
