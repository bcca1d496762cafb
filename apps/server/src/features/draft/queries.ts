/** What the Redirects station shows, proofs on the draft, and the history. */
import type { Proof, RedirectRow } from '@fastigium/contracts/api/draft';
import { DomainError } from '@fastigium/contracts/errors';
import { addressOfFile, formatAddress, parseAddress } from '@fastigium/core/address';
import { decide as decideAnswer, indexRules, isRedirect, proofSteps, type Rule } from '@fastigium/core/redirects';
import { insideBase, type ManifestEntry, type ShardHashes } from '@fastigium/core/release';
import { draftAddress, isFact, type Decision, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { initials } from '../people/initials.ts';
import { entriesOf } from '../manifests.ts';
import { compileDraft } from './compileDraft.ts';
import { listedPages, type ListedPage } from './listedPages.ts';

export async function redirectRows(deps: Deps, site: string): Promise<{ version: number; rows: RedirectRow[] }> {
  const { draft, importId, version, rules, shards } = await compileDraft(deps, site);
  const pages = await listedPages(deps.db, importId, draft);
  const byAddress = new Map(pages.map((page) => [draftAddress(draft, page), page]));
  const titleOf = (page: ListedPage | undefined) => (page ? (draft.titles.get(page.id) ?? page.title ?? '') : null);
  const old = await deps.db.many<{ address: string; visits: number | null }>(
    'select address, visits from old_address where site_id = $1', [site],
  );
  const visits = new Map(old.map((row) => [row.address, row.visits]));
  const row = (from: string, found: Rule | undefined): RedirectRow => {
    const rule = found && isRedirect(found) ? found : undefined;
    const page = byAddress.get(rule?.to?.split('#')[0] ?? '');
    return {
      from,
      visits: visits.get(from) ?? null,
      origin: rule === undefined ? 'open' : draft.redirects.has(from) ? 'decided' : 'moved',
      status: rule?.status ?? null,
      to: rule?.to ?? null,
      toTitle: titleOf(page),
      toPage: page?.id ?? null,
    };
  };
  const index = indexRules(rules.rules);
  const rows = rules.rules.filter(isRedirect).map((rule) => row(rule.from, rule));
  const open = old.filter(({ address }) => !index.has(address));
  // An old address that is a page here needs no redirect; without its query it may also be caught by a rule.
  const files = await filesOf(deps.db, shards, open.map(({ address }) => address));
  for (const { address } of open) {
    const parsed = parseAddress(address);
    const answer = parsed.ok ? decideAnswer(parsed.address, files, index) : undefined;
    if (answer?.kind === 'file') {
      const page = byAddress.get(addressOfFile(answer.file));
      rows.push({ ...row(address, undefined), origin: 'page', status: null, to: addressOfFile(answer.file), toTitle: titleOf(page), toPage: page?.id ?? null });
    } else if (answer?.kind === 'redirect' && answer.rule) rows.push(row(address, answer.rule));
    else rows.push(row(address, undefined));
  }
  return { version, rows: rows.sort((a, b) => (b.visits ?? -1) - (a.visits ?? -1) || (a.from < b.from ? -1 : 1)) };
}

/** The published files some addresses could mean. */
async function filesOf(queries: Queries, shards: ShardHashes, addresses: readonly string[]): Promise<ReadonlyMap<string, ManifestEntry>> {
  const paths = addresses.flatMap((address) => {
    const parsed = parseAddress(address);
    if (!parsed.ok) return [];
    const asked = proofSteps(parsed.address, new Map()).next();
    return asked.done ? [] : asked.value;
  });
  return entriesOf(queries, shards, paths);
}

/** Follows an address over the draft's files and rules, reading only the shards it passes. */
export async function proveOnDraft(deps: Deps, site: string, text: string): Promise<Proof> {
  const parsed = parseAddress(text);
  if (!parsed.ok) throw new DomainError('address-unreadable', { address: text });
  const { shards, rules, importId, draft } = await compileDraft(deps, site);
  const steps = proofSteps(parsed.address, indexRules(rules.rules));
  let step = steps.next();
  while (!step.done) step = steps.next(await entriesOf(deps.db, shards, step.value));
  const { hops, end } = step.value;
  return {
    hops: hops.map(({ address, status, location }) => ({ address, status, location: location ?? null })),
    end: end.kind,
    title: end.kind === 'page' ? await titleOfFile(deps.db, importId, draft, end.file) : null,
  };
}

async function titleOfFile(queries: Queries, importId: string, draft: Draft, file: string): Promise<string | null> {
  const inside = insideBase(draft.basePath, file) ?? file;
  const moved = [...draft.addresses].find(([, address]) => formatAddress({ path: address, query: undefined }) === addressOfFile(inside))?.[0];
  const row = await queries.maybeOne<{ id: string | null; title: string | null }>(
    `select f.page_id as id, r.title from source_file f left join file_reading r using (import_id, path)
      where f.import_id = $1 and ${moved === undefined ? 'f.path = $2' : 'f.page_id = $2::uuid'}`,
    [importId, moved ?? inside],
  );
  return (row?.id ? draft.titles.get(row.id) : undefined) ?? row?.title ?? null;
}

export async function historyRows(queries: Queries, site: string) {
  const rows = await queries.many<{ seq: number; words: string; id: string; name: string; at: Date; body: { kind: Decision['kind']; of?: number } }>(
    `select d.seq, d.words, p.id, p.name, d.at, d.body from decision d join person p on p.id = d.by
      where d.site_id = $1 order by d.seq desc limit 500`,
    [site],
  );
  const undone = new Set<number>();
  for (const { seq, body } of rows) if (body.kind === 'undo' && body.of !== undefined && !undone.has(seq)) undone.add(body.of);
  return rows.map(({ seq, words, id, name, at, body }) => ({
    seq, words, by: { id, name, initials: initials(name) }, at: at.toISOString(), undone: undone.has(seq), isStep: !isFact(body),
  }));
}
