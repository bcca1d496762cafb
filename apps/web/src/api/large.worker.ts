/**
 * Fetches, reads and checks answers of tens of thousands of rows beside the page, and hands the rows over in
 * pieces, so that the page itself never stands still for them.
 */
import { api } from '@fastigium/contracts/api';
import type { Endpoint } from '@fastigium/contracts/endpoint';
import { DomainError } from '@fastigium/contracts/errors';
import { call } from './client.ts';
import type { LargeAsked, LargeTold } from './large.ts';

/** Taken over by the page in a few milliseconds. */
const ROWS_AT_ONCE = 250;

addEventListener('message', ({ data }: MessageEvent<LargeAsked>) => {
  // What goes wrong on the way is told to whoever asked.
  answer(data).catch((error: unknown) => refuse(data.id, error));
});

async function answer({ id, feature, name, params, array }: LargeAsked): Promise<void> {
  try {
    const endpoint = (api as unknown as Record<string, Record<string, Endpoint>>)[feature]?.[name];
    // eslint-disable-next-line no-restricted-syntax -- a fault of ours, which nobody reads
    if (!endpoint) throw new Error(`there is no endpoint ${feature}.${name}`);
    const whole = (await call(endpoint, { params })) as Record<string, unknown>;
    const { [array]: rows, ...rest } = whole;
    const all = rows as unknown[];
    for (let from = 0; from < all.length; from += ROWS_AT_ONCE)
      tell({ id, kind: 'rows', rows: all.slice(from, from + ROWS_AT_ONCE) });
    tell({ id, kind: 'end', rest });
  } catch (error) {
    refuse(id, error);
  }
}

function refuse(id: number, error: unknown): void {
  tell(
    error instanceof DomainError
      ? { id, kind: 'refused', code: error.code, details: error.details, message: error.said ?? error.message }
      : {
          id,
          kind: 'refused',
          code: undefined,
          details: {},
          message: String(error instanceof Error ? error.message : error),
        },
  );
}

function tell(message: LargeTold): void {
  postMessage(message);
}
