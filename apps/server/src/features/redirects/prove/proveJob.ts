/** All old addresses asked of the live host, and held against what the release says. */
import type { LiveWayMessage } from '@fastigium/core/redirects';
import { DomainError } from '@fastigium/contracts/errors';
import { splitAddress } from '@fastigium/core/address';
import type { SiteAccess } from '@fastigium/core/access';
import { indexRules, isRedirect, prove, type Proof, type Rule, type RuleIndex } from '@fastigium/core/redirects';
import type { ManifestEntry } from '@fastigium/core/release';
import { z } from 'zod';
import type { Queries } from '../../../db/database.ts';
import { announce } from '../../../db/events.ts';
import type { Deps } from '../../../deps.ts';
import { requireLiveOrigin } from '../../address/liveOrigin.ts';
import { enqueue, type JobHandler, type JobRun } from '../../../jobs/queue.ts';
import { compileDraft } from '../../draft/compileDraft.ts';
import { createEntrance } from '../../shared/entrance.ts';
import { readOrigin } from '../../draft/heads/heads.ts';
import { readAllEntries } from '../../shared/manifests.ts';
import { readServing } from '../../shared/serving.ts';
import { compareLiveWay, LiveHost, type LiveWay } from './liveWay.ts';
import { askOutsideTargets } from './outsideTargets.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

const body = z.object({ by: z.uuid() });
const AT_ONCE = 16;

export async function proveSoon(deps: Deps, site: string, by: string): Promise<string> {
  return deps.db.transaction(async (tx) => {
    if (!(await tx.maybeOne('select 1 from site where id = $1 and live_release is not null', [site])))
      throw new DomainError('nothing-live');
    const waiting = await tx.maybeOne<{ id: string }>(
      `select id from job where site_id = $1 and kind = 'prove' and state in ('waiting', 'running') limit 1`,
      [site],
    );
    return waiting?.id ?? enqueue(tx, { kind: 'prove', site, body: { by }, by });
  });
}

export function proveJob(deps: Deps): JobHandler {
  return {
    async run(job) {
      const { by } = body.parse(job.body);
      const live = await deps.db.maybeOne<{ id: string; shards: string[]; rulesHash: string | null }>(
        'select r.id, r.shards, r.rules_hash as "rulesHash" from site s join release r on r.id = s.live_release where s.id = $1',
        [job.site],
      );
      if (!live) throw new DomainError('nothing-live');
      const { rules, access } = await readServing(deps.db, live.rulesHash);
      const origin = await requireLiveOrigin(deps, deps.db, job.site);
      await proveLive(
        deps,
        {
          release: live.id,
          origin,
          by,
          rules,
          access,
          index: indexRules(rules),
          files: await readAllEntries(deps.db, live.shards),
        },
        job,
      );
      // Those of the draft: a dead one is to be known before it is published.
      const compiled = await compileDraft(deps, job.site);
      await askOutsideTargets(deps, compiled.rules.rules, job);
      await announce(deps.db, { kind: 'redirects', site: job.site });
    },
  };
}

export interface ProvedRelease {
  readonly release: string;
  /** Where it is asked for. */
  readonly origin: URL;
  readonly by: string;
  readonly rules: readonly Rule[];
  readonly access: SiteAccess;
  readonly index: RuleIndex;
  readonly files: ReadonlyMap<string, ManifestEntry>;
}

export interface ProvedAddress {
  readonly from: string;
  readonly way: LiveWay;
  /** What is otherwise than the release says. */
  readonly problem: LiveWayMessage | undefined;
}

/** Asks the live host for every old address, and keeps what it answered. */
export async function proveLive(
  deps: Deps,
  { release, origin, by, rules, access, index, files }: ProvedRelease,
  job: Pick<JobRun, 'site' | 'signal' | 'report'>,
): Promise<readonly ProvedAddress[]> {
  const known = await readAddressesToProve(
    deps.db,
    job.site,
    rules.filter((rule) => isRedirect(rule) && !rule.isPattern).map(({ from }) => from),
  );
  const entrance = await createEntrance(deps, job.site, access);
  const host = new LiveHost({
    origin,
    mainOrigin: await readOrigin(deps.db, job.site),
    headersFor: (path) => entrance.headersFor(path),
    fetch: deps.world.fetch,
    readLive: deps.world.readLive,
    signal: job.signal,
  });
  const proofs = new Map(known.map((from) => [from, prove(splitAddress(from), files, index)]));
  // Where nobody may visit yet, nobody can see where an old address leads.
  const isSeen = ({ hops, end }: Proof) =>
    hops.every(({ address }, at) =>
      ['everyone', 'password'].includes(
        entrance.admit(splitAddress(address).path, at === hops.length - 1 && end.kind === 'page' ? end.file : undefined)
          .kind,
      ),
    );
  const addresses = known.filter((from) => {
    const proof = proofs.get(from);
    return proof !== undefined && isSeen(proof);
  });
  const found: ProvedAddress[] = [];
  const waiting = addresses.values();
  const work = async () => {
    for (const from of waiting) {
      const way = await host.follow(from);
      found.push({
        from,
        way,
        problem: compareLiveWay(
          proofs.get(from) ?? prove(splitAddress(from), files, index),
          way,
          (file) => files.get(file)?.hash,
        ),
      });
      job.report({
        step: progressStep('asking-live-host'),
        done: found.length,
        total: addresses.length,
        unit: 'addresses',
      });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  await keep(deps, job.site, { release, origin: origin.href, by }, found);
  return found;
}

/** What people may still ask for: all that is known, and all that a rule is for. */
export async function readAddressesToProve(
  queries: Queries,
  site: string,
  ofRules: readonly string[],
): Promise<string[]> {
  const rows = await queries.many<{ address: string }>(
    `select address from old_address where site_id = $1 and kind <> 'noise' order by visits desc nulls last, address`,
    [site],
  );
  return [...new Set([...rows.map(({ address }) => address), ...ofRules])];
}

async function keep(
  deps: Deps,
  site: string,
  proved: { release: string; origin: string; by: string },
  found: readonly ProvedAddress[],
): Promise<void> {
  await deps.db.transaction(async (tx) => {
    await tx.run('delete from redirect_proof where site_id = $1', [site]);
    await tx.run('insert into redirect_proof (site_id, release_id, origin, at, by) values ($1, $2, $3, $4, $5)', [
      site,
      proved.release,
      proved.origin,
      new Date(deps.world.clock.nowMs()),
      proved.by,
    ]);
    await tx.run(
      `insert into redirect_proof_row (site_id, address, hops, end_kind, final, message)
       select $1, r.* from unnest($2::text[], $3::jsonb[], $4::text[], $5::text[], $6::jsonb[]) as r(address, hops, end_kind, final, message)`,
      [
        site,
        found.map(({ from }) => from),
        found.map(({ way }) => JSON.stringify(way.hops)),
        found.map(({ way }) => way.end),
        found.map(({ way }) => way.final),
        found.map(({ problem }) => (problem ? JSON.stringify(problem) : null)),
      ],
    );
  });
}
