/** A host reached over HTTP: the protocol the host stand-in speaks, described in docs/host-protocol.md. */
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { DomainError } from '@fastigium/contracts/errors';
import {
  currentAnswer,
  hostError,
  LOG_BEGUN_HEADER,
  LOG_SIZE_HEADER,
  RECIPE_TYPE,
  hostOffer,
  missingAnswer,
  temporaryRefusal,
  type HostPort,
  type StagedRelease,
} from '@fastigium/contracts/ports/host';
import type { z } from 'zod';
import {
  lookUpBySystem,
  createHttpClient,
  isBroken,
  readWholeBody,
  type HttpClient,
  type HttpHeaders,
} from '../web/http.ts';

const compress = promisify(gzip);

interface Options {
  readonly controlUrl: string;
  readonly token: string;
  readonly urlOf: (site: string) => string;
}

/** Below this a compressed body saves nothing worth the time. */
const COMPRESS_FROM_BYTES = 1024;
const ANSWER_WITHIN_MS = 30_000;
const MOST_CONNECTIONS = 16;
const MOST_ANSWER_BYTES = 32 * 1024 * 1024;

interface HostAnswer {
  readonly status: number;
  readonly body: Buffer;
  readonly headers: HttpHeaders;
  /** Bytes this request put on the wire, its head included. */
  readonly sentBytes: number;
}

export function createHttpHost({ controlUrl, token, urlOf }: Options): HostPort & { close(): void } {
  const client = createHttpClient({ endpointOf: lookUpBySystem, kept: MOST_CONNECTIONS, idleMs: ANSWER_WITHIN_MS });
  const once = createHttpClient({ endpointOf: lookUpBySystem, idleMs: ANSWER_WITHIN_MS });

  async function send(
    method: string,
    path: string,
    body?: { bytes: Uint8Array; type: string },
    signal?: AbortSignal,
    over: HttpClient = client,
  ): Promise<HostAnswer> {
    let bytes = body?.bytes;
    const headers: Record<string, string> = { authorization: `Bearer ${token}` };
    if (body && bytes) {
      headers['content-type'] = body.type;
      if (bytes.length >= COMPRESS_FROM_BYTES) {
        const packed = await compress(bytes, { level: 6 });
        // Pictures and the like only grow; they travel as they are.
        if (packed.length < bytes.length * 0.95) {
          bytes = packed;
          headers['content-encoding'] = 'gzip';
        }
      }
    }
    const url = new URL(path, controlUrl);
    try {
      const answer = await over.ask(url, {
        method,
        headers,
        ...(bytes ? { body: bytes } : {}),
        ...(signal ? { signal } : {}),
      });
      return {
        status: answer.status,
        headers: answer.headers,
        body: await readWholeBody(answer.body, MOST_ANSWER_BYTES),
        sentBytes: countHeadBytes(method, url, headers, bytes) + (bytes?.length ?? 0),
      };
    } catch (error) {
      if (signal?.aborted) throw signal.reason;
      throw describeUnreachable(error as Error);
    }
  }

  async function call<T extends z.ZodType>(
    schema: T | undefined,
    method: string,
    path: string,
    json?: unknown,
    signal?: AbortSignal,
    over: HttpClient = client,
  ) {
    const body =
      json === undefined ? undefined : { bytes: Buffer.from(JSON.stringify(json)), type: 'application/json' };
    const answer = await send(method, path, body, signal, over);
    expectSuccess(answer);
    return (schema ? schema.parse(JSON.parse(answer.body.toString('utf8'))) : undefined) as z.output<T>;
  }

  const sitePath = (site: string) => `/sites/${encodeURIComponent(site)}`;
  return {
    asksPasswords: true,
    putMany: undefined,
    urlOf,
    // What is kept there was held against its hash.
    async missing(site, sizes, signal) {
      if (sizes.size === 0) return [];
      const hashes = [...sizes.keys()];
      return (await call(missingAnswer, 'POST', `${sitePath(site)}/contents/missing`, { hashes }, signal)).missing;
    },
    async put(site, contentHash, bytes, signal) {
      const answer = await send(
        'PUT',
        `${sitePath(site)}/contents/${contentHash}`,
        { bytes, type: 'application/octet-stream' },
        signal,
      );
      expectSuccess(answer);
      return answer.sentBytes;
    },
    async putFrom(site, contentHash, from, { parts, sent }, signal) {
      const head = Buffer.from(JSON.stringify(parts));
      const length = Buffer.alloc(4);
      length.writeUInt32BE(head.length);
      const answer = await send(
        'PUT',
        `${sitePath(site)}/contents/${contentHash}?from=${from}`,
        { bytes: Buffer.concat([length, head, sent]), type: RECIPE_TYPE },
        signal,
      );
      expectSuccess(answer);
      return answer.sentBytes;
    },
    async stage(site, release: StagedRelease, signal) {
      const { id, ...description } = release;
      const answer = await send(
        'PUT',
        `${sitePath(site)}/releases/${id}`,
        { bytes: Buffer.from(JSON.stringify(description)), type: 'application/json' },
        signal,
      );
      // Whatever it misses of what the release stands on, it can be told whole.
      if (answer.status === 409 && release.base !== null)
        throw new DomainError('host-lost-base', { detail: readComplaint(answer) });
      expectSuccess(answer);
      return answer.sentBytes;
    },
    async switchTo(site, release, expected) {
      // Over a connection of its own: the one request that cannot be repeated when it breaks.
      await call(undefined, 'POST', `${sitePath(site)}/current`, { release, expected }, undefined, once);
    },
    async current(site) {
      return (await call(currentAnswer, 'GET', `${sitePath(site)}/current`)).release;
    },
    async letGo(site, release) {
      await call(undefined, 'DELETE', `${sitePath(site)}/releases/${release}`);
    },
    async challenge(site, token, keyAuthorization) {
      const path = `${sitePath(site)}/challenges/${encodeURIComponent(token)}`;
      if (keyAuthorization === null) await call(undefined, 'DELETE', path);
      else await call(undefined, 'PUT', path, { keyAuthorization });
    },
    accessLog: {
      async read(site, { fromByte }, mostBytes, signal) {
        const answer = await send('GET', `${sitePath(site)}/log?from=${fromByte}&most=${mostBytes}`, undefined, signal);
        expectSuccess(answer);
        return {
          bytes: answer.body,
          sizeBytes: Number(answer.headers[LOG_SIZE_HEADER]),
          begun: String(answer.headers[LOG_BEGUN_HEADER] ?? ''),
        };
      },
    },
    naming: {
      offer: () => call(hostOffer, 'GET', '/offer'),
      async setNames(site, names) {
        await call(undefined, 'PUT', `${sitePath(site)}/names`, names);
      },
      async setCertificate(site, certificate) {
        await call(undefined, 'PUT', `${sitePath(site)}/certificate`, certificate);
      },
      async setTemporaryName(site, name) {
        const answer = await send('PUT', `${sitePath(site)}/temporary`, {
          bytes: Buffer.from(JSON.stringify(name)),
          type: 'application/json',
        });
        const taken =
          answer.status === 409 ? temporaryRefusal.safeParse(JSON.parse(answer.body.toString('utf8'))) : undefined;
        if (taken?.success)
          throw new DomainError('temporary-name-taken', {
            label: name.label,
            free: taken.data.free.join(', ') || 'none near it',
          });
        expectSuccess(answer);
      },
    },
    close() {
      client.close();
      once.close();
    },
  };
}

/** What a request's head takes on the wire (RFC 9112, section 2.1). */
function countHeadBytes(
  method: string,
  url: URL,
  headers: Readonly<Record<string, string>>,
  body?: Uint8Array,
): number {
  const lines = [
    `${method} ${url.pathname}${url.search} HTTP/1.1`,
    `host: ${url.host}`,
    'connection: keep-alive',
    ...Object.entries(headers).map(([name, value]) => `${name}: ${value}`),
    ...(body || method !== 'GET' ? [`content-length: ${body?.length ?? 0}`] : []),
  ];
  return lines.reduce((all, line) => all + Buffer.byteLength(line) + 2, 2);
}

const NO_ANSWER = new Set(['UND_ERR_HEADERS_TIMEOUT', 'UND_ERR_BODY_TIMEOUT', 'UND_ERR_CONNECT_TIMEOUT']);

function describeUnreachable(error: Error): DomainError {
  const code = 'code' in error ? String(error.code) : '';
  const detail =
    code === 'ECONNREFUSED'
      ? 'connection refused'
      : isBroken(error)
        ? 'the line broke'
        : NO_ANSWER.has(code)
          ? 'no answer within 30 seconds'
          : error.message;
  return new DomainError('host-unreachable', { detail }, { cause: error });
}

function expectSuccess(answer: HostAnswer): void {
  const { status } = answer;
  if (status >= 200 && status < 300) return;
  const detail = readComplaint(answer);
  // RFC 4918, section 11.5.
  if (status === 507) throw new DomainError('host-full', { detail });
  throw new DomainError(status >= 500 ? 'host-troubled' : 'host-refused', { detail });
}

function readComplaint({ status, body }: HostAnswer): string {
  try {
    return hostError.parse(JSON.parse(body.toString('utf8'))).error;
  } catch {
    // Not our protocol's answer; the status is what there is to say.
    return `answer ${status}`;
  }
}
