/**
 * One answer of a web server that a person named: bounded in bytes and time, and only from an address that
 * may be asked. The name is looked up once and that very address is connected to, so no second answer of a
 * resolver can lead elsewhere.
 */
import { answer as came } from '@fastigium/contracts/messages/answer';
import type { Part } from '@fastigium/core/messages';
import { pipeline } from 'node:stream/promises';
import type { Transform } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import type { Routes } from '../world/routes.ts';
import type { Gate } from './gate.ts';
import {
  readHeader,
  createHttpClient,
  isBroken,
  TooLarge,
  readWholeBody,
  type HttpAnswer,
  type HttpHeaders,
} from './http.ts';
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

/** Aborting the signal throws its reason; everything else is an answer or a failure with its reason. */
export function createFetcher(options: FetcherOptions): Fetcher {
  return async (url, limits, signal, posted) => {
    const port = url.port === '' ? (url.protocol === 'https:' ? 443 : 80) : Number(url.port);
    const deadline = AbortSignal.timeout(limits.withinMs);
    const addresses = await options.addressesOf(url.hostname);
    signal.throwIfAborted();
    if (addresses.length === 0) return createFailure('unknown-name', came('address-unknown', { host: url.hostname }));
    const open = addresses.find((address) => options.gate.mayConnect(address, port));
    // One private address beside a public one is still no reason to go there.
    if (open === undefined) {
      const [address = ''] = addresses;
      const { hostname: host } = url;
      return createFailure(
        'private',
        address === host ? came('private-network') : came('is-private', { host, address }),
      );
    }
    const to = options.routes(open, port);
    const client = createHttpClient({ endpointOf: () => to, ca: options.ca });
    try {
      const answer = await client.ask(url, {
        method: posted ? 'POST' : 'GET',
        headers: {
          'user-agent': options.userAgent,
          accept: '*/*',
          'accept-encoding': 'gzip, br',
          ...posted?.headers,
        },
        ...(posted ? { body: posted.bytes } : {}),
        signal: AbortSignal.any([signal, deadline]),
      });
      return {
        ok: true,
        status: answer.status,
        ...readHeaders(answer.headers),
        body: await readBody(answer, limits.bytes),
      };
    } catch (error) {
      signal.throwIfAborted();
      if (deadline.aborted)
        return createFailure('slow', came('whole-too-late', { seconds: Math.round(limits.withinMs / 1000) }));
      if (error instanceof TooLarge) return createFailure('too-large', came('too-large', { most: limits.bytes }));
      return describeFailure(error as NodeJS.ErrnoException);
    } finally {
      client.close();
    }
  };
}

function readHeaders(headers: HttpHeaders): Omit<WebAnswer, 'ok' | 'status' | 'body'> {
  const [type = '', ...parameters] = (readHeader(headers, 'content-type') ?? '').split(';');
  const charset = parameters
    .map((each) => /^\s*charset\s*=\s*"?([^"\s]+)"?/i.exec(each)?.[1])
    .find((each) => each !== undefined);
  const retryAfter = Number(readHeader(headers, 'retry-after'));
  return {
    type: type.trim().toLowerCase(),
    charset,
    location: readHeader(headers, 'location'),
    retryAfterSeconds: Number.isFinite(retryAfter) && retryAfter >= 0 ? retryAfter : undefined,
  };
}

/** Counted after unpacking, so that a small answer cannot become a huge one. */
async function readBody({ headers, body }: HttpAnswer, mostBytes: number): Promise<Buffer> {
  const unpack = UNPACKING[(readHeader(headers, 'content-encoding') ?? '').trim().toLowerCase()]?.();
  if (!unpack) return readWholeBody(body, mostBytes);
  const [whole] = await Promise.all([readWholeBody(unpack, mostBytes), pipeline(body, unpack)]);
  return whole;
}

/** RFC 9110, section 8.4.1, and RFC 7932. */
const UNPACKING: Readonly<Record<string, () => Transform>> = {
  gzip: createGunzip,
  'x-gzip': createGunzip,
  deflate: createInflate,
  br: createBrotliDecompress,
};

const createFailure = (reason: NoAnswerReason, detail: Part): WebFailure => ({ ok: false, reason, detail });

function describeFailure(error: NodeJS.ErrnoException): WebFailure {
  const { code = '', message } = error;
  if (/CERT|SELF_SIGNED|UNABLE_TO_|ALTNAME|SSL|TLS|EPROTO/i.test(code))
    return createFailure('certificate', message.split('\n')[0] ?? code);
  if (code === 'ECONNREFUSED') return createFailure('unreachable', came('connection-refused'));
  if (['EHOSTUNREACH', 'ENETUNREACH', 'ETIMEDOUT', 'UND_ERR_CONNECT_TIMEOUT'].includes(code))
    return createFailure('unreachable', came('no-way-there'));
  return createFailure(
    'broken',
    isBroken(error) || code === 'ERR_STREAM_PREMATURE_CLOSE'
      ? came('line-broken-within')
      : came('faulty', { code: code || message }),
  );
}
