/** Which page of a newer export is which of the older one: by address, else by content. */
import { computeAlikeness } from './fingerprint.ts';

export interface ExportPage {
  readonly path: string;
  /** Equal for equal contents. */
  readonly hash: string;
  readonly title: string;
  readonly fingerprint: readonly number[];
}

export interface KnownPage extends ExportPage {
  readonly id: string;
}

export interface Matching {
  /** By the path in the newer export. */
  readonly known: ReadonlyMap<string, KnownPage>;
  readonly unchanged: number;
  readonly changed: readonly { readonly before: KnownPage; readonly after: ExportPage }[];
  readonly moved: readonly { readonly before: KnownPage; readonly after: ExportPage; readonly alike: number }[];
  readonly added: readonly ExportPage[];
  readonly dropped: readonly KnownPage[];
}

/** Below this two pages are taken for two. Pages rewritten by half are still the same page. */
const LEAST_ALIKE = 0.5;
/** With the same title as well, less of the text has to be the same. */
const LEAST_ALIKE_TITLED = 0.3;

export function matchPages(before: readonly KnownPage[], after: readonly ExportPage[]): Matching {
  const known = new Map<string, KnownPage>();
  const byPath = new Map(before.map((page) => [page.path, page]));
  const changed: Matching['changed'][number][] = [];
  let unchanged = 0;
  const open: ExportPage[] = [];
  for (const page of after) {
    const same = byPath.get(page.path);
    if (!same) {
      open.push(page);
      continue;
    }
    known.set(page.path, same);
    byPath.delete(page.path);
    if (same.hash === page.hash) unchanged += 1;
    else changed.push({ before: same, after: page });
  }
  const left = new Set(byPath.values());
  const moved: Matching['moved'][number][] = [];
  const take = (page: ExportPage, was: KnownPage, alike: number) => {
    known.set(page.path, was);
    left.delete(was);
    moved.push({ before: was, after: page, alike });
  };
  const byHash = new Map([...left].map((page) => [page.hash, page]));
  const unlike: ExportPage[] = [];
  for (const page of open) {
    const same = byHash.get(page.hash);
    if (same && left.has(same)) take(page, same, 1);
    else unlike.push(page);
  }
  // The most alike first, so that a page does not take what is another one's.
  const pairs = listCandidates(unlike, left).sort((a, b) => b.alike - a.alike || (a.page.path < b.page.path ? -1 : 1));
  const taken = new Set<ExportPage>();
  for (const { page, was, alike } of pairs) {
    if (taken.has(page) || !left.has(was)) continue;
    taken.add(page);
    take(page, was, alike);
  }
  return { known, unchanged, changed, moved, added: unlike.filter((page) => !taken.has(page)), dropped: [...left] };
}

/** Pairs that share a number of their fingerprints are looked at; comparing all with all would take too long. */
function listCandidates(
  pages: readonly ExportPage[],
  left: ReadonlySet<KnownPage>,
): { page: ExportPage; was: KnownPage; alike: number }[] {
  const byNumber = new Map<string, KnownPage[]>();
  for (const was of left) {
    was.fingerprint.forEach((value, bin) => {
      if (value < 0) return;
      const key = `${bin} ${value}`;
      const list = byNumber.get(key);
      if (list) list.push(was);
      else byNumber.set(key, [was]);
    });
  }
  const out: { page: ExportPage; was: KnownPage; alike: number }[] = [];
  for (const page of pages) {
    const near = new Set(
      page.fingerprint.flatMap((value, bin) =>
        value < 0 ? [] : (byNumber.get(`${bin} ${value}`) ?? []).slice(0, MOST_NEAR),
      ),
    );
    for (const was of near) {
      const alike = computeAlikeness(was.fingerprint, page.fingerprint);
      if (alike >= (was.title !== '' && was.title === page.title ? LEAST_ALIKE_TITLED : LEAST_ALIKE))
        out.push({ page, was, alike });
    }
  }
  return out;
}

/** A run of words on more pages than this is the site's own, and tells nothing. */
const MOST_NEAR = 50;
