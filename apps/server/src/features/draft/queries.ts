/** Proofs on the draft, and the history. */
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import type { Proof } from '@fastigium/contracts/api/draft';
import { addressOfFile, formatAddress, splitAddress } from '@fastigium/core/address';
import { indexRules, proofSteps } from '@fastigium/core/redirects';
import { insideBase } from '@fastigium/core/release';
import { isFact, type Decision, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { initials } from '../shared/initials.ts';
import { entriesOf } from '../shared/manifests.ts';
import { compileDraft } from './compileDraft.ts';
import { oldDomains, readOldAddress } from './oldDomains.ts';

/** Follows an address over the draft's files and rules, reading only the shards it passes. */
export async function proveOnDraft(deps: Deps, site: string, text: string): Promise<Proof> {
  const from = readOldAddress(text, await oldDomains(deps.db, site));
  const { shards, rules, importId, draft } = await compileDraft(deps, site);
  const steps = proofSteps(splitAddress(from), indexRules(rules.rules));
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
  const moved = [...draft.addresses].find(
    ([, address]) => formatAddress({ path: address, query: undefined }) === addressOfFile(inside),
  )?.[0];
  const row = await queries.maybeOne<{ id: string | null; title: string | null }>(
    `select f.page_id as id, r.title from source_file f left join file_reading r using (import_id, path)
      where f.import_id = $1 and ${moved === undefined ? 'f.path = $2' : 'f.page_id = $2::uuid'}`,
    [importId, moved ?? inside],
  );
  return (row?.id ? draft.titles.get(row.id) : undefined) ?? row?.title ?? null;
}

export async function historyRows(queries: Queries, site: string) {
  const rows = await queries.many<{
    seq: number;
    message: DecisionMessage;
    id: string | null;
    name: string | null;
    at: Date;
    body: { kind: Decision['kind']; of?: number };
  }>(
    `select d.seq, d.message, p.id, p.name, d.at, d.body from decision d left join person p on p.id = d.by
      where d.site_id = $1 order by d.seq desc limit 500`,
    [site],
  );
  const undone = new Set<number>();
  for (const { seq, body } of rows)
    if (body.kind === 'undo' && body.of !== undefined && !undone.has(seq)) undone.add(body.of);
  return rows.map(({ seq, message, id, name, at, body }) => ({
    seq,
    message,
    by: id === null || name === null ? null : { id, name, initials: initials(name) },
    at: at.toISOString(),
    undone: undone.has(seq),
    isStep: !isFact(body),
  }));
}
