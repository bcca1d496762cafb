/** Calls whose answers hold tens of thousands of rows, read in a web worker. */
import type { api } from '@fastigium/contracts/api';
import type { AnswerOf, Endpoint } from '@fastigium/contracts/endpoint';
import { errorFrom, type DomainError, type ErrorCode } from '@fastigium/contracts/errors';
import { say } from './words.ts';

type Api = typeof api;

export interface LargeAsked {
  readonly id: number;
  readonly feature: string;
  readonly name: string;
  readonly params: Record<string, string>;
  /** The property of the answer that holds the rows. */
  readonly array: string;
}

export type LargeTold = { readonly id: number } & (
  | { readonly kind: 'rows'; readonly rows: readonly unknown[] }
  | { readonly kind: 'end'; readonly rest: Record<string, unknown> }
  | {
      readonly kind: 'refused';
      readonly code: string | undefined;
      readonly details: DomainError['details'];
      readonly message: string;
    }
);

interface Waiting {
  readonly rows: unknown[];
  readonly array: string;
  readonly resolve: (answer: unknown) => void;
  readonly reject: (error: Error) => void;
}

const waiting = new Map<number, Waiting>();
let worker: Worker | undefined;
let asked = 0;

/** Rejects with a DomainError, as `call` does. */
export function callLarge<F extends keyof Api, N extends keyof Api[F] & string>(
  feature: F,
  name: N,
  params: Record<string, string>,
  array: string,
): Promise<Api[F][N] extends Endpoint ? AnswerOf<Api[F][N]> : never> {
  worker ??= startWorker();
  const id = (asked += 1);
  const to: Worker = worker;
  return new Promise((resolve, reject) => {
    waiting.set(id, { rows: [], array, resolve: resolve as (answer: unknown) => void, reject });
    to.postMessage({ id, feature, name, params, array } satisfies LargeAsked);
  });
}

function startWorker(): Worker {
  const made = new Worker(new URL('./large.worker.ts', import.meta.url), { type: 'module' });
  made.addEventListener('message', ({ data }: MessageEvent<LargeTold>) => hear(data));
  made.addEventListener('error', () => {
    for (const { reject } of waiting.values()) reject(new Error(say('large.theRowsCouldNotBe')));
    waiting.clear();
    worker = undefined;
  });
  return made;
}

function hear(message: LargeTold): void {
  const one = waiting.get(message.id);
  if (!one) return;
  if (message.kind === 'rows') {
    one.rows.push(...message.rows);
    return;
  }
  waiting.delete(message.id);
  if (message.kind === 'end') one.resolve({ ...message.rest, [one.array]: one.rows });
  else
    one.reject(
      message.code === undefined
        ? new Error(message.message)
        : errorFrom({ code: message.code as ErrorCode, details: message.details, message: message.message }),
    );
}
