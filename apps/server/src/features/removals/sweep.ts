/** Removing for good: by an owner, or when the time something is kept runs out. */
import { decision as decided, type DecisionMessage } from '@fastigium/contracts/messages/decision';
import { notice } from '@fastigium/contracts/messages/notice';
import { DomainError } from '@fastigium/contracts/errors';
import { listStandInRedirects } from '@fastigium/core/release';
import {
  isAdded,
  reckonKeptUntilMs,
  findSiteAddress,
  withRemoved,
  type Decision,
  type Removal,
} from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';
import { foldDraftAt, readHistory, readLatestDraft, readSiteState, type SiteState } from '../draft/history.ts';
import { readAnsweredBefore } from '../draft/draftRules.ts';
import { readPagesById } from '../draft/pageFiles.ts';
import { requireRemoval } from '../draft/prepare/putBack.ts';
import { recordDecision } from '../draft/record.ts';
import { readKeepingRule, readPeople } from '../draft/keptRemovals.ts';
import { readKnown, type Known } from './list.ts';
import { tell } from '../shared/notices.ts';
import { labelRemoval } from './words.ts';

type Swept = { readonly version: number; readonly message: DecisionMessage };

type Person = { readonly id: string; readonly name: string };

export interface ForGood {
  readonly version: number;
  readonly of: readonly number[];
  readonly confirmed: string;
}

export async function removeForGood(
  deps: Deps,
  site: string,
  by: Person,
  { version, of: asked, confirmed }: ForGood,
): Promise<Swept> {
  return deps.db.transaction(async (tx) => {
    const state = await readSiteState(tx, site, 'locked');
    if (state.currentImport === null) throw new DomainError('nothing-imported');
    if (state.version !== version) throw new DomainError('draft-stale');
    const decisions = await readHistory(tx, site);
    const draft = foldDraftAt(decisions, Infinity);
    const removals = [...new Set(asked)].map((each) => requireRemoval({ draft, decisions }, each));
    const known = await readKnown(tx, state.currentImport, draft);
    await refuseHeld(tx, site, known, removals);
    const [only] = removals.length === 1 ? removals : [];
    const wanted = only ? [labelRemoval(known, only), '1'] : [String(removals.length)];
    if (!wanted.includes(confirmed.replaceAll(',', '')))
      throw new DomainError('confirmation-differs', { wanted: wanted[0] ?? '' });
    return sweep(deps, tx, state, known, removals, by);
  });
}

/** What somebody holds is let go first, by whoever knows why. */
async function refuseHeld(tx: Queries, site: string, known: Known, removals: readonly Removal[]): Promise<void> {
  const held = removals.find((removal) => removal.held);
  if (!held?.held) return;
  const holder = (await readPeople(tx, site, [held.held.seq])).get(held.held.seq);
  throw new DomainError('removal-held', {
    label: labelRemoval(known, held),
    person: holder?.name ?? '',
    reason: held.held.reason,
  });
}

/** @param by undefined where the time ran out */
async function sweep(
  deps: Pick<Deps, 'world'>,
  tx: Queries,
  state: SiteState,
  known: Known,
  removals: readonly Removal[],
  by: Person | undefined,
): Promise<Swept> {
  const { draft } = known;
  const seqs = removals.map(({ seq }) => seq);
  const importId = state.currentImport ?? '';
  const pages = await readPagesById(tx, importId, withRemoved(draft), [
    ...draft.removed.keys(),
    ...removals.flatMap(({ standIn }) => (standIn.kind === 'page' ? [standIn.page] : [])),
  ]);
  const stood = Object.fromEntries(
    removals
      .flatMap(({ left }) => left)
      .flatMap((id) => {
        const page = pages.get(id);
        return page && !isAdded(draft, id) ? [[id, findSiteAddress(draft, page)]] : [];
      }),
  );
  const decision: Decision = {
    kind: 'swept',
    of: seqs,
    redirects: listStandInRedirects(draft, removals, pages, await readAnsweredBefore(tx, importId, draft)),
    stood,
  };
  const labelled = (some: readonly Removal[]) => ({
    count: some.length,
    label: some[0] ? labelRemoval(known, some[0]) : '',
  });
  const message = decided('swept', { ...labelled(removals), by: by ? 'person' : 'time' });
  const people = await readPeople(tx, state.id, seqs);
  // Work needs somebody it is done for; of a time limit, that is whoever removed the first.
  const worker = by ?? people.get(seqs[0] ?? 0);
  const version = await recordDecision(
    tx,
    state,
    { id: by?.id ?? null, name: by?.name ?? '', worker: worker?.id ?? '' },
    decision,
    message,
  );
  const nowMs = deps.world.clock.nowMs();
  for (const owner of new Set(removals.map(({ seq }) => people.get(seq)?.id))) {
    if (owner === undefined || owner === by?.id) continue;
    const theirs = removals.filter(({ seq }) => people.get(seq)?.id === owner);
    await tell(
      tx,
      state.id,
      owner,
      by ? notice('swept-by', { person: by.name, ...labelled(theirs) }) : notice('swept-by-time', labelled(theirs)),
      nowMs,
    );
  }
  if (worker) await enqueue(tx, { kind: 'sweep', site: state.id, body: {}, by: worker.id });
  return { version, message };
}

/**
 * Removes what nobody holds and whose time is over, and says when to look again. The site's row is locked,
 * so whoever puts something back at that moment is either before it, and it stays, or after it, and is told.
 */
export async function sweepDue(deps: Deps, site: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    const state = await readSiteState(tx, site, 'locked');
    if (state.currentImport === null) return;
    const draft = await readLatestDraft(tx, site);
    const rule = await readKeepingRule(tx, site);
    const nowMs = deps.world.clock.nowMs();
    const untils = [...draft.removals.values()].map((removal) => ({
      removal,
      untilMs: reckonKeptUntilMs(removal, rule),
    }));
    const due = untils.filter(({ untilMs }) => untilMs !== undefined && untilMs <= nowMs).map(({ removal }) => removal);
    if (due.length > 0) await sweep(deps, tx, state, await readKnown(tx, state.currentImport, draft), due, undefined);
    const next = untils
      .flatMap(({ untilMs }) => (untilMs !== undefined && untilMs > nowMs ? [untilMs] : []))
      .sort((a, b) => a - b)[0];
    await tx.run('update site set next_sweep_at = $2 where id = $1', [
      site,
      next === undefined ? null : new Date(next),
    ]);
  });
}
