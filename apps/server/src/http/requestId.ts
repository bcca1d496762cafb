/** One name for a request, in the log here and in that of whoever passed it on, and nothing secret in either. */
import { randomUUID } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';

/** Common practice; no standard names it. */
const HEADER = 'x-request-id';

/** The one a proxy gave, where it looks like one; told in the answer too. */
export function assignRequestId(req: IncomingMessage, res: ServerResponse): string {
  const given = req.headers[HEADER];
  const id = typeof given === 'string' && /^[\w.:-]{8,100}$/.test(given) ? given : randomUUID();
  res.setHeader(HEADER, id);
  return id;
}

/** Links that let somebody in stand in addresses. */
export function withoutSecrets(url: string): string {
  return url.replace(/(\/(?:join|reset)\/)[^/?]+/g, '$1…');
}

/** The id that `assignRequestId` gave it. */
export function readRequestId({ id }: Pick<IncomingMessage, 'id'>): string {
  return typeof id === 'string' ? id : '';
}
