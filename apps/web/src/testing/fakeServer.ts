/**
 * The transport of the web in tests: it speaks the contracts and nothing else. What a screen sends has to be what the
 * endpoint takes, and what a test lets it answer has to be what the endpoint gives; an endpoint nobody named is one the
 * test does not know of, and fails it.
 */
import type { AnswerOf, BodyOf, Endpoint } from '@fastigium/contracts/endpoint';
import { ERRORS, type ErrorCode, type ErrorDetails } from '@fastigium/contracts/errors';
import { vi } from 'vitest';

interface Asked {
  readonly endpoint: Endpoint;
  readonly params: Readonly<Record<string, string>>;
  /** What stands behind the question mark, with it. */
  readonly search: string;
  readonly body: unknown;
}

interface Named {
  readonly endpoint: Endpoint;
  readonly pattern: RegExp;
  readonly respond: (asked: Asked) => Response;
}

const answerJson = (status: number, body: unknown): Response => new Response(JSON.stringify(body), { status });

export class FakeServer {
  readonly #named: Named[] = [];
  readonly asked: Asked[] = [];

  /** Takes the place of `fetch`. */
  constructor() {
    vi.stubGlobal('fetch', (input: string, init: RequestInit = {}) => Promise.resolve(this.#answer(input, init)));
  }

  /** The later word on an endpoint counts. */
  answers<E extends Endpoint>(endpoint: E, answer: AnswerOf<E> | (() => AnswerOf<E>)): void {
    this.#name(endpoint, () => {
      const given: unknown = typeof answer === 'function' ? (answer as () => AnswerOf<E>)() : answer;
      return answerJson(endpoint.status, endpoint.answer.parse(given));
    });
  }

  refuses(endpoint: Endpoint, code: ErrorCode, details: ErrorDetails = {}): void {
    this.#name(endpoint, () => answerJson(ERRORS[code].status, { error: { code, message: code, details } }));
  }

  /** Bodies that were sent to an endpoint, in their order. */
  sentTo<E extends Endpoint>(endpoint: E): BodyOf<E>[] {
    return this.asked.filter((each) => each.endpoint === endpoint).map(({ body }) => body as BodyOf<E>);
  }

  #name(endpoint: Endpoint, respond: Named['respond']): void {
    const pattern = new RegExp(`^/api${endpoint.path.replace(/:(\w+)/g, '(?<$1>[^/]+)')}$`);
    this.#named.unshift({ endpoint, pattern, respond });
  }

  #answer(input: string, { method = 'GET', body }: RequestInit): Response {
    const { pathname, search } = new URL(input, 'http://localhost');
    for (const { endpoint, pattern, respond } of this.#named) {
      const match = endpoint.method === method ? pattern.exec(pathname) : null;
      if (!match) continue;
      const sent: unknown = typeof body === 'string' ? JSON.parse(body) : undefined;
      const asked = { endpoint, params: { ...match.groups }, search, body: sent && endpoint.body.parse(sent) };
      this.asked.push(asked);
      return respond(asked);
    }
    throw new Error(`the test knows nothing of ${method} ${pathname}`);
  }
}
