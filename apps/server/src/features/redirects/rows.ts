/** The ledger of old addresses: where each lands by the draft's rules, and what is suggested for the rest. */
import type { RedirectRow, Suggestion } from '@fastigium/contracts/api/redirects';
import { addressOfFile, parseAddress } from '@fastigium/core/address';
import { decide, indexRules, isRedirect, proofSteps, type Rule } from '@fastigium/core/redirects';
import type { Noise } from '@fastigium/core/redirects/gather';
import type { ManifestEntry, ShardHashes } from '@fastigium/core/release';
import { draftAddress, labelOf } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { listedPages, type ListedPage } from '../draft/listedPages.ts';
import { titleEndings } from '../draft/prepare/situation.ts';
import { entriesOf } from '../manifests.ts';

interface OldRow extends Record<string, unknown> {
  readonly address: string;
  readonly visits: number | null;
  readonly kind: RedirectRow['kind'];
  readonly noise: Noise | null;
  readonly page: string | null;
  readonly path: string | null;
  readonly probability: number | null;
}

export async function redirectRows(deps: Deps, site: string): Promise<{ version: number; rows: RedirectRow[]; suggesting: boolean }> {
  const { draft, importId, version, rules, shards } = await compileDraft(deps, site);
  const pages = await listedPages(deps.db, importId, draft);
  const byAddress = new Map(pages.map((page) => [draftAddress(draft, page), page]));
  const byId = new Map(pages.map((page) => [page.id, page]));
  const endings = await titleEndings(deps.db, importId);
  const titleOf = (page: ListedPage | undefined) => (page ? labelOf(draft.titles.get(page.id) ?? page.title ?? '', endings) : null);
  const olds = await deps.db.many<OldRow>(
    `select o.address, o.visits, o.kind, o.noise, s.page_id as page, s.path, s.probability
       from old_address o left join suggestion s on s.site_id = o.site_id and s.address = o.address and s.rank = 1 where o.site_id = $1`, [site],
  );
  const known = new Map(olds.map((old) => [old.address, old]));
  const suggested = (old: OldRow | undefined): Suggestion | null => {
    if (!old || old.probability === null) return null;
    const page = old.page === null ? undefined : byId.get(old.page);
    if (old.page !== null && !page) return null;
    return { page: page?.id ?? null, address: page ? draftAddress(draft, page) : draft.basePath + addressOfFile(old.path ?? ''), title: titleOf(page) ?? '', probability: old.probability };
  };
  const row = (from: string, found: Rule | undefined): RedirectRow => {
    const rule = found && isRedirect(found) ? found : undefined;
    const page = byAddress.get(rule?.to?.split('#')[0] ?? '');
    const old = known.get(from);
    return {
      from, visits: old?.visits ?? null, kind: old?.kind ?? 'page', noise: old?.noise ?? null,
      origin: rule === undefined ? 'open' : rule.isPattern ? 'pattern' : draft.redirects.has(rule.from) ? 'decided' : 'moved',
      status: rule?.status ?? null, to: rule?.to ?? null, toTitle: titleOf(page), toPage: page?.id ?? null,
      dropsQuery: rule?.dropsQuery ?? false, ignoreCase: rule?.ignoreCase ?? false, anySlash: rule?.anySlash ?? false,
      suggestion: rule === undefined ? suggested(old) : null,
    };
  };
  const index = indexRules(rules.rules);
  const rows = rules.rules.filter((rule) => isRedirect(rule) && !rule.isPattern).map((rule) => row(rule.from, rule));
  const open = olds.filter(({ address }) => !index.has(address));
  // An old address that is a page here needs no redirect; without its query it may also be caught by a rule.
  const files = await filesOf(deps.db, shards, open.map(({ address }) => address));
  for (const { address } of open) {
    const parsed = parseAddress(address);
    const answer = parsed.ok ? decide(parsed.address, files, index) : undefined;
    if (answer?.kind === 'file') {
      const page = byAddress.get(addressOfFile(answer.file));
      rows.push({ ...row(address, undefined), origin: 'page', status: null, to: addressOfFile(answer.file), toTitle: titleOf(page), toPage: page?.id ?? null, suggestion: null });
    } else if (answer?.kind === 'redirect' && answer.rule) rows.push(row(address, { ...answer.rule, to: answer.location }));
    else if (answer?.kind === 'gone') rows.push(row(address, answer.rule));
    else rows.push(row(address, undefined));
  }
  const suggesting = (await deps.db.maybeOne(`select 1 from job where site_id = $1 and kind = 'suggest' and state in ('waiting', 'running') limit 1`, [site])) !== undefined;
  return { version, rows: rows.sort((a, b) => (b.visits ?? -1) - (a.visits ?? -1) || (a.from < b.from ? -1 : 1)), suggesting };
}

/** The published files some addresses could mean. */
async function filesOf(queries: Queries, shards: ShardHashes, addresses: readonly string[]): Promise<ReadonlyMap<string, ManifestEntry>> {
  const paths = addresses.flatMap((address) => {
    const parsed = parseAddress(address);
    if (!parsed.ok) return [];
    const asked = proofSteps(parsed.address, indexRules([])).next();
    return asked.done ? [] : asked.value;
  });
  return entriesOf(queries, shards, paths);
}
