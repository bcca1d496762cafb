/**
 * A browser that meets pages nobody here wrote has no network at all: its processes stand in a network namespace of
 * their own where the system allows it (network_namespaces(7)), and behind a proxy that nobody is where it does not.
 * What it is to see is read for it and handed in.
 */
import { execFile } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { BrowserContext, Route } from 'playwright-core';
import { createHttpClient, readWholeBody, type HttpClient } from '../web/http.ts';

const run = promisify(execFile);

/** RFC 863 gives the port to a service that answers nothing, and nobody runs it; loopback is sent there as well. */
const NOWHERE = ['--proxy-server=http://127.0.0.1:9', '--proxy-bypass-list=<-loopback>'];

export interface Contained {
  /** What to start in the program's place. */
  readonly program: string;
  readonly args: readonly string[];
  /** Whether the system itself keeps it in. */
  readonly isApart: boolean;
  /** Forgets what was made for it. */
  remove(): Promise<void>;
}

export async function contain(program: string): Promise<Contained> {
  const flags = process.getuid?.() === 0 ? ['--net'] : ['--user', '--map-current-user', '--net'];
  const isApart = await run('unshare', [...flags, 'true']).then(
    () => true,
    () => false,
  );
  if (!isApart) return { program, args: NOWHERE, isApart, remove: () => Promise.resolve() };
  const folder = await mkdtemp(join(tmpdir(), 'fastigium-browser-'));
  const inside = join(folder, 'chromium');
  await writeFile(inside, `#!/bin/sh\nexec unshare ${flags.join(' ')} ${program} "$@"\n`, { mode: 0o700 });
  return {
    program: inside,
    args: NOWHERE,
    isApart,
    remove: () => rm(folder, { recursive: true, force: true }),
  };
}

const MOST_BYTES = 256 * 1024 * 1024;
const WITHIN_MS = 30_000;
const MOST_HOPS = 5;
const MOST_CONNECTIONS = 16;

interface Read {
  readonly status: number;
  readonly headers: Record<string, string>;
  readonly body: Buffer;
}

/**
 * Hands in what one origin gives, to every page of a context and to every window they open; whatever else they ask for,
 * and whatever they would send, is refused.
 *
 * @param address where this machine answers for that origin
 */
export async function handInAddress(context: BrowserContext, origin: string, address: string): Promise<void> {
  const client = createHttpClient({ endpointOf: (_, port) => ({ address, port }), kept: MOST_CONNECTIONS });
  context.once('close', () => client.close());
  const answer = async (route: Route) => {
    const asked = route.request();
    if (asked.method() !== 'GET' || new URL(asked.url()).origin !== origin) return route.abort('blockedbyclient');
    const isInPage = asked.isNavigationRequest() && asked.frame().parentFrame() !== null;
    try {
      // What stands in a page says so (Fetch Metadata, section 2.1).
      const { status, headers, body } = await read(new URL(asked.url()), origin, client, isInPage);
      return await route.fulfill({ status, headers, body });
    } catch {
      return route.abort('connectionreset');
    }
  };
  await context.route('**/*', (route) => void answer(route).catch(() => {}));
  await context.routeWebSocket('**', (socket) => socket.close());
}

/** Redirects within the origin are followed here: the browser would ask for the next by itself. */
async function read(url: URL, origin: string, client: HttpClient, isInPage: boolean): Promise<Read> {
  for (let hops = 0; ; hops += 1) {
    const found = await readOnce(url, client, isInPage);
    const { location } = found.headers;
    if (found.status < 300 || found.status >= 400 || location === undefined || hops >= MOST_HOPS) return found;
    const next = new URL(location, url);
    if (next.origin !== origin) throw new Error('it leads elsewhere');
    url = next;
  }
}

async function readOnce(url: URL, client: HttpClient, isInPage: boolean): Promise<Read> {
  const { status, headers, body } = await client.ask(url, {
    headers: isInPage ? { 'sec-fetch-dest': 'iframe' } : {},
    signal: AbortSignal.timeout(WITHIN_MS),
  });
  const names = Object.keys(headers).filter((name) => name !== 'transfer-encoding' && headers[name] !== undefined);
  return {
    status,
    headers: Object.fromEntries(names.map((name) => [name, [headers[name]].flat().join(', ')])),
    body: await readWholeBody(body, MOST_BYTES),
  };
}
