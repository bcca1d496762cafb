/**
 * The names the application answers to. A page of somebody else's can give its own name another address while it is
 * open, this machine's for one, and would then be of the same origin as what answers (DNS rebinding): whoever is asked
 * under a name that is not its own has nothing to say (RFC 9110, section 15.5.20).
 */
import { DomainError } from '@fastigium/contracts/errors';
import type { RequestHandler } from 'express';

/** @param names as they stand in a Host header, without port */
export function answerOnlyTo(names: readonly string[]): RequestHandler {
  return (req, _res, next) => {
    if (isAskedAs(req, names)) next();
    else next(new DomainError('host-unknown', { host: (req.headers.host ?? 'none').slice(0, 100) }));
  };
}

/** Whether a request names one of these. */
export function isAskedAs(req: { headers: { host?: string | undefined } }, names: readonly string[]): boolean {
  const name = stripPort(req.headers.host);
  return name !== undefined && names.includes(name);
}

/** Of a Host header (RFC 9110, section 7.2), without its port; undefined where it is none. */
function stripPort(host: string | undefined): string | undefined {
  return /^(\[[0-9a-f:]+\]|[a-z0-9.-]+?)\.?(?::\d{1,5})?$/i.exec(host ?? '')?.[1]?.toLowerCase();
}

/** Whether somebody at this very machine asks, and no proxy for anybody else. */
export function isFromHere(req: { socket: { remoteAddress?: string | undefined }; headers: object }): boolean {
  const { remoteAddress = '' } = req.socket;
  const isLoopback = /^(127\.|::1$|::ffff:127\.)/.test(remoteAddress);
  return isLoopback && !('x-forwarded-for' in req.headers) && !('forwarded' in req.headers) && !('via' in req.headers);
}
