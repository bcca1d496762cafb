/** Asking the live host for a page as a visitor does, at the address the host itself gave. */
import { OWN_AGENT } from '@fastigium/core/watch';
import { request as plainRequest, type IncomingHttpHeaders } from 'node:http';
import { request as secureRequest } from 'node:https';
import type { LookupFunction } from 'node:net';
import { brokeWhenReused } from './keptConnection.ts';

export interface LiveAnswer {
  readonly status: number;
  readonly location: string | undefined;
  readonly headers: IncomingHttpHeaders;
  readonly body: Buffer;
  /** From asking to the first of the answer. */
  readonly firstByteMs: number;
}

/** Names under .localhost are this machine (RFC 6761, section 6.3), whether or not the system's resolver knows. */
const loopback: LookupFunction = (_name, options, callback) => {
  if (options.all) callback(null, [{ address: '127.0.0.1', family: 4 }]);
  else callback(null, '127.0.0.1', 4);
};

/** Throws where there is no whole answer in time, or one larger than the limit. */
export function readLive(
  url: URL,
  { bytes, withinMs }: { readonly bytes: number; readonly withinMs: number },
  signal: AbortSignal,
  headers: Readonly<Record<string, string>> = {},
  over: { readonly agent?: false } = {},
): Promise<LiveAnswer> {
  const request = url.protocol === 'https:' ? secureRequest : plainRequest;
  const start = performance.now();
  return new Promise((resolve, reject) => {
    const asked = request(
      url,
      {
        headers: { 'accept-encoding': 'identity', 'user-agent': OWN_AGENT, ...headers },
        ...over,
        signal: AbortSignal.any([signal, AbortSignal.timeout(withinMs)]),
        ...(url.hostname.endsWith('.localhost') ? { lookup: loopback } : {}),
      },
      (response) => {
        const firstByteMs = performance.now() - start;
        const pieces: Buffer[] = [];
        let size = 0;
        response.on('data', (piece: Buffer) => {
          size += piece.length;
          if (size > bytes) response.destroy(new Error(`the answer is larger than ${bytes} bytes`));
          else pieces.push(piece);
        });
        response.on('end', () => {
          resolve({
            status: response.statusCode ?? 0,
            location: response.headers.location,
            headers: response.headers,
            body: Buffer.concat(pieces),
            firstByteMs,
          });
        });
        response.on('error', reject);
      },
    );
    asked.on('error', (error) => {
      if (brokeWhenReused(asked, error)) resolve(readLive(url, { bytes, withinMs }, signal, headers, { agent: false }));
      else reject(error);
    });
    asked.end();
  });
}
