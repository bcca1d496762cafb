/**
 * Against forged requests: a token from the session that only our own page can read, in a header
 * that a foreign page cannot send without asking first (OWASP, "synchronizer token"; from memory).
 */
import { DomainError } from '@fastigium/contracts/errors';
import type { Request } from 'express';
import { randomBytes, timingSafeEqual } from 'node:crypto';

export const CSRF_HEADER = 'x-csrf-token';

export function csrfToken(req: Request): string {
  req.session.csrf ??= randomBytes(24).toString('base64url');
  return req.session.csrf;
}

export function checkCsrf(req: Request): void {
  const expected = Buffer.from(req.session.csrf ?? '');
  const given = Buffer.from(req.get(CSRF_HEADER) ?? '');
  if (expected.length === 0 || given.length !== expected.length || !timingSafeEqual(given, expected)) {
    throw new DomainError('request-forged');
  }
}
