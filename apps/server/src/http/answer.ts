/**
 * Answers in JSON, held to what their contract says. Long lists are checked and written in pieces, so that neither the
 * process stands still for one nor all of it is in memory as text.
 */
import type { Endpoint } from '@fastigium/contracts/endpoint';
import type { Response } from 'express';
import { once } from 'node:events';
import { setImmediate as othersTurn } from 'node:timers/promises';
import { z } from 'zod';

/** Checked and written in a few milliseconds. */
const ROWS_AT_ONCE = 250;

/** Throws where the answer is none of its endpoint; of rows that are written already, the connection is broken off. */
export async function writeAnswer(res: Response, endpoint: Endpoint, answer: unknown): Promise<void> {
  const lists = findLongLists(endpoint.answer, answer);
  if (lists.length === 0) {
    res.status(endpoint.status).json(endpoint.answer.parse(answer));
    return;
  }
  const withoutRows = { ...(answer as object), ...Object.fromEntries(lists.map(({ name }) => [name, []])) };
  const rest = endpoint.answer.parse(withoutRows) as Record<string, unknown>;
  for (const { name } of lists) delete rest[name];
  res.status(endpoint.status).type('json');
  await write(res, JSON.stringify(rest).slice(0, -1));
  let separator = Object.keys(rest).length > 0 ? ',' : '';
  for (const { name, element, rows } of lists) {
    await write(res, `${separator}${JSON.stringify(name)}:[`);
    separator = ',';
    for (let from = 0; from < rows.length; from += ROWS_AT_ONCE) {
      const piece = z.array(element).parse(rows.slice(from, from + ROWS_AT_ONCE));
      await write(res, (from > 0 ? ',' : '') + JSON.stringify(piece).slice(1, -1));
      await othersTurn();
    }
    await write(res, ']');
  }
  res.end('}');
}

interface LongList {
  readonly name: string;
  readonly element: z.ZodType;
  readonly rows: readonly unknown[];
}

function findLongLists(schema: z.ZodType, answer: unknown): LongList[] {
  if (!(schema instanceof z.ZodObject) || typeof answer !== 'object' || answer === null) return [];
  const shape = schema.shape as Record<string, z.ZodType>;
  return Object.entries(answer).flatMap(([name, rows]) => {
    const field = shape[name];
    const isLong = Array.isArray(rows) && rows.length > ROWS_AT_ONCE && field instanceof z.ZodArray;
    return isLong ? [{ name, element: field.element as z.ZodType, rows: rows as unknown[] }] : [];
  });
}

async function write(res: Response, text: string): Promise<void> {
  if (res.destroyed) throw new Error('whoever asked has gone');
  if (res.write(text)) return;
  const settled = new AbortController();
  const event = (name: string) => once(res, name, { signal: settled.signal }).catch(() => undefined);
  // Whoever has gone will take nothing more.
  await Promise.race([event('drain'), event('close')]);
  settled.abort();
}
