/** Asking the live host for a page as a visitor does, at the address the host itself gave. */
import { OWN_AGENT } from '@fastigium/core/watch';
import { request as plainRequest, type IncomingHttpHeaders } from 'node:http';
import { request as secureRequest } from 'node:https';
import type { Gate } from './gate.ts';
import { brokeWhenReused } from './keptConnection.ts';

export interface LiveAnswer {
  readonly status: number;
  readonly location: string | undefined;
  readonly headers: IncomingHttpHeaders;
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

export function liveReader(gate: Pick<Gate, 'endpointOf'>): ReadLive {
  return async (url, limits, signal, headers = {}) => {
    const isSecure = url.protocol === 'https:';
    const port = url.port === '' ? (isSecure ? 443 : 80) : Number(url.port);
    const { address, port: realPort } = await gate.endpointOf(url.hostname, port);
    const ask = (over: { readonly agent?: false }): Promise<LiveAnswer> => {
      const start = performance.now();
      return new Promise((resolve, reject) => {
        const asked = (isSecure ? secureRequest : plainRequest)(
          {
            host: address,
            port: realPort,
            path: url.pathname + url.search,
            headers: { host: url.host, 'accept-encoding': 'identity', 'user-agent': OWN_AGENT, ...headers },
            // RFC 6066 section 3: an address is no server name.
            ...(isSecure ? { servername: /^[\d.]+$|^\[/.test(url.hostname) ? '' : url.hostname } : {}),
            ...over,
            signal: AbortSignal.any([signal, AbortSignal.timeout(limits.withinMs)]),
          },
          (response) => {
            const firstByteMs = performance.now() - start;
            const pieces: Buffer[] = [];
            let size = 0;
            response.on('data', (piece: Buffer) => {
              size += piece.length;
              if (size > limits.bytes) response.destroy(new Error(`the answer is larger than ${limits.bytes} bytes`));
              else pieces.push(piece);
            });
            response.on('end', () =>
              resolve({
                status: response.statusCode ?? 0,
                location: response.headers.location,
                headers: response.headers,
                body: Buffer.concat(pieces),
                firstByteMs,
              }),
            );
            response.on('error', reject);
          },
        );
        asked.on('error', (error) => {
          if (brokeWhenReused(asked, error)) resolve(ask({ agent: false }));
          else reject(error);
        });
        asked.end();
      });
    };
    return ask({});
  };
}
