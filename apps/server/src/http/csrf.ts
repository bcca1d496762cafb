/**
 * Against forged requests: a token in a header that a foreign page cannot send without asking first (OWASP,
 * "synchronizer token"; from memory). Whoever is signed in has the session's own; whoever is not gets one that is
 * signed and kept nowhere, so that a question of a stranger's leaves nothing behind.
 */
import { DomainError } from '@fastigium/contracts/errors';
import type { Request } from 'express';
import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';

export const CSRF_HEADER = 'x-csrf-token';

export interface CsrfTokens {
  of(req: Request): string;
  /** Throws `request-forged`. */
  check(req: Request): void;
}

export const createToken = (): string => randomBytes(24).toString('base64url');

/** @param secrets the first one signs, all are read */
export function createCsrfTokens(secrets: readonly string[]): CsrfTokens {
  const strangers = secrets.map((secret) =>
    createHmac('sha256', `csrf ${secret}`).update('nobody').digest('base64url'),
  );
  return {
    of: (req) => (req.session.person === undefined ? (strangers[0] ?? '') : (req.session.csrf ?? '')),
    check(req) {
      const given = req.get(CSRF_HEADER) ?? '';
      const expected = req.session.person === undefined ? strangers : [req.session.csrf ?? ''];
      // Fetch Metadata, section 2.2: a browser that says where a request comes from is believed.
      const from = req.get('sec-fetch-site') ?? 'same-origin';
      if (from !== 'same-origin' || !expected.some((token) => isSame(token, given)))
        throw new DomainError('request-forged');
    },
  };
}

function isSame(token: string, given: string): boolean {
  const [one, other] = [Buffer.from(token), Buffer.from(given)];
  return one.length > 0 && one.length === other.length && timingSafeEqual(one, other);
}
