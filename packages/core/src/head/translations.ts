/** Which pages say the same in other languages: recognised by what the pages and their addresses say, corrected by hand. */

export interface TranslatedPage {
  readonly id: string;
  /** Inside the site. */
  readonly address: string;
  readonly language: string;
  /** Addresses inside the site the page names as itself in other languages, by tag. */
  readonly alternates: readonly string[];
  /** Addresses inside the site that its links between languages lead to. */
  readonly switches: readonly string[];
  /** The page it is a translation of, as decided here; an empty text: of none; undefined: nobody decided. */
  readonly translates: string | undefined;
}

/**
 * Groups of pages that are translations of each other, each group with at least two, in the order of the
 * site's languages; of each language a group has one page. What was decided goes first, then what pages
 * name themselves (HTML standard, section 4.6.7.1), then pages whose links between languages lead to each
 * other, since many sites link to the other language's home page from everywhere, then addresses that differ only in a folder that is a
 * language tag, such as `/visit/` and `/cy/visit/` (common practice, no source).
 */
export function groupTranslatedPages(
  pages: readonly TranslatedPage[],
  languages: readonly string[],
): TranslatedPage[][] {
  const byId = new Map(pages.map((page) => [page.id, page]));
  const byAddress = new Map(pages.map((page) => [page.address, page]));
  const groups = new Groups();
  const free = (page: TranslatedPage | undefined): page is TranslatedPage =>
    page !== undefined && page.translates === undefined;
  for (const page of pages) {
    const original = page.translates === undefined || page.translates === '' ? undefined : byId.get(page.translates);
    if (original && original.translates !== '' && original.language !== page.language) groups.join(original, page);
  }
  for (const page of pages) {
    if (!free(page)) continue;
    for (const address of page.alternates) {
      const other = byAddress.get(address);
      if (free(other)) groups.join(page, other);
    }
  }
  for (const page of pages) {
    if (!free(page)) continue;
    for (const address of page.switches) {
      const other = byAddress.get(address);
      if (free(other) && other.switches.includes(page.address)) groups.join(page, other);
    }
  }
  const tags = new Set(languages.map((tag) => tag.toLowerCase()));
  for (const page of pages) {
    const stripped = withoutLanguage(page.address, tags);
    const original = stripped === undefined ? undefined : byAddress.get(stripped);
    if (free(page) && free(original)) groups.join(original, page);
  }
  const order = new Map(languages.map((tag, index) => [tag, index]));
  return groups
    .all()
    .map((group) =>
      group.sort(
        (a, b) =>
          (order.get(a.language) ?? order.size) - (order.get(b.language) ?? order.size) ||
          (a.address < b.address ? -1 : 1),
      ),
    );
}

/** The address without the folder that names a language; undefined where there is none. */
function withoutLanguage(address: string, tags: ReadonlySet<string>): string | undefined {
  const [, first = '', rest = ''] = /^\/([^/]+)(\/.*)$/.exec(address) ?? [];
  return tags.has(first.toLowerCase()) ? rest : undefined;
}

/** Sets of pages that grow together, never two of one language in a set. */
class Groups {
  private readonly of = new Map<TranslatedPage, Set<TranslatedPage>>();

  join(a: TranslatedPage, b: TranslatedPage): void {
    const [one, other] = [this.of.get(a) ?? new Set([a]), this.of.get(b) ?? new Set([b])];
    if (one === other) return;
    const taken = new Set([...one].map(({ language }) => language));
    if ([...other].some(({ language }) => language === '' || taken.has(language)) || taken.has('')) return;
    for (const page of other) one.add(page);
    for (const page of one) this.of.set(page, one);
  }

  all(): TranslatedPage[][] {
    return [...new Set(this.of.values())].map((group) => [...group]);
  }
}

/**
 * The site's languages. Visitors whose language there is none of get the first: that of the home page, then the
 * one with most pages.
 */
export function listLanguages(pages: readonly Pick<TranslatedPage, 'language' | 'address'>[]): string[] {
  const counts = new Map<string, number>();
  for (const { language } of pages) if (language !== '') counts.set(language, (counts.get(language) ?? 0) + 1);
  const home = pages.find(({ address }) => address === '/')?.language;
  const isHome = (language: string) => Number(language === home);
  return [...counts]
    .sort((a, b) => isHome(b[0]) - isHome(a[0]) || b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
    .map(([language]) => language);
}
