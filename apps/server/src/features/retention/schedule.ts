/** Once a day, by the world's clock and by one process, what is over goes. */
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import type { Repeated } from '../../jobs/repeat.ts';
import { startSchedule } from '../../jobs/schedule.ts';
import { deleteOld } from './rules.ts';
import { clearSuperseded } from './supersededImports.ts';
import { deleteUnreferenced } from './unreferenced.ts';

const CHECK_EVERY_MS = 60_000;
const EVERY_MS = 24 * 60 * 60_000;

export function startRetention(deps: Deps, log: Logger): Repeated {
  return startSchedule(
    {
      name: 'deleting what is over',
      everyMs: CHECK_EVERY_MS,
      atOnce: 1,
      withinMs: 60 * 60_000,
      claim: () => claimDay(deps),
      keyOf: () => 'retention',
      async work() {
        const { rows, imports, shards, contents } = await keepToRules(deps);
        log.info({ ...Object.fromEntries(rows), imports, shards, contents }, 'what was over is deleted');
      },
    },
    log,
  );
}

async function claimDay({ db, world }: Deps): Promise<true[]> {
  const nowMs = world.clock.nowMs();
  const claimed = await db.run(`update upkeep set next_at = $2 where what = 'retention' and next_at <= $1`, [
    new Date(nowMs),
    new Date(nowMs + EVERY_MS),
  ]);
  return claimed > 0 ? [true] : [];
}

/** All rules at once. @returns how much went */
export async function keepToRules(
  deps: Deps,
): Promise<{ rows: Map<string, number>; imports: number; shards: number; contents: number }> {
  const nowMs = deps.world.clock.nowMs();
  const rows = await deleteOld(deps.db, nowMs);
  const imports = await clearSuperseded(deps, nowMs);
  return { rows, imports, ...(await deleteUnreferenced(deps)) };
}
