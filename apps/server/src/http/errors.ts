/** Any throw becomes an answer here, and nowhere else. */
import { DomainError, ERRORS, type ErrorAnswer } from '@fastigium/contracts/errors';
import type { ErrorRequestHandler } from 'express';
import { randomUUID } from 'node:crypto';

export const answerErrors: ErrorRequestHandler = (error: unknown, req, res, next) => {
  if (res.headersSent) {
    next(error);
    return;
  }
  const known = toDomainError(error);
  if (known.code === 'internal')
    req.log.error({ err: error, reference: known.details.reference }, 'unexpected failure');
  const answer: ErrorAnswer = { error: { code: known.code, message: known.message, details: { ...known.details } } };
  res.status(ERRORS[known.code].status).json(answer);
};

function toDomainError(error: unknown): DomainError {
  if (error instanceof DomainError) return error;
  // What Express's body reader finds wrong is the caller's to mend.
  if (error instanceof Error && 'type' in error && typeof error.type === 'string' && error.type.startsWith('entity.')) {
    return new DomainError('input-invalid', { detail: error.message }, { cause: error });
  }
  // A file the built application does not have (any more): an old page asks for it after an update.
  if (error instanceof Error && 'status' in error && error.status === 404)
    return new DomainError('not-found', { what: 'such file' }, { cause: error });
  return new DomainError('internal', { reference: randomUUID().slice(0, 8) }, { cause: error });
}
