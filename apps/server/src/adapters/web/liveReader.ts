/** Asking the live host for a page as a visitor does, at the address the host itself gave. */
import { OWN_AGENT } from '@fastigium/core/watch';
import type { Gate } from './gate.ts';
import { readHeader, createHttpClient, readWholeBody, type HttpHeaders } from './http.ts';

export interface LiveAnswer {
  readonly status: number;
  readonly location: string | undefined;
  readonly headers: HttpHeaders;
  readonly body: Buffer;
  /** From asking to the first of the answer. */
  readonly firstByteMs: number;
}

/** Throws where there is no whole answer in time, one larger than the limit, or where it may not be asked. */
export type ReadLive = (
  url: URL,
  limits: { readonly bytes: number; readonly withinMs: number },
  signal: AbortSignal,
  headers?: Readonly<Record<string, string>>,
) => Promise<LiveAnswer>;

/** More than are asked for at once. */
const MOST_CONNECTIONS = 32;

export function createLiveReader(gate: Pick<Gate, 'endpointOf'>): ReadLive {
  const client = createHttpClient({ endpointOf: (host, port) => gate.endpointOf(host, port), kept: MOST_CONNECTIONS });
  return async (url, limits, signal, more = {}) => {
    const start = performance.now();
    const { status, headers, body } = await client.ask(url, {
      headers: { 'accept-encoding': 'identity', 'user-agent': OWN_AGENT, ...more },
      signal: AbortSignal.any([signal, AbortSignal.timeout(limits.withinMs)]),
    });
    const firstByteMs = performance.now() - start;
    const whole = await readWholeBody(body, limits.bytes);
    return { status, location: readHeader(headers, 'location'), headers, body: whole, firstByteMs };
  };
}
