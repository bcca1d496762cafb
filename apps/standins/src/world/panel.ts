/** How the application plays the stand-ins: the clock, the faults, and a zone edited by hand as elsewhere. */
import express, { type Express } from 'express';
import { z } from 'zod';
import type { WorldClock } from './clock.ts';
import { worldFaults, type FaultBoard } from './faults.ts';
import { answerErrors, requireBearer, readBody } from './http.ts';

/** A year; more at once would expire everything and teach nothing. */
const MOST_AHEAD_MS = 366 * 86_400_000;

export function createPanel({
  clock,
  faults,
  token,
}: {
  clock: WorldClock;
  faults: FaultBoard;
  token: string;
}): Express {
  const app = express();
  app.disable('x-powered-by');
  app.get('/healthz', (_req, res) => void res.json({ status: 'ok', simulated: true }));
  // Read often and by nobody else: this listens on loopback.
  app.get('/clock', (_req, res) => void res.json({ nowMs: clock.now(), aheadMs: clock.aheadMs }));
  app.use(requireBearer(token), express.json());
  app.post('/clock', async (req, res) => {
    await clock.runOn(readBody(z.object({ byMs: z.number().int().min(0).max(MOST_AHEAD_MS) }), req.body).byMs);
    res.json({ nowMs: clock.now(), aheadMs: clock.aheadMs });
  });
  app.get('/faults', (_req, res) => void res.json(faults.now));
  app.put('/faults', (req, res) => {
    faults.set(readBody(worldFaults, req.body));
    res.json(faults.now);
  });
  app.use(answerErrors);
  return app;
}
