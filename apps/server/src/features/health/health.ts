/** How this process is, for whoever runs it and for what stands in front of it. None of it tells a stranger anything. */
import type { Express } from 'express';
import { timingSafeEqual } from 'node:crypto';
import { LOOPBACK_NAMES } from '../../config/config.ts';
import type { Deps } from '../../deps.ts';
import { isAskedAs, isFromHere } from '../../http/hostNames.ts';
import type { Metrics } from './metrics.ts';

export function addHealthRoutes(app: Express, deps: Deps, metrics: Metrics, version: string): void {
  app.get('/healthz', (_req, res) => {
    res.set('cache-control', 'no-store').json({ status: 'ok', version });
  });
  app.get('/readyz', (_req, res) => {
    const status = deps.stopping.aborted ? 'stopping' : deps.pulse.isThere() ? 'ready' : 'no database';
    res
      .set('cache-control', 'no-store')
      .status(status === 'ready' ? 200 : 503)
      .json({ status });
  });
  app.get('/metrics', async (req, res) => {
    const { metricsToken } = deps.config;
    // A page in a browser of this machine asks from here too, under a name of its own.
    const isOurs = isFromHere(req) && isAskedAs(req, LOOPBACK_NAMES);
    if (!(metricsToken === undefined ? isOurs : isBearer(req.get('authorization'), metricsToken))) {
      res.status(403).type('text').send('Set FASTIGIUM_METRICS_TOKEN and show it, or ask from the machine itself.\n');
      return;
    }
    res.set({ 'cache-control': 'no-store', 'content-type': metrics.contentType }).send(await metrics.read());
  });
}

/** RFC 6750, section 2.1. */
function isBearer(authorization: string | undefined, token: string): boolean {
  const [given, expected] = [Buffer.from(authorization ?? ''), Buffer.from(`Bearer ${token}`)];
  return given.length === expected.length && timingSafeEqual(given, expected);
}
