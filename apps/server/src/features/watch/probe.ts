/** Asking the live site for its home page, every few minutes. */
import { told } from '@fastigium/contracts/messages/told';
import { judgeAdmission } from '@fastigium/core/access';
import type { Part } from '@fastigium/core/messages';
import { outage } from '@fastigium/core/watch';
import type { ReadLive } from '../../adapters/web/liveReader.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { readLiveOrigin } from '../address/liveOrigin.ts';
import { tellOthers } from '../telling/outbox.ts';
import { readServing } from '../shared/serving.ts';
import { foldDraftAt, readHistory } from '../draft/history.ts';

export const PROBE_EVERY_MS = 5 * 60_000;
/** Kept this long, by the world's clock; a promise is about a month, and two can be compared. */
const KEPT_DAYS = 62;
const LIMITS = { bytes: 16 * 1024 * 1024, withinMs: 10_000 } as const;

export async function probeNow(deps: Deps, site: string): Promise<void> {
  const live = await deps.db.maybeOne<{ version: number; rulesHash: string | null }>(
    'select r.version, r.rules_hash as "rulesHash" from site s join release r on r.id = s.live_release where s.id = $1',
    [site],
  );
  if (!live) return;
  const { basePath } = foldDraftAt(await readHistory(deps.db, site), live.version);
  const origin = await readLiveOrigin(deps, deps.db, site);
  if (!origin) return;
  const url = new URL(`${basePath}/`, origin);
  const { access } = await readServing(deps.db, live.rulesHash);
  const isClosed = ['nobody', 'over'].includes(
    judgeAdmission(access, { path: url.pathname, file: undefined }, deps.world.clock.nowMs()).kind,
  );
  const found = await answerOf(deps.world.readLive, url, isClosed);
  const at = new Date(deps.world.clock.nowMs());
  await deps.db.transaction(async (tx) => {
    const last = await tx.maybeOne<{ isUp: boolean }>(
      'select is_up as "isUp" from probe where site_id = $1 order by at desc limit 1',
      [site],
    );
    const isUp = found.problem === null;
    if (last && last.isUp !== isUp)
      await tellOthers(
        tx,
        deps,
        site,
        isUp ? 'back' : 'away',
        found.problem === null ? told('back') : told('away', { problem: found.problem }),
      );
    await tx.run(
      'insert into probe (site_id, at, is_up, status, first_byte_ms, problem) values ($1, $2, $3, $4, $5, $6) on conflict do nothing',
      [site, at, isUp, found.status, found.firstByteMs, found.problem === null ? null : JSON.stringify(found.problem)],
    );
    await tx.run(`delete from probe where site_id = $1 and at < $2::timestamptz - make_interval(days => $3)`, [
      site,
      at,
      KEPT_DAYS,
    ]);
    await announce(tx, { kind: 'watch', site });
  });
}

/** Sent on, asked for a password, or closed as it was said to be, it is there; what fails is the host's doing (RFC 9110 section 15.6). */
async function answerOf(
  readLive: ReadLive,
  url: URL,
  isClosed: boolean,
): Promise<{ status: number | null; firstByteMs: number | null; problem: Part | null }> {
  try {
    const { status, firstByteMs } = await readLive(url, LIMITS, new AbortController().signal);
    return {
      status,
      firstByteMs,
      problem:
        isClosed && (status === 503 || status === 410)
          ? null
          : status >= 500
            ? outage('answers-status', { status })
            : status === 404
              ? outage('home-not-found')
              : null,
    };
  } catch (error) {
    return {
      status: null,
      firstByteMs: null,
      problem: error instanceof Error ? error.message.slice(0, 200) : outage('no-answer'),
    };
  }
}
