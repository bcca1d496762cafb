/** The side visitors talk to: each site by its Host name, whole releases only. */
import { judgeAdmission, nameRealm, findRuleAt, type SiteAccess } from '@fastigium/core/access';
import { findAddressOfFile, parseAddress } from '@fastigium/core/address';
import { decide, writeWithHost } from '@fastigium/core/redirects';
import { escapeQuotes } from '@fastigium/core/text';
import express, { type Express, type Request, type Response } from 'express';
import morgan from 'morgan';
import { readFile } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import send from 'send';
import type { HostNames } from './names.ts';
import { Passwords } from './passwords.ts';
import { chooseRepresentation } from './representation.ts';
import { findFile, type HostedFile, type HostedRelease, type HostStore } from './store.ts';

const OWN_NOT_FOUND_PAGE = '404.html';

export function createVisitors(
  store: HostStore,
  names: HostNames,
  accessLog: (site: string, line: string) => void,
  nowMs: () => number,
): Express {
  const logged = createAccessLogger(accessLog, nowMs);
  const passwords = new Passwords(nowMs);
  const app = express();
  app.disable('x-powered-by');
  app.set('etag', false);
  app.use((_req, res, next) => {
    res.set('server', 'Fastigium host stand-in (simulated)');
    next();
  });
  app.use(async (req, res) => {
    const key = names.challenge(req.path);
    if (key !== undefined) {
      res.type('text').send(key);
      return;
    }
    const visited = names.visited(req.get('host') ?? '', 'encrypted' in req.socket, req.path);
    const site = visited?.site;
    const release = site === undefined ? undefined : await store.current(site);
    // Only names that have a site get a log of their own; anyone can make up the others.
    await logged(release === undefined ? 'unknown' : (site ?? 'unknown'), req, res);
    if (visited?.sendOn) {
      if (release && sendOldAddressOn(release, visited.sendOn.origin, req, res)) return;
      // The whole address is kept, as it was asked for (RFC 9110 section 15.4.9).
      res
        .status(visited.sendOn.status)
        .set({
          location: `${visited.sendOn.origin}${req.originalUrl}`,
          'cache-control': 'no-cache',
          'content-length': '0',
        })
        .end();
      return;
    }
    if (visited?.hstsSeconds !== undefined) res.set('strict-transport-security', `max-age=${visited.hstsSeconds}`);
    if (!release) {
      res.status(404).type('text').send('No site is published under this name at this host (simulated).\n');
      return;
    }
    if (req.method !== 'GET' && req.method !== 'HEAD') {
      // RFC 9110 section 15.5.6 asks for the list.
      res.status(405).set('allow', 'GET, HEAD').end();
      return;
    }
    await answer({ store, release, site: site ?? '', passwords, nowMs }, req, res);
  });
  return app;
}

/** The combined log format, as Apache's documentation defines it and nearly every analyser reads it; by the world's clock. */
function createCombinedFormat(nowMs: () => number): morgan.FormatFn<Request, Response> {
  return (tokens, req, res) => {
    const say = (name: string, argument?: string) => tokens[name]?.(req, res, argument) ?? '-';
    return `${say('remote-addr')} - ${say('remote-user')} [${formatLogTime(nowMs())}] "${say('method')} ${say('url')} HTTP/${say('http-version')}" ${say('status')} ${say('res', 'content-length')} "${say('referrer')}" "${say('user-agent')}"`;
  };
}

/** `26/Nov/2026:07:11:02 +0000` */
function formatLogTime(ms: number): string {
  const [, weekday, day, month, year, time] =
    /^(\w+), (\d+) (\w+) (\d+) ([\d:]+)/.exec(new Date(ms).toUTCString()) ?? [];
  return weekday === undefined ? '-' : `${day ?? ''}/${month ?? ''}/${year ?? ''}:${time ?? ''} +0000`;
}

function createAccessLogger(
  accessLog: (site: string, line: string) => void,
  nowMs: () => number,
): (site: string, req: Request, res: Response) => Promise<void> {
  const loggers = new Map<string, Handler>();
  return (site, req, res) => {
    let logger = loggers.get(site);
    if (!logger) {
      logger = morgan(createCombinedFormat(nowMs), { stream: { write: (line) => accessLog(site, line) } });
      loggers.set(site, logger);
    }
    const log = logger;
    return new Promise((resolve, reject) => log(req, res, (error) => (error ? reject(error as Error) : resolve())));
  };
}

type Handler = (req: Request, res: Response, next: (error?: unknown) => void) => void;

/** An old domain's own rules go before the domain as a whole. */
function sendOldAddressOn(release: HostedRelease, origin: string, req: Request, res: Response): boolean {
  const parsed = parseAddress(req.originalUrl);
  const host = (req.get('host') ?? '').toLowerCase().replace(/:\d+$/, '');
  if (!parsed.ok) return false;
  const answered = decide(
    { ...parsed.address, path: writeWithHost(host, parsed.address.path) },
    { has: () => false },
    release.rules,
  );
  if ((answered.kind !== 'redirect' && answered.kind !== 'gone') || !answered.rule) return false;
  const location =
    answered.kind === 'redirect'
      ? { location: answered.location.startsWith('/') ? origin + answered.location : answered.location }
      : {};
  res
    .status(answered.kind === 'gone' ? 410 : answered.status)
    .set({ ...location, 'cache-control': 'no-cache', 'content-length': '0' })
    .end();
  return true;
}

interface Visited {
  readonly store: HostStore;
  readonly release: HostedRelease;
  readonly site: string;
  readonly passwords: Passwords;
  readonly nowMs: () => number;
}

async function answer(visited: Visited, req: Request, res: Response): Promise<void> {
  const { store, release } = visited;
  const parsed = parseAddress(req.originalUrl);
  if (!parsed.ok) {
    res.status(400).type('text').send('This is not an address.\n');
    return;
  }
  const answered = decide(parsed.address, { has: (path) => findFile(release, path) !== undefined }, release.rules);
  const asked = { path: parsed.address.path, file: answered.kind === 'file' ? answered.file : undefined };
  // Where an old address leads is no secret; what stands there is.
  const isAnswer = answered.kind === 'file' || answered.kind === 'missing';
  if (!(await mayVisit(visited, asked, isAnswer, req, res))) return;
  switch (answered.kind) {
    case 'file':
      await sendFile(store, release, answered.file, req, res);
      return;
    case 'redirect':
      res
        .status(answered.status)
        .set({ location: answered.location, 'cache-control': 'no-cache', 'content-length': '0' })
        .end();
      return;
    case 'gone':
    case 'missing':
      await sendNotFound(store, release, answered.kind === 'gone' ? 410 : 404, req, res);
      return;
  }
}

/** Answers by itself where a visitor may not come in. */
async function mayVisit(
  { store, release, site, passwords, nowMs }: Visited,
  asked: { readonly path: string; readonly file: string | undefined },
  isAnswer: boolean,
  req: Request,
  res: Response,
): Promise<boolean> {
  const { access } = release;
  const admitted = judgeAdmission(access, asked, nowMs());
  if (admitted.kind === 'everyone' || (admitted.kind === 'password' && !isAnswer)) return true;
  const checked =
    admitted.kind === 'password'
      ? await passwords.check(admitted, req.get('authorization'), { site, from: req.socket.remoteAddress ?? '' })
      : undefined;
  if (checked?.kind === 'in') return true;
  // What is shown now is not what is shown later, and not to be kept by anybody.
  res.set('cache-control', 'no-store');
  if (checked === undefined) {
    await sendInstead(store, release, admitted.kind === 'over' ? 410 : 503, req, res);
  } else if (checked.kind === 'waits') {
    res
      .status(429)
      .set('retry-after', String(checked.seconds))
      .type('text')
      .send('Too many wrong passwords came from here. Wait a few minutes, then try again.\n');
  } else {
    res
      .status(401)
      .set('www-authenticate', `Basic realm="${findRealm(access, asked)}", charset="UTF-8"`)
      .type('text')
      .send('This place asks for a password.\n');
  }
  return false;
}

/** RFC 9110 section 11.5: a browser gives the same password wherever it meets the same name. */
function findRealm(
  access: SiteAccess,
  { path, file }: { readonly path: string; readonly file: string | undefined },
): string {
  const passworded = { ...access, rules: access.rules.filter(({ entry }) => entry.kind === 'password') };
  const rule =
    findRuleAt(passworded.rules, path) ??
    (file === undefined ? undefined : findRuleAt(passworded.rules, findAddressOfFile(file)));
  return escapeQuotes(nameRealm(rule ?? { branch: '/' }));
}

function sendInstead(
  store: HostStore,
  release: HostedRelease,
  status: number,
  req: Request,
  res: Response,
): Promise<void> {
  const page = release.access.instead === undefined ? undefined : findFile(release, release.access.instead.page);
  return sendPage(
    store,
    page,
    status,
    status === 410 ? 'This site has come down.\n' : 'There is nothing to visit here yet.\n',
    req,
    res,
  );
}

async function sendFile(
  store: HostStore,
  release: HostedRelease,
  path: string,
  req: Request,
  res: Response,
): Promise<void> {
  const hosted = findFile(release, path);
  if (!hosted) throw new Error(`${path} was decided on but is not in the release`);
  const form = await chooseRepresentation(req, hosted, store.contentFile(hosted.hash));
  res.set(hosted.headers);
  res.set('etag', form.etag);
  res.set('last-modified', new Date(hosted.modifiedSeconds * 1000).toUTCString());
  if (form.varies) res.set('vary', 'accept-encoding');
  if (form.encoding) res.set('content-encoding', form.encoding);
  // Conditions and ranges (RFC 9110 sections 13 and 14) are the package's, on the headers set here.
  send(req, basename(form.file), {
    root: dirname(form.file),
    etag: false,
    lastModified: false,
    cacheControl: false,
    index: false,
  })
    .on('error', (error: Error & { status?: number }) => res.status(error.status ?? 500).end())
    .pipe(res);
}

function sendNotFound(
  store: HostStore,
  release: HostedRelease,
  status: number,
  req: Request,
  res: Response,
): Promise<void> {
  res.set('cache-control', 'no-cache');
  return sendPage(
    store,
    findFile(release, OWN_NOT_FOUND_PAGE),
    status,
    status === 410 ? 'This page is gone for good.\n' : 'There is no page at this address.\n',
    req,
    res,
  );
}

/** A page of the site in place of what was asked for, or a plain line where it has none. */
async function sendPage(
  store: HostStore,
  page: HostedFile | undefined,
  status: number,
  line: string,
  req: Request,
  res: Response,
): Promise<void> {
  res.status(status);
  if (!page) {
    res.type('text').send(line);
    return;
  }
  const bytes = await readFile(store.contentFile(page.hash));
  res.set('content-type', page.headers['content-type'] ?? 'text/html').set('content-length', String(bytes.length));
  res.end(req.method === 'HEAD' ? undefined : bytes);
}
