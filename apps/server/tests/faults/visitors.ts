/** Steady visitors of a live site, and what they saw: each answer has to be whole, and of a release that was live just then. */
import { Agent, request } from 'node:http';
import { setTimeout as pause } from 'node:timers/promises';

export interface Seen {
  readonly fromMs: number;
  readonly toMs: number;
  readonly path: string;
  /** 0 where there was no answer. */
  readonly status: number;
  readonly body: string;
}

const EACH_MS = 4;

export class Visitors {
  readonly seen: Seen[] = [];
  readonly #agent = new Agent({ keepAlive: true, maxSockets: 8 });
  #stopped = false;
  #going: Promise<unknown> = Promise.resolve();

  /** @param paths asked for in turn, by so many at once */
  constructor(port: number, host: string, paths: readonly string[], atOnce = 4) {
    const one = async (first: number) => {
      for (let n = first; !this.#stopped; n += atOnce) {
        const path = paths[n % paths.length] ?? '/';
        const fromMs = performance.now();
        const { status, body } = await this.#ask(port, host, path);
        this.seen.push({ fromMs, toMs: performance.now(), path, status, body });
        await pause(EACH_MS);
      }
    };
    this.#going = Promise.all(Array.from({ length: atOnce }, (_, n) => one(n)));
  }

  async stop(): Promise<void> {
    this.#stopped = true;
    await this.#going;
    this.#agent.destroy();
  }

  #ask(port: number, host: string, path: string): Promise<{ status: number; body: string }> {
    return new Promise((resolve) => {
      request({ host: '127.0.0.1', port, path, agent: this.#agent, headers: { host } }, (answer) => {
        let body = '';
        answer.on('data', (piece: Buffer) => (body += piece.toString()));
        answer.on('end', () => resolve({ status: answer.statusCode ?? 0, body }));
        answer.on('error', () => resolve({ status: 0, body: '' }));
      })
        .on('error', () => resolve({ status: 0, body: '' }))
        .end();
    });
  }
}

/** A span in which something may have been so. */
export interface Span<T> {
  readonly fromMs: number;
  readonly toMs: number;
  readonly of: T;
}

const overlaps = (
  one: { readonly fromMs: number; readonly toMs: number },
  other: { readonly fromMs: number; readonly toMs: number },
) => one.fromMs <= other.toMs && other.fromMs <= one.toMs;

/**
 * What visitors met that they should not have, in words.
 *
 * @param live when each release was live, as far as anybody outside can tell: spans overlap while one is switched
 * @param down when nobody was listening, so that nobody could be answered
 * @param wholeOf the only body a page has in a release
 */
export function wrongAnswers(
  seen: readonly Seen[],
  live: readonly Span<string>[],
  down: readonly Span<undefined>[],
  wholeOf: (release: string, path: string) => string,
): string[] {
  return seen.flatMap((each) => {
    if (each.status === 0) return down.some((span) => overlaps(span, each)) ? [] : [`${each.path} was not answered`];
    if (each.status !== 200) return [`${each.path} answered ${each.status}`];
    const possible = live.filter((span) => overlaps(span, each)).map(({ of }) => of);
    return possible.some((release) => wholeOf(release, each.path) === each.body)
      ? []
      : [`${each.path} gave a page of none of ${possible.join(', ')}: ${each.body.slice(0, 120)}`];
  });
}
