/** Changing the draft: a request is checked against the draft as it stands and recorded as a decision. */
import type { Decided } from '@fastigium/contracts/api/draft';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import { findConflict, findDecisionKind, withRemoved, type Decision, type Draft } from '@fastigium/core/site';
import type { Touch } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { suggestSoon } from '../shared/suggestSoon.ts';
import { sweepSoon } from './sweepSoon.ts';
import { readSiteState } from './history.ts';
import { openDraft } from './openDraft.ts';
import { readAllPages } from './pageFiles.ts';
import { recordDecision } from './record.ts';
import { findTouchPlaces, findPagesInScope, type FoundPlaces, type PageInScope } from './touchPlaces.ts';
import { findRequestKind } from './prepare/kinds.ts';
import { readSituation, type Situation } from './prepare/situation.ts';

const MOST_TRIES = 5;

/** What takes long is looked up before anything is held, and again where it is not so any more by the time it is decided. */
export async function decide(
  deps: Deps,
  site: string,
  by: { id: string; name: string },
  request: { version: number; decision: DecisionRequest },
): Promise<Decided> {
  for (let tries = 1; tries <= MOST_TRIES; tries += 1) {
    const decided = await decideOn(deps, site, by, request, await lookUp(deps, site, request.decision));
    if (decided) return decided;
  }
  throw new DomainError('draft-stale');
}

interface LookedUp {
  readonly touch: Touch;
  /** The pages it may concern, as they were looked at. */
  readonly pages: readonly PageInScope[];
  readonly places: readonly FoundPlaces[];
}

/** Where a touch stands, as far as the draft goes now. */
async function lookUp(deps: Deps, site: string, request: DecisionRequest): Promise<LookedUp | undefined> {
  if (request.kind !== 'touch') return undefined;
  const { importId, draft } = await openDraft(deps.db, site);
  const touch = request.touch as Touch;
  const pages = await readPagesOfTouch(deps.db, importId, draft, touch);
  return { touch, pages, places: await findTouchPlaces(deps, pages, touch) };
}

/** Removed ones have it as well, once they are back. */
async function readPagesOfTouch(
  queries: Queries,
  importId: string,
  draft: Draft,
  touch: Touch,
): Promise<PageInScope[]> {
  const whole = withRemoved(draft);
  return findPagesInScope(await readAllPages(queries, importId, whole), whole, touch);
}

async function isStillSo({ tx, importId, draft }: Situation, { touch, pages }: LookedUp): Promise<boolean> {
  const saying = (some: readonly PageInScope[]) =>
    some.map(({ page, address }) => `${page.id} ${page.hash} ${address}`).sort();
  const now = saying(await readPagesOfTouch(tx, importId, draft, touch));
  const before = saying(pages);
  return now.length === before.length && now.every((each, index) => each === before[index]);
}

/** @returns undefined where what was looked up is not so any more */
async function decideOn(
  deps: Deps,
  site: string,
  by: { id: string; name: string },
  request: { version: number; decision: DecisionRequest },
  before: LookedUp | undefined,
): Promise<Decided | undefined> {
  return deps.db.transaction(async (tx) => {
    const state = await readSiteState(tx, site, 'locked');
    const situation = await readSituation(tx, deps, site, state, before?.places);
    // Somebody who has seen more than there is has seen another site.
    if (request.version > state.version) throw new DomainError('draft-stale');
    const others = await readDecidedByOthers(tx, site, by.id, request.version);
    const asked = findRequestKind(request.decision);
    if (others.size > 0 && asked.needsLatest) throw new DomainError('draft-stale');
    if (before && !(await isStillSo(situation, before))) return undefined;
    const { decision, message, made } = await asked.prepare(situation, request.decision);
    await refuseConflict(tx, site, situation, decision, others);
    const version = await recordDecision(tx, state, by, decision, message);
    const kind = findDecisionKind(decision);
    if (kind.settlesAddresses) await suggestSoon(tx, site, by.id);
    if (kind.changesKeeping) await sweepSoon(tx, site, deps.world.clock.nowMs());
    return { version, message, made: made ?? null };
  });
}

/** Steps of one person come in the order they were made in, so only those of others have not been seen. */
async function readDecidedByOthers(tx: Queries, site: string, by: string, seen: number): Promise<ReadonlySet<number>> {
  const rows = await tx.many<{ seq: number }>(
    'select seq from decision where site_id = $1 and seq > $2 and by is distinct from $3',
    [site, seen, by],
  );
  return new Set(rows.map(({ seq }) => seq));
}

/** Of two who decide at once both succeed, unless they speak of the same thing: then the later one is shown what changed. */
async function refuseConflict(
  tx: Queries,
  site: string,
  { decisions }: Situation,
  decision: Decision,
  others: ReadonlySet<number>,
): Promise<void> {
  if (others.size === 0) return;
  const other = findConflict(
    decision,
    decisions.filter(({ seq }) => others.has(seq)),
    decisions,
  );
  if (!other) return;
  const decided = await tx.one<{ message: DecisionMessage; person: string | null }>(
    'select d.message, p.name as person from decision d left join person p on p.id = d.by where d.site_id = $1 and d.seq = $2',
    [site, other.seq],
  );
  throw new DomainError('same-changed', { person: decided.person ?? 'Fastigium', decision: decided.message });
}
