/** Asking for a release, or for an earlier one again. The work itself is publishJob.ts. */
import { DomainError } from '@fastigium/contracts/errors';
import { noHost } from '../../adapters/host/noHost.ts';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';
import { readSiteState, type SiteState } from '../draft/history.ts';
import { checkDraft } from '../snags/checkDraft.ts';
import { countHoldingSnags } from '../snags/snags.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { readLiveRelease } from '../changes/changes.ts';
import { leaveOutAround } from './leaveOut.ts';
import { createServingContent } from '../shared/serving.ts';

interface Asked {
  readonly release: number;
  readonly job: string;
}

export async function publish(
  deps: Deps,
  site: string,
  by: { readonly id: string; readonly name: string },
  request: { version: number; note: string; leaveOut: readonly number[]; replaces?: number | null | undefined },
): Promise<Asked> {
  await requireHost(deps, site);
  greetHost(deps, site);
  const differs = await differsFromLive(deps, site);
  await checkDraft(deps, site);
  return deps.db.transaction(async (tx) => {
    const state = await lockForRelease(tx, site);
    // What goes out is what was looked at; anything decided since then is shown first.
    if (state.version !== request.version) throw new DomainError('draft-stale');
    await refuseOtherLive(tx, state, request.replaces);
    if (!differs) throw new DomainError('nothing-to-publish');
    const holding = await countHoldingSnags(tx, site);
    if (holding > 0) throw new DomainError('snags-hold', { count: holding });
    const facts = { importId: state.currentImport, note: request.note, rollbackOf: null };
    if (request.leaveOut.length === 0) return startRelease(tx, state, by.id, { ...facts, version: state.version });
    return leaveOutAround(tx, deps, { site, by, of: request.leaveOut }, (version) =>
      startRelease(tx, state, by.id, { ...facts, version }),
    );
  });
}

/** Throws a DomainError `host-needed`: what can never go out is not begun. */
export async function requireHost(deps: Deps, site: string): Promise<void> {
  if ((await deps.hosts.of(deps.db, site)) === noHost) throw new DomainError('host-needed');
}

/** Whoever looked at what differs from one release does not publish over another. */
async function refuseOtherLive(
  tx: Queries,
  { liveRelease: id }: SiteState,
  replaces: number | null | undefined,
): Promise<void> {
  if (replaces === undefined) return;
  const live =
    id === null ? null : (await tx.one<{ number: number }>('select number from release where id = $1', [id])).number;
  if (live !== replaces) throw new DomainError('live-moved', { number: live ?? 0 });
}

/** Opening a connection takes a host longer than the draft takes to be looked at; one that does not answer is told of by the job. */
function greetHost(deps: Deps, site: string): void {
  const greeting = async () => {
    const { hostName } = await deps.db.one<{ hostName: string }>(
      'select host_name as "hostName" from site where id = $1',
      [site],
    );
    await (await deps.hosts.of(deps.db, site)).current(hostName);
  };
  greeting().catch(() => {});
}

/** The draft as it was when its time was set; what had to be fixed was looked at then. */
export async function publishAsSet(
  tx: Queries,
  site: string,
  by: string,
  { version, importId, note }: { version: number; importId: string; note: string },
): Promise<Asked> {
  return startRelease(tx, await lockForRelease(tx, site), by, { version, importId, note, rollbackOf: null });
}

export async function requireNothingHolds(deps: Deps, site: string): Promise<void> {
  await checkDraft(deps, site);
  const holding = await countHoldingSnags(deps.db, site);
  if (holding > 0) throw new DomainError('snags-hold', { count: holding });
}

export async function rollBack(
  deps: Deps,
  site: string,
  by: string,
  number: number,
  replaces?: number | null,
): Promise<Asked> {
  return deps.db.transaction(async (tx) => {
    const state = await lockForRelease(tx, site);
    await refuseOtherLive(tx, state, replaces);
    const kept = await tx.maybeOne<Again & { id: string; state: string }>(
      `select id, version, import_id as "importId", state, shards, rules_hash as "rulesHash", files, bytes
         from release where site_id = $1 and number = $2 and state in ('live', 'past')`,
      [site, number],
    );
    if (!kept) throw new DomainError('release-not-kept', { number });
    if (kept.id === state.liveRelease) throw new DomainError('release-is-live', { number });
    return publishKept(tx, state, by, kept, { rollbackOf: number, isWhole: false });
  });
}

/** The live release once more, for a host that gives something else: told whole, and nothing is taken to be there unseen. */
export async function publishAgain(deps: Deps, site: string, by: string): Promise<Asked> {
  return deps.db.transaction(async (tx) => {
    const state = await lockForRelease(tx, site);
    const live = await tx.maybeOne<Again & { number: number }>(
      `select number, version, import_id as "importId", shards, rules_hash as "rulesHash", files, bytes from release where id = $1`,
      [state.liveRelease],
    );
    if (!live) throw new DomainError('nothing-live');
    return publishKept(tx, state, by, live, { rollbackOf: live.number, isWhole: true });
  });
}

/** What a release that went out before consists of. */
interface Again extends Record<string, unknown> {
  readonly version: number;
  readonly importId: string;
  readonly shards: string[];
  readonly rulesHash: string | null;
  readonly files: number;
  readonly bytes: number;
}

async function publishKept(
  tx: Queries,
  state: SiteState,
  by: string,
  kept: Again,
  { rollbackOf, isWhole }: { readonly rollbackOf: number; readonly isWhole: boolean },
): Promise<Asked> {
  const asked = await startRelease(tx, state, by, {
    version: kept.version,
    importId: kept.importId,
    note: isWhole ? 'Put right: the host gave something else' : '',
    rollbackOf,
    isWhole,
  });
  await tx.run(
    'update release set shards = $3, rules_hash = $4, files = $5, bytes = $6 where site_id = $1 and number = $2',
    [state.id, asked.release, kept.shards, kept.rulesHash, kept.files, kept.bytes],
  );
  return asked;
}

/** Whether there is anything to publish; what exactly is not asked here. */
export async function differsFromLive(deps: Deps, site: string): Promise<boolean> {
  const {
    shards,
    rules: { rules },
    access,
  } = await compileDraft(deps, site);
  const live = await readLiveRelease(deps.db, site);
  return (
    !live ||
    createServingContent({ rules, access })?.hash !== (live.rulesHash ?? undefined) ||
    shards.some((hash, index) => hash !== live.shards[index])
  );
}

/** Of a site whose row is locked. Throws a DomainError `publish-running`. */
export async function refuseWhilePublishing(tx: Queries, site: string): Promise<void> {
  const running = await tx.maybeOne<{ number: number; person: string }>(
    `select r.number, p.name as person from release r join person p on p.id = r.created_by where r.site_id = $1 and r.state = 'sending'`,
    [site],
  );
  if (running) throw new DomainError('publish-running', running);
}

async function lockForRelease(tx: Queries, site: string): Promise<SiteState & { currentImport: string }> {
  const state = await readSiteState(tx, site, 'locked');
  await refuseWhilePublishing(tx, site);
  if (state.currentImport === null) throw new DomainError('nothing-imported');
  return { ...state, currentImport: state.currentImport };
}

async function startRelease(
  tx: Queries,
  state: SiteState,
  by: string,
  facts: { version: number; importId: string; note: string; rollbackOf: number | null; isWhole?: boolean },
): Promise<Asked> {
  const { id, number } = await tx.one<{ id: string; number: number }>(
    `insert into release (site_id, number, state, note, created_by, version, import_id, rollback_of)
     select $1, coalesce(max(number), 0) + 1, 'sending', $2, $3, $4, $5, $6 from release where site_id = $1
     returning id, number`,
    [state.id, facts.note, by, facts.version, facts.importId, facts.rollbackOf],
  );
  const job = await enqueue(tx, {
    kind: 'publish',
    site: state.id,
    body: { release: id, ...(facts.isWhole ? { whole: true } : {}) },
    by,
  });
  await tx.run('update release set job_id = $2 where id = $1', [id, job]);
  await announce(tx, { kind: 'release', site: state.id });
  return { release: number, job };
}
