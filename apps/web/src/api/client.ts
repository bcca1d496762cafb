/** Calls to the server by the contract's endpoints; both what is sent and what comes back is checked. */
import type { AnswerOf, BodyOf, Endpoint, ParamsOf, QueryOf } from '@fastigium/contracts/endpoint';
import { DomainError, errorFrom, errorAnswer } from '@fastigium/contracts/errors';
import { say } from './words.ts';

type Input<T> = Record<never, never> extends T ? T | undefined : T;

export interface CallParts<E extends Endpoint> {
  readonly params?: Input<ParamsOf<E>>;
  readonly query?: Input<QueryOf<E>>;
  readonly body?: Input<BodyOf<E>>;
  readonly signal?: AbortSignal;
}

let csrfToken = '';

/** The session tells the token; every change sends it back. */
export function setCsrfToken(token: string): void {
  csrfToken = token;
}

export function writePath(endpoint: Endpoint, params: unknown, query?: unknown): string {
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) =>
    encodeURIComponent(String((params as Record<string, unknown>)[name])),
  );
  const search = new URLSearchParams(query === undefined ? {} : (query as Record<string, string>)).toString();
  return `/api${path}${search === '' ? '' : `?${search}`}`;
}

export function readChangeHeaders(): Record<string, string> {
  return { 'x-csrf-token': csrfToken };
}

/** Asks whoever sits there to sign in again; resolves with whether the same person has. */
type SignInAgain = () => Promise<boolean>;
let signInAgain: SignInAgain = () => Promise.resolve(false);

export function askWhenSignedOut(ask: SignInAgain): void {
  signInAgain = ask;
}

/** Does something, and once more where the session had ended and the same person has signed in again meanwhile. */
export async function runSignedIn<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof DomainError && error.code === 'sign-in-required') || !(await signInAgain())) throw error;
    return work();
  }
}

/** Rejects with a DomainError, whose message is meant to be read. */
export function call<E extends Endpoint>(endpoint: E, parts: CallParts<E> = {}): Promise<AnswerOf<E>> {
  return runSignedIn(() => callOnce(endpoint, parts));
}

async function callOnce<E extends Endpoint>(endpoint: E, parts: CallParts<E>): Promise<AnswerOf<E>> {
  let response: Response;
  try {
    response = await fetch(writePath(endpoint, parts.params, parts.query), {
      method: endpoint.method,
      headers: endpoint.method === 'GET' ? {} : { ...readChangeHeaders(), 'content-type': 'application/json' },
      ...(endpoint.method === 'GET' ? {} : { body: JSON.stringify(parts.body ?? {}) }),
      ...(parts.signal ? { signal: parts.signal } : {}),
    });
  } catch (error) {
    if (parts.signal?.aborted) throw error;
    throw describeUnreachable(error);
  }
  return readAnswer(endpoint, response.ok, await response.text());
}

export function readAnswer<E extends Endpoint>(endpoint: E, ok: boolean, text: string): AnswerOf<E> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw describeUnreachable(error);
  }
  if (ok) return endpoint.answer.parse(json) as AnswerOf<E>;
  const { error } = errorAnswer.parse(json);
  throw errorFrom(error);
}

function describeUnreachable(cause: unknown): Error {
  return new Error(say('client.fastigiumDoesNotAnswerWhat'), { cause });
}
