/** Asking one site, at a pace it can bear and as long as it may take. */
import { setTimeout as wait } from 'node:timers/promises';
import type { CrawlLimits } from '../../../config/config.ts';
import type { Fetcher, WebAnswer, WebFailure } from '../../../adapters/web/fetcher.ts';

export type Ask = (url: URL) => Promise<WebAnswer | WebFailure>;

/** RFC 6585 section 4 and RFC 9110 section 15.6.4: a server that is asked too much says so. */
const TOO_MUCH = new Set([429, 503]);
const TRIES = 3;
const MOST_WAIT_SECONDS = 60;
const USUAL_WAIT_SECONDS = 2;

export function createAsk(fetch: Fetcher, limits: CrawlLimits, fileBytes: number, signal: AbortSignal): Ask {
  let nextMs = 0;
  /** Requests begin one after another, never two in the same moment. */
  const turn = async () => {
    const nowMs = performance.now();
    const atMs = Math.max(nowMs, nextMs);
    nextMs = atMs + 1000 / limits.perSecond;
    await wait(atMs - nowMs, undefined, { signal });
  };
  return async (url) => {
    for (let attempt = 1; ; attempt += 1) {
      await turn();
      const answer = await fetch(url, { bytes: fileBytes, withinMs: limits.answerMs }, signal);
      if (!answer.ok || !TOO_MUCH.has(answer.status) || attempt === TRIES) return answer;
      const seconds = Math.min(MOST_WAIT_SECONDS, answer.retryAfterSeconds ?? USUAL_WAIT_SECONDS);
      // The whole site is too busy, so nobody asks meanwhile.
      nextMs = Math.max(nextMs, performance.now() + seconds * 1000);
    }
  };
}
