/** The day of the move: what is measured everywhere else, in the order of this site's steps. */
import type { Move } from '@fastigium/contracts/api/move';
import { moveSteps, type MoveFacts } from '@fastigium/core/reach';
import type { Deps } from '../../deps.ts';
import { readAddressView } from '../address/view.ts';
import { readSiteOverview } from '../sites/sites.ts';

export async function moveOf(deps: Deps, site: string): Promise<Move> {
  const { clock } = deps.world;
  const nowMs = clock.nowMs();
  const { changeAt } = await deps.db.one<{ changeAt: Date | null }>(
    'select change_at as "changeAt" from site where id = $1',
    [site],
  );
  const iso = (ms: number | undefined) => (ms === undefined ? null : new Date(ms).toISOString());
  const steps = moveSteps(await readFacts(deps, site, changeAt?.getTime()), nowMs);
  return {
    now: new Date(nowMs).toISOString(),
    simulated: clock.simulated,
    changeAt: changeAt?.toISOString() ?? null,
    steps: steps.map(({ fromMs, byMs, ...step }) => ({ ...step, from: iso(fromMs), by: iso(byMs) })),
  };
}

export async function planMove(deps: Deps, site: string, changeAt: string | null): Promise<Move> {
  await deps.db.run('update site set change_at = $2 where id = $1', [
    site,
    changeAt === null ? null : new Date(changeAt),
  ]);
  return moveOf(deps, site);
}

async function readFacts(deps: Deps, site: string, changeAtMs: number | undefined): Promise<MoveFacts> {
  const [overview, address] = [await readSiteOverview(deps, site), await readAddressView(deps, site)];
  const verdict = await deps.db.maybeOne<{ verdict: 'right' | 'noted' | 'wrong' }>(
    'select i.verdict from inspection i join site s on s.live_release = i.release_id where s.id = $1',
    [site],
  );
  const ms = (instant: string | null | undefined) => (instant == null ? undefined : Date.parse(instant));
  const hostLink = address.chain.find(({ link }) => link === 'host');
  return {
    mustFix: overview.snags.must,
    oldAddresses: { all: overview.oldAddresses, settled: overview.oldAddressesWithRule },
    live: overview.live ? { number: overview.live.number, verdict: verdict?.verdict } : undefined,
    domain: address.domain ? { main: address.domain.main, forceHttps: address.domain.forceHttps } : undefined,
    ttlSeconds: address.spread?.presentTtlSeconds ?? undefined,
    recordsToChange: address.lookedAt === null ? undefined : address.changes.length,
    authorityNewSinceMs: ms(address.spread?.authorityNewSince),
    everyoneByMs: ms(address.spread?.everyoneBy),
    resolvers: {
      all: address.spread?.resolvers.length ?? 0,
      new: address.spread?.resolvers.filter(({ state }) => state === 'new').length ?? 0,
    },
    certificate: address.certificate.state,
    answersUnderName: hostLink === undefined || address.lookedAt === null ? undefined : hostLink.state === 'right',
    watch: { readAtMs: ms(overview.watch.readAt), lost: overview.watch.lost },
    changeAtMs,
  };
}
