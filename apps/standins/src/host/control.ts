/** The side a publisher talks to: docs/host-protocol.md. */
import { currentRequest, hash, missingRequest, type StagedRelease } from '@fastigium/contracts/ports/host';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import { timingSafeEqual } from 'node:crypto';
import { createGunzip } from 'node:zlib';
import { z } from 'zod';
import { type Faults, faultSettings } from './faults.ts';
import { HostRefusal, readDescription, type HostStore } from './store.ts';

const siteName = z.string().regex(/^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$/);
const MOST_JSON = '64mb';

export function createControl(store: HostStore, token: string, faults: Faults): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    res.set('server', 'Fastigium host stand-in (simulated)');
    next();
  });
  app.get('/healthz', (_req, res) => void res.json({ status: 'ok', simulated: true }));
  app.use(bearer(token));
  app.put('/faults', express.json(), (req, res) => {
    faults.set(read(faultSettings, req.body));
    res.json(faults.settings);
  });
  app.use(faults.middleware);

  const json = express.json({ limit: MOST_JSON });
  app.post('/sites/:site/contents/missing', json, (req, res) => {
    read(siteName, req.params.site);
    res.json({ missing: store.missing(read(missingRequest, req.body).hashes) });
  });
  app.put('/sites/:site/contents/:hash', async (req, res) => {
    read(siteName, req.params.site);
    const packed = req.get('content-encoding') === 'gzip';
    const body = faults.arriving(req, req);
    await store.keep(read(hash, req.params.hash), packed ? gunzip(body) : body);
    res.status(201).json({ kept: true });
  });
  app.put('/sites/:site/releases/:release', json, async (req, res) => {
    const release: StagedRelease = { id: read(z.uuid(), req.params.release), ...readDescription(req.body) };
    await store.stage(read(siteName, req.params.site), release);
    res.status(201).json({ staged: true });
  });
  app.get('/sites/:site/current', async (req, res) => {
    const release = await store.current(read(siteName, req.params.site));
    res.json({ release: release?.id ?? null });
  });
  app.post('/sites/:site/current', json, async (req, res) => {
    const { release, expected } = read(currentRequest, req.body);
    await store.switchTo(read(siteName, req.params.site), release, expected);
    res.json({ release });
  });
  app.use(answerErrors);
  return app;
}

async function* gunzip(body: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  const unpack = createGunzip();
  const feeding = (async () => {
    for await (const piece of body) unpack.write(piece);
    unpack.end();
  })().catch((error: unknown) => void unpack.destroy(error as Error));
  yield* unpack as AsyncIterable<Uint8Array>;
  await feeding;
}

function bearer(token: string): RequestHandler {
  const expected = Buffer.from(`Bearer ${token}`);
  return (req, res, next) => {
    const given = Buffer.from(req.get('authorization') ?? '');
    if (given.length === expected.length && timingSafeEqual(given, expected)) next();
    else res.status(401).json({ error: 'the account’s token is wrong' });
  };
}

function read<T extends z.ZodType>(schema: T, value: unknown): z.output<T> {
  const parsed = schema.safeParse(value);
  if (!parsed.success) throw new HostRefusal(400, parsed.error.issues[0]?.message ?? 'unreadable');
  return parsed.data;
}

const answerErrors: ErrorRequestHandler = (error: unknown, _req, res, next) => {
  if (res.headersSent || res.destroyed) next(error);
  else if (error instanceof HostRefusal) res.status(error.status).json({ error: error.message });
  else res.status(500).json({ error: error instanceof Error ? error.message : 'unknown failure' });
};
