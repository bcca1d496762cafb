/** Any throw becomes an answer here, and nowhere else. */
import { DomainError, ERRORS, type ErrorAnswer } from '@fastigium/contracts/errors';
import type { Socket } from 'node:net';
import type { ErrorRequestHandler, Request, Response } from 'express';
import { speak } from '../words.ts';
import { readRequestId } from './requestId.ts';

export const answerErrors: ErrorRequestHandler = (error: unknown, req, res, next) => {
  if (res.headersSent) {
    // Answered already, such as where only the session could not be marked as seen: nothing is cut off for that.
    if (res.writableEnded) req.log.warn({ err: error }, 'failed behind the answer');
    else {
      req.log.error({ err: error }, 'an answer was broken off');
      next(error);
    }
    return;
  }
  const known = toDomainError(error, readRequestId(req));
  if (known.code === 'internal')
    req.log.error({ err: error, reference: known.details.reference }, 'unexpected failure');
  if (!req.complete && req.method !== 'GET') hearNoMore(req, res);
  if (known.code === 'database-away') res.set('retry-after', '5');
  const answer: ErrorAnswer = { error: { code: known.code, message: speak(known.told), details: known.details } };
  res.status(ERRORS[known.code].status).json(answer);
};

/** Long enough for the answer to arrive; whoever closes at once may take it back with what was not read (RFC 9112, 9.6). */
const LINGERS_MS = 300;

/** What is not wanted is not taken in either: megabytes of many strangers at once would stop everybody. */
function hearNoMore(req: Request, res: Response): void {
  res.set('connection', 'close');
  // Of a line that broke there is none any more, whatever the types say.
  const socket = req.socket as Socket | null;
  if (!socket) return;
  res.once('finish', () => {
    // Node.js reads on by itself, to throw it away.
    setImmediate(() => socket.pause());
    setTimeout(() => socket.destroy(), LINGERS_MS).unref();
  });
}

function toDomainError(error: unknown, reference: string): DomainError {
  if (error instanceof DomainError) return error;
  // What Express's body reader finds wrong is the caller's to mend.
  if (error instanceof Error && 'type' in error && typeof error.type === 'string' && error.type.startsWith('entity.')) {
    return new DomainError('input-invalid', { detail: error.message }, { cause: error });
  }
  // A file the built application does not have (any more): an old page asks for it after an update.
  if (error instanceof Error && 'status' in error && error.status === 404)
    return new DomainError('not-found', { what: 'file' }, { cause: error });
  return new DomainError('internal', { reference }, { cause: error });
}
