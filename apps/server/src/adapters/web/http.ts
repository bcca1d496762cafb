/**
 * The one way out over HTTP/1.1 (RFC 9112), through undici. Where a name is connected to is the caller's to say, so that
 * whoever was looked up is also the one that is asked.
 */
import type { Readable } from 'node:stream';
import { Agent, buildConnector, request as send, type Dispatcher } from 'undici';
import type { Endpoint } from '../world/routes.ts';

export interface HttpRequest {
  readonly method?: Dispatcher.HttpMethod;
  /** In lower case. */
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: Uint8Array;
  readonly signal?: AbortSignal;
}

export type HttpHeaders = Readonly<Record<string, string | string[] | undefined>>;

export interface HttpAnswer {
  readonly status: number;
  /** By names in lower case. */
  readonly headers: HttpHeaders;
  /** To be read to its end, or destroyed. */
  readonly body: Readable;
}

export interface HttpClient {
  /** Rejects where there is no answer: with the signal's reason, or with Node.js' or undici's error, which has a code. */
  ask(url: URL, request?: HttpRequest): Promise<HttpAnswer>;
  /** Breaks off what is under way. */
  close(): void;
}

export interface HttpClientOptions {
  /** Asked at each new connection. @param host as a URL has it, an IPv6 address in brackets */
  endpointOf(host: string, port: number): Endpoint | Promise<Endpoint>;
  /**
   * Most connections to one origin, which are kept for later requests; without it, each request has its own. What is
   * asked over kept ones has to be repeatable (RFC 9110, section 9.2.2): it is asked once more where the line breaks
   * before an answer.
   */
  readonly kept?: number;
  /** Without a byte coming or going. */
  readonly idleMs?: number;
  /** Roots in place of Node.js' own, PEM. */
  readonly ca?: readonly string[];
  /** Whatever certificate is shown; somebody else judges it. */
  readonly takesAnyCertificate?: boolean;
}

export function createHttpClient({
  endpointOf,
  kept,
  idleMs = 0,
  ca,
  takesAnyCertificate,
}: HttpClientOptions): HttpClient {
  const connector = buildConnector({
    ...(ca === undefined ? {} : { ca: [...ca] }),
    ...(takesAnyCertificate ? { rejectUnauthorized: false } : {}),
  });
  const openAgent = (connections: number | undefined) =>
    new Agent({
      headersTimeout: idleMs,
      bodyTimeout: idleMs,
      ...(connections === undefined ? { pipelining: 0 } : { connections }),
      connect(options, done) {
        connectBy(connector, endpointOf, options).then(
          (socket) => done(null, socket),
          (error: Error) => done(error, null),
        );
      },
    });
  const agent = openAgent(kept);
  const askOver = async (dispatcher: Dispatcher, url: URL, { method = 'GET', headers, body, signal }: HttpRequest) => {
    const {
      statusCode,
      headers: answered,
      body: stream,
    } = await send(url, {
      dispatcher,
      method,
      ...(headers ? { headers } : {}),
      ...(body ? { body } : {}),
      ...(signal ? { signal } : {}),
    });
    return { status: statusCode, headers: answered, body: stream };
  };
  return {
    async ask(url, request = {}) {
      try {
        return await askOver(agent, url, request);
      } catch (error) {
        if (kept === undefined || request.signal?.aborted || !isBroken(error)) throw error;
        // A server may close a kept connection at the very moment something is sent over it (RFC 9112, section 9.5).
        const once = openAgent(undefined);
        try {
          return await askOver(once, url, request);
        } finally {
          // After what is under way.
          once.close().catch(() => undefined);
        }
      }
    },
    close: () => void agent.destroy().catch(() => undefined),
  };
}

const BROKEN = new Set(['ECONNRESET', 'EPIPE', 'UND_ERR_SOCKET']);

/** Whether the line broke, of an error of a request or of a body. */
export function isBroken(error: unknown): boolean {
  return error instanceof Error && 'code' in error && BROKEN.has(String(error.code));
}

async function connectBy(
  connector: buildConnector.connector,
  endpointOf: HttpClientOptions['endpointOf'],
  options: buildConnector.Options,
) {
  const isSecure = options.protocol === 'https:';
  const port = options.port === '' ? (isSecure ? 443 : 80) : Number(options.port);
  const to = await endpointOf(options.hostname, port);
  return new Promise<NonNullable<Parameters<buildConnector.Callback>[1]>>((resolve, reject) => {
    connector({ ...options, hostname: to.address, port: String(to.port) }, (...[error, socket]) => {
      if (socket) resolve(socket);
      else reject(error ?? new Error('no connection'));
    });
  });
}

/** As the system looks a name up: for servers the operator has named. */
export const lookUpBySystem: HttpClientOptions['endpointOf'] = (host, port) => ({
  address: host.replace(/^\[|\]$/g, ''),
  port,
});

const MOST_JSON_BYTES = 64 * 1024 * 1024; // 64 MiB

/** An exchange in JSON with a server the operator has named; undefined where it answers in another form. Throws where there is no answer in time. */
export async function askJson(
  url: string | URL,
  {
    method = 'GET',
    headers = {},
    json,
    withinMs,
  }: {
    readonly method?: Dispatcher.HttpMethod;
    readonly headers?: Readonly<Record<string, string>>;
    readonly json?: unknown;
    readonly withinMs: number;
  },
): Promise<{ readonly status: number; readonly json: unknown }> {
  const client = createHttpClient({ endpointOf: lookUpBySystem });
  try {
    const { status, body } = await client.ask(new URL(url), {
      method,
      headers: { ...headers, ...(json === undefined ? {} : { 'content-type': 'application/json' }) },
      ...(json === undefined ? {} : { body: Buffer.from(JSON.stringify(json)) }),
      signal: AbortSignal.timeout(withinMs),
    });
    const text = (await readWholeBody(body, MOST_JSON_BYTES)).toString('utf8');
    return { status, json: readJson(text) };
  } finally {
    client.close();
  }
}

function readJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

export class TooLarge extends Error {
  constructor(mostBytes: number) {
    super(`the answer is larger than ${mostBytes} bytes`);
  }
}

/** A whole body. Throws TooLarge, or the error of a line that broke. */
export async function readWholeBody(body: Readable, mostBytes: number): Promise<Buffer> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of body as AsyncIterable<Buffer>) {
    size += piece.length;
    if (size > mostBytes) throw new TooLarge(mostBytes);
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}

/** The first of a header that may come several times. */
export function readHeader(headers: HttpHeaders, name: string): string | undefined {
  return [headers[name]].flat()[0];
}
