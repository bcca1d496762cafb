/** All that is known of one old address, and why each page is suggested. */
import type { Evidence, Neighbours, OldAddress } from '@fastigium/contracts/api/redirects';
import { findAddressOfFile } from '@fastigium/core/address';
import { explain } from '@fastigium/core/redirects/matching';
import { findDraftAddress, labelTitle, withRemoved, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { readListedPages } from '../draft/listedPages.ts';
import { readAllPages } from '../draft/pageFiles.ts';
import { readTitleEndings } from '../draft/prepare/situation.ts';
import { deriveInitials } from '../shared/initials.ts';
import { readOldDomains, readOldAddress } from '../draft/oldDomains.ts';

interface OldRow extends Record<string, unknown> {
  readonly visits: number | null;
  readonly lastSeen: Date | null;
  readonly status: number | null;
  readonly title: string | null;
  readonly text: string | null;
  readonly headings: string[];
  readonly kind: OldAddress['kind'];
  readonly noise: OldAddress['noise'];
  readonly none: number | null;
}

/** From here on it is more likely than not that nothing takes its place. */
const LIKELY_NONE = 0.5;

function isWorthPuttingBack(old: OldRow | undefined): boolean {
  return (
    old !== undefined &&
    old.kind === 'page' &&
    (old.visits ?? 0) > 0 &&
    (old.none ?? 0) >= LIKELY_NONE &&
    old.text !== null &&
    (old.status === null || old.status < 400)
  );
}

interface SuggestedRow extends Record<string, unknown> {
  readonly page: string | null;
  readonly path: string | null;
  readonly probability: number;
  readonly title: string | null;
  readonly headings: { text: string }[] | null;
  readonly text: string | null;
}

export async function readOneOldAddress(deps: Deps, site: string, written: string): Promise<OldAddress> {
  const from = readOldAddress(written, await readOldDomains(deps.db, site));
  const old = await deps.db.maybeOne<OldRow>(
    'select visits, last_seen as "lastSeen", status, title, text, headings, kind, noise, none from old_address where site_id = $1 and address = $2',
    [site, from],
  );
  const { draft, importId } = await compileDraft(deps, site);
  const seen = await deps.db.many<{
    source: OldAddress['seen'][number]['source'];
    visits: number | null;
    lastSeen: Date | null;
  }>(
    'select source, visits::int, last_seen as "lastSeen" from old_address_seen where site_id = $1 and address = $2 order by source',
    [site, from],
  );
  const suggested = await deps.db.many<SuggestedRow>(
    `select s.page_id as page, s.path, s.probability, coalesce(r.title, a.title) as title, coalesce(r.headings, a.headings) as headings, coalesce(r.main_text, a.lead) as text
       from suggestion s left join source_file f on f.import_id = $3 and f.page_id = s.page_id left join file_reading r on r.import_id = f.import_id and r.path = f.path
       left join added_page a on a.page_id = s.page_id where s.site_id = $1 and s.address = $2 order by s.rank`,
    [site, from, importId],
  );
  const pages = await readAllPages(deps.db, importId, draft);
  const endings = await readTitleEndings(deps.db, importId);
  const neighbours = await findNeighbours(deps.db, site, from, draft, (id) => {
    const page = pages.get(id);
    return page && findDraftAddress(draft, page);
  });
  const settled = await findSettledBy(deps.db, site, from, draft);
  return {
    from,
    visits: old?.visits ?? null,
    lastSeen: old?.lastSeen?.toISOString() ?? null,
    seen: seen.map(({ source, visits, lastSeen }) => ({ source, visits, lastSeen: lastSeen?.toISOString() ?? null })),
    oldStatus: old?.status ?? null,
    title: old?.title ?? null,
    text: old?.text ?? null,
    headings: old?.headings ?? [],
    kind: old?.kind ?? 'page',
    noise: old?.noise ?? null,
    none: old?.none ?? null,
    isWorthPuttingBack: isWorthPuttingBack(old),
    wasPage: await findRemovedAt(deps.db, importId, draft, from, endings),
    suggestions: suggested.flatMap(({ page: id, path, probability, title, headings, text }) => {
      const page = id === null ? undefined : pages.get(id);
      if (id !== null && !page) return [];
      const address = page ? findDraftAddress(draft, page) : draft.basePath + findAddressOfFile(path ?? '');
      const pageTitle = (page && draft.titles.get(page.id)) ?? title ?? '';
      const label = labelTitle(pageTitle, endings);
      const evidence: Evidence[] = explain(
        { address: from, title: old?.title ?? undefined, headings: old?.headings ?? [], text: old?.text ?? undefined },
        { address, title: label, headings: (headings ?? []).map((each) => each.text), text: text ?? undefined },
      ).map((each) => ({ ...each, words: [...each.words] }));
      return [
        {
          page: page?.id ?? null,
          address,
          title: label,
          probability,
          evidence,
          neighbours: neighbours(address),
        },
      ];
    }),
    ...settled,
  };
}

/** The page that answered at an address, here or in the import, and can be put back. */
async function findRemovedAt(
  queries: Queries,
  importId: string,
  draft: Draft,
  from: string,
  endings: readonly string[],
): Promise<OldAddress['wasPage']> {
  if (draft.removals.size === 0) return null;
  for (const page of await readListedPages(queries, importId, withRemoved(draft))) {
    const removal = draft.removed.get(page.id);
    if (removal === undefined || !draft.removals.has(removal)) continue;
    if (from === findDraftAddress(draft, page) || from === draft.basePath + findAddressOfFile(page.sourcePath))
      return { of: removal, page: page.id, label: labelTitle(draft.titles.get(page.id) ?? page.title ?? '', endings) };
  }
  return null;
}

/** Where other addresses of the same old folder go, by decision or by a suggestion that is as good as certain. */
async function findNeighbours(
  queries: Queries,
  site: string,
  from: string,
  draft: Draft,
  addressOf: (page: string) => string | undefined,
): Promise<(address: string) => Neighbours | null> {
  const folder = readFolder(from);
  // Whatever lies at the top has nothing in common but that.
  if (folder === '/') return () => null;
  const rows = await queries.many<{ address: string; page: string | null }>(
    `select o.address, s.page_id as page from old_address o left join suggestion s on s.site_id = o.site_id and s.address = o.address and s.rank = 1 and s.probability >= 0.9
      where o.site_id = $1 and starts_with(o.address, $2) and o.address <> $3 and o.kind = 'page' order by o.address limit 2000`,
    [site, folder, from],
  );
  const went = new Map<string, number>();
  let all = 0;
  for (const { address, page } of rows) {
    if (readFolder(address) !== folder) continue;
    const redirect = draft.redirects.get(address);
    const to =
      redirect === undefined
        ? page === null
          ? undefined
          : addressOf(page)
        : redirect.status === 410
          ? undefined
          : redirect.target.kind === 'page'
            ? addressOf(redirect.target.page)
            : redirect.target.kind === 'address'
              ? redirect.target.address
              : undefined;
    if (to === undefined) continue;
    all += 1;
    went.set(readFolder(to), (went.get(readFolder(to)) ?? 0) + 1);
  }
  return (address) => {
    const to = readFolder(address);
    return all === 0 ? null : { count: went.get(to) ?? 0, all, from: folder, to };
  };
}

/** Without the page's own name: `/news/2016/x.html` lies in `/news/2016/`, and so does `/news/2016/x/`. */
function readFolder(address: string): string {
  const path = address.replace(/[?#].*$/s, '').replace(/\/$/, '');
  return path.slice(0, path.lastIndexOf('/') + 1) || '/';
}

async function findSettledBy(
  queries: Queries,
  site: string,
  from: string,
  draft: Draft,
): Promise<Pick<OldAddress, 'settledBy' | 'settledAt'>> {
  const seq = draft.settledIn.get(from);
  const row =
    seq === undefined
      ? undefined
      : await queries.maybeOne<{ id: string; name: string; at: Date }>(
          'select p.id, p.name, d.at from decision d join person p on p.id = d.by where d.site_id = $1 and d.seq = $2',
          [site, seq],
        );
  return row
    ? { settledBy: { id: row.id, name: row.name, initials: deriveInitials(row.name) }, settledAt: row.at.toISOString() }
    : { settledBy: null, settledAt: null };
}
