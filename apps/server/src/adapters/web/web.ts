/** The site from outside: what a visitor's browser would be told by this address for this name, over http and TLS. */
import { answer as came, type AnswerMessage } from '@fastigium/contracts/messages/answer';
import { OWN_AGENT } from '@fastigium/core/watch';
import { X509Certificate } from 'node:crypto';
import type { Readable } from 'node:stream';
import { connect, type DetailedPeerCertificate } from 'node:tls';
import type { Routes } from '../world/routes.ts';
import type { MayConnect } from './addresses.ts';
import { readHeader, createHttpClient } from './http.ts';

const WITHIN_MS = 5000;
const MOST_BODY_BYTES = 64 * 1024;

/** Nobody's name leads into a private network from here, whatever its records say. */
const SHUT = { ok: false, reason: came('private-network'), ms: 0 } as const;

class TooLate extends Error {}

export type Visit =
  | {
      readonly ok: true;
      readonly status: number;
      readonly location: string | undefined;
      readonly server: string | undefined;
      readonly body: string;
      readonly ms: number;
    }
  | { readonly ok: false; readonly reason: AnswerMessage; readonly ms: number };

export interface WireCertificate {
  readonly names: readonly string[];
  readonly issuer: string;
  /** Subjects from the leaf up. */
  readonly chain: readonly string[];
  readonly notBeforeMs: number;
  readonly notAfterMs: number;
  readonly trusted: boolean;
}

export type Handshake =
  | { readonly ok: true; readonly certificate: WireCertificate; readonly ms: number }
  | { readonly ok: false; readonly reason: AnswerMessage; readonly ms: number };

export interface WebPort {
  /** `secure`: by https, whatever certificate is shown; {@link handshake} judges that. */
  get(address: string, name: string, path: string, secure?: boolean): Promise<Visit>;
  handshake(address: string, name: string): Promise<Handshake>;
}

/** `roots`: the certificates trusted here, PEM. */
export function createWebPort(routes: Routes, roots: readonly X509Certificate[], mayConnect: MayConnect): WebPort {
  return {
    async get(address, name, path, secure = false) {
      const port = secure ? 443 : 80;
      if (!mayConnect(address, port)) return SHUT;
      const start = performance.now();
      const ms = () => Math.round(performance.now() - start);
      const client = createHttpClient({ endpointOf: () => routes(address, port), takesAnyCertificate: true });
      const signal = AbortSignal.timeout(WITHIN_MS);
      try {
        const { status, headers, body } = await client.ask(new URL(path, `${secure ? 'https' : 'http'}://${name}`), {
          headers: { 'user-agent': OWN_AGENT, accept: '*/*' },
          signal,
        });
        return {
          ok: true,
          status,
          location: readHeader(headers, 'location'),
          server: readHeader(headers, 'server'),
          body: await readBeginning(body),
          ms: ms(),
        };
      } catch (error) {
        return { ok: false, reason: describeError(signal.aborted ? new TooLate() : (error as Error)), ms: ms() };
      } finally {
        client.close();
      }
    },
    handshake(address, name) {
      if (!mayConnect(address, 443)) return Promise.resolve(SHUT);
      const to = routes(address, 443);
      const start = performance.now();
      const ms = () => Math.round(performance.now() - start);
      return new Promise((resolve) => {
        // Whatever is served is looked at; trust is judged below, by the world's own clock and roots.
        const socket = connect({ host: to.address, port: to.port, servername: name, rejectUnauthorized: false });
        socket.setTimeout(WITHIN_MS, () => socket.destroy(new TooLate()));
        // A server without a certificate for the name breaks off in the middle of the handshake.
        socket.once('error', (error: NodeJS.ErrnoException) =>
          resolve({
            ok: false,
            reason: error.code === 'ECONNRESET' ? came('no-certificate') : describeError(error),
            ms: ms(),
          }),
        );
        socket.once('secureConnect', () => {
          const peer = socket.getPeerCertificate(true);
          resolve({ ok: true, certificate: readChain(peer, roots), ms: ms() });
          socket.destroy();
        });
      });
    },
  };
}

/** As much of a text as is looked at, or came. */
async function readBeginning(body: Readable): Promise<string> {
  const pieces: Buffer[] = [];
  let size = 0;
  try {
    for await (const piece of body as AsyncIterable<Buffer>) {
      size += piece.length;
      if (size > MOST_BODY_BYTES) break;
      pieces.push(piece);
    }
  } catch {
    // What there is says enough.
  }
  return Buffer.concat(pieces).toString('utf8');
}

function readChain(peer: DetailedPeerCertificate, roots: readonly X509Certificate[]): WireCertificate {
  const served: X509Certificate[] = [];
  for (
    let at: DetailedPeerCertificate | undefined = peer;
    at && served.length < 10;
    at = at.issuerCertificate === at ? undefined : at.issuerCertificate
  ) {
    if (at.raw) served.push(new X509Certificate(at.raw));
  }
  const leaf = served[0] as X509Certificate;
  return {
    names: [...(leaf.subjectAltName ?? '').matchAll(/DNS:([^,\s"]+)/g)].map(([, name = '']) => name.toLowerCase()),
    issuer: readCommonName(leaf.issuer),
    chain: served.map(
      ({ subject, subjectAltName }) => readCommonName(subject) || (subjectAltName ?? '').replace(/DNS:/g, ''),
    ),
    notBeforeMs: Date.parse(leaf.validFrom),
    notAfterMs: Date.parse(leaf.validTo),
    trusted: isTrusted(served, roots),
  };
}

/** Each certificate signed by the next, the last by a root that is trusted. Dates and names are judged elsewhere. */
function isTrusted(served: readonly X509Certificate[], roots: readonly X509Certificate[]): boolean {
  for (const [index, certificate] of served.entries()) {
    if (
      roots.some(
        (root) =>
          certificate.fingerprint256 === root.fingerprint256 ||
          (certificate.checkIssued(root) && certificate.verify(root.publicKey)),
      )
    )
      return true;
    const next = served[index + 1];
    if (!next || !next.ca || !certificate.checkIssued(next) || !certificate.verify(next.publicKey)) return false;
  }
  return false;
}

const readCommonName = (subject: string | undefined): string =>
  /CN=(.+)/.exec(subject ?? '')?.[1] ?? (subject ?? '').replace(/\n/g, ', ');

function describeError(error: NodeJS.ErrnoException): AnswerMessage {
  if (error instanceof TooLate) return came('too-late', { seconds: WITHIN_MS / 1000 });
  switch (error.code) {
    case 'ECONNREFUSED':
      return came('connection-refused');
    case 'ECONNRESET':
    case 'EPIPE':
    case 'UND_ERR_SOCKET':
      return came('line-broken');
    case 'UND_ERR_CONNECT_TIMEOUT':
      return came('too-late', { seconds: WITHIN_MS / 1000 });
    case 'ENETUNREACH':
    case 'EHOSTUNREACH':
      return came('no-way-there');
    default:
      return /alert|handshake|SSL|TLS/i.test(error.message)
        ? came('no-certificate')
        : came('faulty', { code: error.code ?? error.message });
  }
}
