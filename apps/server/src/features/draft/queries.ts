/** Proofs on the draft, and the history. */
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import type { HistoryRow, Proof } from '@fastigium/contracts/api/draft';
import { findAddressOfFile, formatAddress, splitAddress } from '@fastigium/core/address';
import { indexRules, walkProof } from '@fastigium/core/redirects';
import { stripBase } from '@fastigium/core/release';
import { isFact, type Draft, type RecordedDecision } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { deriveInitials } from '../shared/initials.ts';
import { readEntries } from '../shared/manifests.ts';
import { compileDraft } from './compileDraft.ts';
import { readHistory } from './history.ts';
import { readOldDomains, readOldAddress } from './oldDomains.ts';

/** Follows an address over the draft's files and rules, reading only the shards it passes. */
export async function proveOnDraft(deps: Deps, site: string, text: string): Promise<Proof> {
  const from = readOldAddress(text, await readOldDomains(deps.db, site));
  const { shards, rules, importId, draft } = await compileDraft(deps, site);
  const steps = walkProof(splitAddress(from), indexRules(rules.rules));
  let step = steps.next();
  while (!step.done) step = steps.next(await readEntries(deps.db, shards, step.value));
  const { hops, end } = step.value;
  return {
    hops: hops.map(({ address, status, location }) => ({ address, status, location: location ?? null })),
    end: end.kind,
    title: end.kind === 'page' ? await readTitleOfFile(deps.db, importId, draft, end.file) : null,
  };
}

async function readTitleOfFile(queries: Queries, importId: string, draft: Draft, file: string): Promise<string | null> {
  const inside = stripBase(draft.basePath, file) ?? file;
  const moved = [...draft.addresses].find(
    ([, address]) => formatAddress({ path: address, query: undefined }) === findAddressOfFile(inside),
  )?.[0];
  const row = await queries.maybeOne<{ id: string | null; title: string | null }>(
    `select f.page_id as id, r.title from source_file f left join file_reading r using (import_id, path)
      where f.import_id = $1 and ${moved === undefined ? 'f.path = $2' : 'f.page_id = $2::uuid'}`,
    [importId, moved ?? inside],
  );
  return (row?.id ? draft.titles.get(row.id) : undefined) ?? row?.title ?? null;
}

const ROWS_AT_ONCE = 200;

/** @param before only those before this number */
export async function readHistoryRows(
  queries: Queries,
  site: string,
  before?: number,
): Promise<{ rows: HistoryRow[]; more: boolean }> {
  const decisions = await readHistory(queries, site);
  const shown = before === undefined ? decisions : decisions.filter(({ seq }) => seq < before);
  const page = shown.slice(-ROWS_AT_ONCE).reverse();
  const messages = new Map(
    (
      await queries.many<{ seq: number; message: DecisionMessage; id: string | null; name: string | null; at: Date }>(
        `select d.seq, d.message, p.id, p.name, d.at from decision d left join person p on p.id = d.by
          where d.site_id = $1 and d.seq = any($2)`,
        [site, page.map(({ seq }) => seq)],
      )
    ).map((row) => [row.seq, row]),
  );
  const undone = findUndone(decisions);
  const rows = page.flatMap(({ seq, decision }): HistoryRow[] => {
    const row = messages.get(seq);
    if (!row) return [];
    const { message, id, name, at } = row;
    return [
      {
        seq,
        message,
        by: id === null || name === null ? null : { id, name, initials: deriveInitials(name) },
        at: at.toISOString(),
        undone: undone.has(seq),
        isStep: !isFact(decision),
      },
    ];
  });
  return { rows, more: shown.length > page.length };
}

/** Those that a later one takes back, and that is not taken back itself. */
function findUndone(decisions: readonly RecordedDecision[]): ReadonlySet<number> {
  const undone = new Set<number>();
  for (const { seq, decision } of [...decisions].reverse())
    if (decision.kind === 'undo' && !undone.has(seq)) undone.add(decision.of);
  return undone;
}
