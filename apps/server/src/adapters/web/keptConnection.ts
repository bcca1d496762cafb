/** Requests over connections that are kept for the next one, and what becomes of one the other side was just closing. */
import type { ClientRequest } from 'node:http';

/**
 * Whether a request may be sent once more over a new connection: the one it went over was kept from an earlier request
 * and broke before anything was answered, as it does when a server closes an idle connection at that very moment
 * (RFC 9112, section 9.5). Only for requests that may be repeated (RFC 9110, section 9.2.2).
 */
export function brokeWhenReused(asked: ClientRequest, error: Error): boolean {
  const code = 'code' in error ? error.code : undefined;
  return asked.reusedSocket && (code === 'ECONNRESET' || code === 'EPIPE');
}
