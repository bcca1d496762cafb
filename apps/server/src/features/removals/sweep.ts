/** Removing for good: by an owner, or when the time something is kept runs out. */
import { DomainError } from '@fastigium/contracts/errors';
import { standInRedirects } from '@fastigium/core/release';
import {
  foldDecisions,
  isAdded,
  keptUntilMs,
  siteAddress,
  withRemoved,
  type Decision,
  type Removal,
} from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';
import { history, siteState, type SiteState } from '../draft/history.ts';
import { answeredBefore } from '../draft/draftRules.ts';
import { pagesById } from '../draft/pageFiles.ts';
import { removalOf } from '../draft/prepare/putBack.ts';
import { recordDecision } from '../draft/record.ts';
import { keepingRule, peopleOf } from '../draft/keptRemovals.ts';
import { knownOf, type Known } from './list.ts';
import { tell } from '../shared/notices.ts';
import { labelOf } from './words.ts';

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
  { version, of, confirmed }: ForGood,
): Promise<{ version: number; words: string }> {
  return deps.db.transaction(async (tx) => {
    const state = await siteState(tx, site, 'locked');
    if (state.currentImport === null) throw new DomainError('nothing-imported');
    if (state.version !== version) throw new DomainError('draft-stale', { version: state.version });
    const decisions = await history(tx, site);
    const draft = foldDecisions(decisions);
    const removals = [...new Set(of)].map((each) => removalOf({ draft, decisions }, each));
    const known = await knownOf(tx, state.currentImport, draft);
    await refuseHeld(tx, site, known, removals);
    const [only] = removals.length === 1 ? removals : [];
    const wanted = only ? [labelOf(known, only), '1'] : [String(removals.length)];
    if (!wanted.includes(confirmed.replaceAll(',', '')))
      throw new DomainError('confirmation-differs', { wanted: wanted[0] ?? '' });
    return sweep(deps, tx, state, known, removals, by);
  });
}

/** What somebody holds is let go first, by whoever knows why. */
async function refuseHeld(tx: Queries, site: string, known: Known, removals: readonly Removal[]): Promise<void> {
  const held = removals.find((removal) => removal.held);
  if (!held?.held) return;
  const holder = (await peopleOf(tx, site, [held.held.seq])).get(held.held.seq);
  throw new DomainError('removal-held', {
    label: labelOf(known, held),
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
): Promise<{ version: number; words: string }> {
  const { draft } = known;
  const of = removals.map(({ seq }) => seq);
  const importId = state.currentImport ?? '';
  const pages = await pagesById(tx, importId, withRemoved(draft), [
    ...draft.removed.keys(),
    ...removals.flatMap(({ standIn }) => (standIn.kind === 'page' ? [standIn.page] : [])),
  ]);
  const stood = Object.fromEntries(
    removals
      .flatMap(({ left }) => left)
      .flatMap((id) => {
        const page = pages.get(id);
        return page && !isAdded(draft, id) ? [[id, siteAddress(draft, page)]] : [];
      }),
  );
  const decision: Decision = {
    kind: 'swept',
    of,
    redirects: standInRedirects(draft, removals, pages, await answeredBefore(tx, importId, draft)),
    stood,
  };
  const labels = removals.map((removal) => `“${labelOf(known, removal)}”`);
  const [first] = labels;
  const words = `${removals.length === 1 ? first : `${removals.length.toLocaleString('en')} removed things, ${first} among them,`} removed for good${by ? '' : ': the time they were kept is over'}`;
  const people = await peopleOf(tx, state.id, of);
  // Work needs somebody it is done for; of a time limit, that is whoever removed the first.
  const worker = by ?? people.get(of[0] ?? 0);
  const version = await recordDecision(
    tx,
    state,
    { id: by?.id ?? null, name: by?.name ?? '', worker: worker?.id ?? '' },
    decision,
    words,
  );
  const nowMs = deps.world.clock.nowMs();
  for (const owner of new Set(removals.map(({ seq }) => people.get(seq)?.id))) {
    if (owner === undefined || owner === by?.id) continue;
    const own = removals.filter(({ seq }) => people.get(seq)?.id === owner);
    const what =
      own.length === 1
        ? `“${labelOf(known, own[0] as Removal)}”`
        : `${own.length} things, “${labelOf(known, own[0] as Removal)}” among them`;
    await tell(
      tx,
      state.id,
      owner,
      by
        ? `${by.name} removed for good ${what}, which you had removed.`
        : `${what}, which you had removed, went for good: the time it was kept is over.`,
      nowMs,
    );
  }
  if (worker) await enqueue(tx, { kind: 'sweep', site: state.id, body: {}, by: worker.id });
  return { version, words };
}

/**
 * Removes what nobody holds and whose time is over, and says when to look again. The site's row is locked,
 * so whoever puts something back at that moment is either before it, and it stays, or after it, and is told.
 */
export async function sweepDue(deps: Deps, site: string): Promise<void> {
  await deps.db.transaction(async (tx) => {
    const state = await siteState(tx, site, 'locked');
    if (state.currentImport === null) return;
    const draft = foldDecisions(await history(tx, site));
    const rule = await keepingRule(tx, site);
    const nowMs = deps.world.clock.nowMs();
    const untils = [...draft.removals.values()].map((removal) => ({ removal, untilMs: keptUntilMs(removal, rule) }));
    const due = untils.filter(({ untilMs }) => untilMs !== undefined && untilMs <= nowMs).map(({ removal }) => removal);
    if (due.length > 0) await sweep(deps, tx, state, await knownOf(tx, state.currentImport, draft), due, undefined);
    const next = untils
      .flatMap(({ untilMs }) => (untilMs !== undefined && untilMs > nowMs ? [untilMs] : []))
      .sort((a, b) => a - b)[0];
    await tx.run('update site set next_sweep_at = $2 where id = $1', [
      site,
      next === undefined ? null : new Date(next),
    ]);
  });
}
