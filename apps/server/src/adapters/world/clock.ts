/**
 * What time it is where the names live: the real time, or with stand-ins the time their clock shows,
 * which can run ahead.
 */
import { z } from 'zod';
import { askJson } from '../web/http.ts';

export interface WorldClock {
  nowMs(): number;
  /** Reads the stand-ins' clock anew; on a real internet there is nothing to read. */
  refresh(): Promise<void>;
  readonly simulated: boolean;
  close(): void;
}

const answer = z.object({ nowMs: z.number(), aheadMs: z.number() });
/** Another server process may have let time run on. */
const READ_EVERY_MS = 1000;

export async function openClock(standInsUrl: string | undefined): Promise<WorldClock> {
  if (standInsUrl === undefined)
    return { nowMs: Date.now, refresh: () => Promise.resolve(), simulated: false, close: () => {} };
  let aheadMs = 0;
  const refresh = async () => {
    const { json } = await askJson(new URL('/clock', standInsUrl), { withinMs: 2000 });
    aheadMs = answer.parse(json).aheadMs;
  };
  await refresh().catch(() => {});
  const timer = setInterval(() => void refresh().catch(() => {}), READ_EVERY_MS);
  timer.unref();
  return { nowMs: () => Date.now() + aheadMs, refresh, simulated: true, close: () => clearInterval(timer) };
}
