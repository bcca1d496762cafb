/**
 * One answer of a web server that a person named: bounded in bytes and time, and only from an address that
 * may be asked. The name is looked up once and that very address is connected to, so no second answer of a
 * resolver can lead elsewhere.
 */
import { answer as came } from '@fastigium/contracts/messages/answer';
import type { Part } from '@fastigium/core/messages';
import { request as plainRequest, type IncomingMessage } from 'node:http';
import { request as secureRequest } from 'node:https';
import { pipeline } from 'node:stream/promises';
import { Writable } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import type { Routes } from '../world/routes.ts';
import type { Gate } from './gate.ts';
import type { AddressesOf } from './names.ts';

export interface WebAnswer {
  readonly ok: true;
  readonly status: number;
  /** Media type in lower case, without parameters; empty where none is named. */
  readonly type: string;
  readonly charset: string | undefined;
  readonly location: string | undefined;
  readonly retryAfterSeconds: number | undefined;
  readonly body: Buffer;
}

/** Why there is no answer. */
export type NoAnswerReason =
  'private' | 'unknown-name' | 'unreachable' | 'slow' | 'too-large' | 'certificate' | 'broken';

export interface WebFailure {
  readonly ok: false;
  readonly reason: NoAnswerReason;
  readonly detail: Part;
}

export interface FetchLimits {
  readonly bytes: number;
  /** From the lookup to the last byte. */
  readonly withinMs: number;
}

/** What is sent along; then it is a POST. */
export interface Posted {
  readonly bytes: Uint8Array;
  readonly headers: Readonly<Record<string, string>>;
}

export type Fetcher = (
  url: URL,
  limits: FetchLimits,
  signal: AbortSignal,
  posted?: Posted,
) => Promise<WebAnswer | WebFailure>;

export interface FetcherOptions {
  readonly routes: Routes;
  readonly gate: Pick<Gate, 'mayConnect'>;
  readonly addressesOf: AddressesOf;
  readonly userAgent: string;
  /** Roots trusted for https, PEM. */
  readonly ca: readonly string[];
}

class TooLarge extends Error {}

/** Aborting the signal throws its reason; everything else is an answer or a failure with its reason. */
export function fetcher(options: FetcherOptions): Fetcher {
  return async (url, limits, signal, posted) => {
    const port = url.port === '' ? (url.protocol === 'https:' ? 443 : 80) : Number(url.port);
    const deadline = AbortSignal.timeout(limits.withinMs);
    const addresses = await options.addressesOf(url.hostname);
    signal.throwIfAborted();
    if (addresses.length === 0) return failure('unknown-name', came('address-unknown', { host: url.hostname }));
    const open = addresses.find((address) => options.gate.mayConnect(address, port));
    // One private address beside a public one is still no reason to go there.
    if (open === undefined) {
      const [address = ''] = addresses;
      const { hostname: host } = url;
      return failure('private', address === host ? came('private-network') : came('is-private', { host, address }));
    }
    try {
      const response = await ask(url, open, port, options, AbortSignal.any([signal, deadline]), posted);
      return { ok: true, ...headersOf(response), body: await readBody(response, limits.bytes) };
    } catch (error) {
      signal.throwIfAborted();
      if (deadline.aborted)
        return failure('slow', came('whole-too-late', { seconds: Math.round(limits.withinMs / 1000) }));
      if (error instanceof TooLarge) return failure('too-large', came('too-large', { most: limits.bytes }));
      return failureOf(error as NodeJS.ErrnoException);
    }
  };
}

function ask(
  url: URL,
  address: string,
  port: number,
  { routes, userAgent, ca }: FetcherOptions,
  signal: AbortSignal,
  posted: Posted | undefined,
): Promise<IncomingMessage> {
  const to = routes(address, port);
  const isSecure = url.protocol === 'https:';
  return new Promise((resolve, reject) => {
    const outgoing = (isSecure ? secureRequest : plainRequest)({
      host: to.address,
      port: to.port,
      path: url.pathname + url.search,
      method: posted ? 'POST' : 'GET',
      agent: false,
      signal,
      // RFC 6066 section 3: an address is no server name.
      ...(isSecure ? { ca: [...ca], servername: /^[\d.]+$|^\[/.test(url.hostname) ? '' : url.hostname } : {}),
      headers: {
        host: url.host,
        'user-agent': userAgent,
        accept: '*/*',
        'accept-encoding': 'gzip, br',
        ...(posted ? { ...posted.headers, 'content-length': String(posted.bytes.length) } : {}),
      },
    });
    outgoing.on('response', resolve);
    outgoing.on('error', reject);
    outgoing.end(posted?.bytes);
  });
}

function headersOf(response: IncomingMessage): Omit<WebAnswer, 'ok' | 'body'> {
  const [type = '', ...parameters] = (response.headers['content-type'] ?? '').split(';');
  const charset = parameters
    .map((each) => /^\s*charset\s*=\s*"?([^"\s]+)"?/i.exec(each)?.[1])
    .find((each) => each !== undefined);
  const retryAfter = Number(response.headers['retry-after']);
  return {
    status: response.statusCode ?? 0,
    type: type.trim().toLowerCase(),
    charset,
    location: response.headers.location,
    retryAfterSeconds: Number.isFinite(retryAfter) && retryAfter >= 0 ? retryAfter : undefined,
  };
}

/** Counted after unpacking, so that a small answer cannot become a huge one. */
async function readBody(response: IncomingMessage, most: number): Promise<Buffer> {
  const pieces: Buffer[] = [];
  let size = 0;
  const sink = new Writable({
    write(piece: Buffer, _encoding, done) {
      size += piece.length;
      pieces.push(piece);
      done(size > most ? new TooLarge() : null);
    },
  });
  const encoding = (response.headers['content-encoding'] ?? '').trim().toLowerCase();
  const unpack =
    encoding === 'gzip' || encoding === 'x-gzip'
      ? createGunzip()
      : encoding === 'br'
        ? createBrotliDecompress()
        : encoding === 'deflate'
          ? createInflate()
          : undefined;
  if (unpack) await pipeline(response, unpack, sink);
  else await pipeline(response, sink);
  return Buffer.concat(pieces);
}

const failure = (reason: NoAnswerReason, detail: Part): WebFailure => ({ ok: false, reason, detail });

function failureOf(error: NodeJS.ErrnoException): WebFailure {
  const { code = '', message } = error;
  if (/CERT|SELF_SIGNED|UNABLE_TO_|ALTNAME|SSL|TLS|EPROTO/i.test(code))
    return failure('certificate', message.split('\n')[0] ?? code);
  if (code === 'ECONNREFUSED') return failure('unreachable', came('connection-refused'));
  if (code === 'EHOSTUNREACH' || code === 'ENETUNREACH' || code === 'ETIMEDOUT')
    return failure('unreachable', came('no-way-there'));
  return failure(
    'broken',
    code === 'ECONNRESET' || code === 'ERR_STREAM_PREMATURE_CLOSE'
      ? came('line-broken-within')
      : came('faulty', { code: code || message }),
  );
}
