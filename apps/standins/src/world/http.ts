/** What every stand-in's HTTP side does alike. */
import type { ErrorRequestHandler, RequestHandler } from 'express';
import { timingSafeEqual } from 'node:crypto';
import type { z } from 'zod';

/** The caller's mistake, with the status to answer. */
export class Refusal extends Error {
  readonly status: number;
  readonly details: Readonly<Record<string, unknown>>;

  constructor(status: number, message: string, details: Readonly<Record<string, unknown>> = {}) {
    super(message);
    this.status = status;
    this.details = details;
  }
}

export function requireBearer(token: string): RequestHandler {
  const expected = Buffer.from(`Bearer ${token}`);
  return (req, res, next) => {
    const given = Buffer.from(req.get('authorization') ?? '');
    if (given.length === expected.length && timingSafeEqual(given, expected)) next();
    else res.status(401).json({ error: 'the account’s token is wrong' });
  };
}

export function readBody<T extends z.ZodType>(schema: T, value: unknown): z.output<T> {
  const parsed = schema.safeParse(value);
  if (!parsed.success) throw new Refusal(400, parsed.error.issues[0]?.message ?? 'unreadable');
  return parsed.data;
}

export const answerErrors: ErrorRequestHandler = (error: unknown, _req, res, next) => {
  if (res.headersSent || res.destroyed) next(error);
  else if (error instanceof Refusal) res.status(error.status).json({ error: error.message, ...error.details });
  else res.status(500).json({ error: error instanceof Error ? error.message : 'unknown failure' });
};
