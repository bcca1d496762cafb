/** The side a publisher talks to: docs/host-protocol.md. */
import {
  certificateFiles,
  LOG_BEGUN_HEADER,
  LOG_SIZE_HEADER,
  currentRequest,
  hash,
  hostLabel,
  missingRequest,
  siteNames,
  temporaryName,
  type StagedRelease,
} from '@fastigium/contracts/ports/host';
import express, { type Express } from 'express';
import { createGunzip } from 'node:zlib';
import { z } from 'zod';
import { type Faults, faultSettings } from './faults.ts';
import { answerErrors, requireBearer, readBody as read, Refusal } from '../world/http.ts';
import type { HostNames } from './names.ts';
import type { HostLogs } from './logs.ts';
import { assembleFiles } from './assembled.ts';
import { OFFER } from './offer.ts';
import { readDescription, type HostStore } from './store.ts';

const siteName = hostLabel;
const MOST_JSON = '64mb';
const logRange = z.object({
  from: z.coerce.number().int().min(0),
  most: z.coerce
    .number()
    .int()
    .min(1)
    .max(16 * 1024 * 1024),
});

export function createControl(
  store: HostStore,
  names: HostNames,
  logs: HostLogs,
  token: string,
  faults: Faults,
): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    res.set('server', 'Fastigium host stand-in (simulated)');
    next();
  });
  app.get('/healthz', (_req, res) => void res.json({ status: 'ok', simulated: true }));
  app.use(requireBearer(token));
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
    if (faults.settings.full) throw new Refusal(507, 'there is no room left at this host');
    const packed = req.get('content-encoding') === 'gzip';
    const arriving = faults.arriving(req, req);
    const body = packed ? gunzip(arriving) : arriving;
    await store.keep(
      read(hash, req.params.hash),
      req.query.from === undefined ? body : assembleFiles(store, read(hash, req.query.from), body),
    );
    res.status(201).json({ kept: true });
  });
  app.put('/sites/:site/releases/:release', json, async (req, res) => {
    const release: StagedRelease = { id: read(z.uuid(), req.params.release), ...readDescription(req.body) };
    await store.stage(read(siteName, req.params.site), release);
    res.status(201).json({ staged: true });
  });
  app.delete('/sites/:site/releases/:release', async (req, res) => {
    await store.letGo(read(siteName, req.params.site), read(z.uuid(), req.params.release));
    res.json({ letGo: true });
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
  app.get('/sites/:site/log', async (req, res) => {
    const { from, most } = read(logRange, req.query);
    const piece = await logs.read(read(siteName, req.params.site), from, most);
    res
      .set({ [LOG_SIZE_HEADER]: String(piece.sizeBytes), [LOG_BEGUN_HEADER]: piece.begun })
      .type('text/plain')
      .send(Buffer.from(piece.bytes));
  });
  app.get('/offer', (_req, res) => void res.json(OFFER));
  app.put('/sites/:site/names', json, async (req, res) => {
    await names.setNames(read(siteName, req.params.site), read(siteNames, req.body));
    res.json({ set: true });
  });
  app.put('/sites/:site/temporary', json, async (req, res) => {
    const { label, keepOldUntilMs } = read(temporaryName, req.body);
    await names.setTemporary(read(siteName, req.params.site), label, keepOldUntilMs);
    res.json({ label });
  });
  app.put('/sites/:site/certificate', json, async (req, res) => {
    await names.setCertificate(read(siteName, req.params.site), read(certificateFiles, req.body));
    res.json({ set: true });
  });
  app.put('/sites/:site/challenges/:token', json, async (req, res) => {
    read(siteName, req.params.site);
    const { keyAuthorization } = read(z.object({ keyAuthorization: z.string().max(500) }), req.body);
    await names.setChallenge(read(z.string().regex(/^[A-Za-z0-9_-]{1,200}$/), req.params.token), keyAuthorization);
    res.json({ set: true });
  });
  app.delete('/sites/:site/challenges/:token', async (req, res) => {
    await names.setChallenge(req.params.token, null);
    res.json({ set: false });
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
