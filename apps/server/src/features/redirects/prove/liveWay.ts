/** Following an old address at the live host over HTTP, as a visitor's browser does. */
import type { Part } from '@fastigium/core/messages';
import { liveWay, type LiveWayMessage } from '@fastigium/core/redirects';
import { formatAddress, parseAddress, splitAddress } from '@fastigium/core/address';
import { splitHost, type Proof } from '@fastigium/core/redirects';
import type { Fetcher } from '../../../adapters/web/fetcher.ts';
import type { ReadLive } from '../../../adapters/web/liveReader.ts';
import { hashSha256 } from '../../../threads/tasks.ts';

export interface LiveWay {
  readonly hops: readonly { readonly address: string; readonly status: number }[];
  readonly end: 'page' | 'outside' | 'gone' | 'missing' | 'loop' | 'unasked';
  readonly final: string | null;
  /** SHA-256 of what is shown at the end, for a page. */
  readonly shows: string | undefined;
  readonly problem: LiveWayMessage | undefined;
}

interface Answered {
  readonly status: number;
  readonly location: string | undefined;
  readonly shows: string | undefined;
}

// Fetch standard, "HTTP-redirect fetch": browsers give up after 20.
const MOST_HOPS = 20;
const LIMITS = { bytes: 64 * 1024 * 1024, withinMs: 15_000 } as const;

class NoWay extends Error {
  readonly why: Part;

  constructor(why: Part) {
    super('no answer');
    this.why = why;
  }
}

/** Asks each address once, however many old ones lead there. */
export class LiveHost {
  readonly #origin: URL;
  readonly #mainOrigin: string | undefined;
  readonly #fetch: Fetcher;
  readonly #readLive: ReadLive;
  readonly #signal: AbortSignal;
  readonly #headersFor: (path: string) => Readonly<Record<string, string>>;
  readonly #answers = new Map<string, Promise<Answered | Error>>();

  /**
   * @param mainOrigin `https://www.new.example`, under which the same site is found; old domains lead there
   * @param headersFor with which a path is answered, such as a visitor's password
   */
  constructor({
    origin,
    mainOrigin,
    headersFor,
    fetch,
    readLive,
    signal,
  }: {
    readonly origin: URL;
    readonly mainOrigin: string | undefined;
    readonly headersFor: (path: string) => Readonly<Record<string, string>>;
    readonly fetch: Fetcher;
    readonly readLive: ReadLive;
    readonly signal: AbortSignal;
  }) {
    this.#origin = origin;
    this.#mainOrigin = mainOrigin;
    this.#fetch = fetch;
    this.#readLive = readLive;
    this.#headersFor = headersFor;
    this.#signal = signal;
  }

  async follow(from: string): Promise<LiveWay> {
    const hops: { address: string; status: number }[] = [];
    const seen = new Set<string>();
    let address = from;
    while (hops.length <= MOST_HOPS) {
      if (seen.has(address)) return { hops, end: 'loop', final: null, shows: undefined, problem: undefined };
      seen.add(address);
      const answer = await this.#ask(address);
      if (answer instanceof Error)
        return {
          hops,
          end: 'unasked',
          final: address,
          shows: undefined,
          problem: liveWay('no-answer', {
            reason: answer instanceof NoWay ? answer.why : answer.message.slice(0, 200),
          }),
        };
      hops.push({ address, status: answer.status });
      const next =
        answer.status >= 300 && answer.status < 400 && answer.location !== undefined
          ? this.#resolved(answer.location, address)
          : undefined;
      if (next === undefined) return this.#ended(hops, address, answer);
      if (!next.startsWith('/')) return { hops, end: 'outside', final: next, shows: undefined, problem: undefined };
      address = next;
    }
    return { hops, end: 'loop', final: null, shows: undefined, problem: undefined };
  }

  #ended(hops: LiveWay['hops'], address: string, { status, shows }: Answered): LiveWay {
    if (status === 200) return { hops, end: 'page', final: address, shows, problem: undefined };
    if (status === 410) return { hops, end: 'gone', final: null, shows: undefined, problem: undefined };
    return { hops, end: 'missing', final: address, shows: undefined, problem: undefined };
  }

  /** An address of this host in its normal form, or a whole URL elsewhere. */
  #resolved(location: string, from: string): string {
    const url = new URL(location, new URL(from, this.#origin));
    // Behind http or https, the main address is this very host.
    const isMain = this.#mainOrigin !== undefined && url.host === new URL(this.#mainOrigin).host;
    if (url.origin !== this.#origin.origin && !isMain) return url.href;
    const parsed = parseAddress(url.pathname + url.search);
    return parsed.ok ? formatAddress(parsed.address) : url.pathname;
  }

  #ask(address: string): Promise<Answered | Error> {
    let asked = this.#answers.get(address);
    if (!asked) {
      asked = this.#read(address).then(
        ({ status, location, body }) => ({ status, location, shows: status === 200 ? hashSha256(body) : undefined }),
        (error: unknown) => {
          this.#signal.throwIfAborted();
          return error instanceof Error ? error : new Error('unknown');
        },
      );
      this.#answers.set(address, asked);
    }
    return asked;
  }

  /** An old domain is asked where its name leads, like any host that is not ours. */
  async #read(address: string): Promise<{ status: number; location: string | undefined; body: Buffer }> {
    const { host, address: ownAddress } = splitHost(address);
    if (host === undefined)
      return this.#readLive(
        new URL(ownAddress, this.#origin),
        LIMITS,
        this.#signal,
        this.#headersFor(splitAddress(ownAddress).path),
      );
    const answer = await this.#fetch(new URL(ownAddress, `http://${host}`), LIMITS, this.#signal);
    if (!answer.ok) throw new NoWay(answer.detail);
    return answer;
  }
}

/** What is otherwise than the release says; undefined where all is as it should be. */
export function compareLiveWay(
  expected: Proof,
  live: LiveWay,
  hashOf: (file: string) => string | undefined,
): LiveWayMessage | undefined {
  if (live.problem !== undefined) return live.problem;
  const at = expected.hops.findIndex((hop, index) => !isSameHop(hop, live.hops[index]));
  const meant = expected.hops[at];
  const found = live.hops[at];
  if (meant && !found) return liveWay('ends-before', { address: meant.address });
  if (meant && found)
    return found.address === meant.address
      ? liveWay('status', { address: found.address, found: found.status, published: meant.status })
      : liveWay('leads-elsewhere', { found: found.address, published: meant.address });
  if (live.hops.length > expected.hops.length)
    return liveWay('leads-on', { to: live.hops[expected.hops.length]?.address ?? '' });
  if (expected.end.kind === 'outside' && live.final !== new URL(expected.end.url).href)
    return live.final === null
      ? liveWay('leads-nowhere', { published: expected.end.url })
      : liveWay('leads-elsewhere', { found: live.final, published: expected.end.url });
  if (expected.end.kind === 'page' && live.shows !== hashOf(expected.end.file)) return liveWay('differs');
  return undefined;
}

/** An old domain as a whole is sent on with whatever status its owner chose. */
function isSameHop(
  { address, status }: { readonly address: string; readonly status: number },
  found: { readonly address: string; readonly status: number } | undefined,
): boolean {
  if (found?.address !== address) return false;
  return (
    found.status === status ||
    (splitHost(address).host !== undefined && status < 400 && found.status >= 301 && found.status <= 308)
  );
}
