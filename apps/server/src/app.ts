/** The application, wired from what it is given; it opens no port and reads no environment. */
import type { Session } from '@fastigium/contracts/api/session';
import { DomainError } from '@fastigium/contracts/errors';
import { openApiDocument } from '@fastigium/contracts/openapi';
import express, { type Express } from 'express';
import { pinoHttp } from 'pino-http';
import type { Deps } from './deps.ts';
import { addressRoutes } from './features/address/routes.ts';
import { draftRoutes } from './features/draft/routes.ts';
import { hostingRoutes } from './features/hosting/routes.ts';
import { importsRoutes } from './features/imports/routes.ts';
import { jobsRoutes } from './features/jobs/routes.ts';
import { peopleRoutes } from './features/people/routes.ts';
import type { PreviewLinks } from './features/previews/links.ts';
import { metadataRoutes } from './features/metadata/routes.ts';
import { redirectsRoutes } from './features/redirects/routes.ts';
import { picturesRoutes } from './features/pictures/routes.ts';
import { previewsRoutes } from './features/previews/routes.ts';
import { moveRoutes } from './features/move/routes.ts';
import { visitorsRoutes } from './features/visitors/routes.ts';
import { tellingRoutes } from './features/telling/routes.ts';
import { watchRoutes } from './features/watch/routes.ts';
import { inspectionRoutes } from './features/inspection/routes.ts';
import { releasesRoutes } from './features/releases/routes.ts';
import { removalsRoutes } from './features/removals/routes.ts';
import { personById } from './features/people/people.ts';
import { sitesRoutes } from './features/sites/routes.ts';
import { snagsRoutes } from './features/snags/routes.ts';
import { standInsRoutes } from './features/standIns/routes.ts';
import { requireSite } from './features/sites/sites.ts';
import { answerErrors } from './http/errors.ts';
import { routesOn } from './http/route.ts';
import { securityHeaders } from './http/security.ts';
import { sessions } from './http/sessions.ts';
import { webFiles } from './http/webFiles.ts';

const VERSION = '0.1.0';
const MOST_JSON = '16mb';

export interface AppParts {
  readonly previews: PreviewLinks;
  readonly previewPort: () => number;
  readonly demo: () => Session['demo'];
}

export function createApp(deps: Deps, parts: AppParts): { app: Express; close(): void } {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger: deps.log,
      // A request's line says what was asked and answered; headers would carry the session.
      serializers: {
        req: (req: { method: string; url: string; id: unknown }) => ({ method: req.method, url: req.url, id: req.id }),
        res: (res: { statusCode: number }) => ({ status: res.statusCode }),
      },
      customLogLevel: (_req, res) => (res.statusCode >= 500 ? 'error' : 'debug'),
    }),
  );
  app.use(securityHeaders(parts.previewPort));

  app.get('/healthz', async (_req, res) => {
    await deps.db.one('select 1 as alive');
    res.json({ status: 'ok', version: VERSION });
  });

  const session = sessions(deps);
  const api = express.Router();
  api.use((_req, res, next) => {
    res.set('cache-control', 'no-store');
    next();
  });
  api.get('/openapi.json', (_req, res) => res.json(openApiDocument(VERSION)));
  api.use(session.middleware);
  api.use(express.json({ limit: MOST_JSON }));
  const routes = routesOn(api, {
    callerOf: (id) => personById(deps.db, id),
    requireSite: (team, site) => requireSite(deps.db, team, site),
  });
  peopleRoutes(routes, deps, parts.demo);
  sitesRoutes(routes, deps);
  importsRoutes(routes, deps);
  draftRoutes(routes, deps);
  snagsRoutes(routes, deps);
  previewsRoutes(routes, parts.previews);
  picturesRoutes(routes, deps);
  metadataRoutes(routes, deps);
  redirectsRoutes(routes, deps);
  releasesRoutes(routes, deps);
  inspectionRoutes(routes, deps);
  watchRoutes(routes, deps);
  tellingRoutes(routes, deps);
  visitorsRoutes(routes, deps);
  moveRoutes(routes, deps);
  removalsRoutes(routes, deps);
  addressRoutes(routes, deps);
  hostingRoutes(routes, deps);
  standInsRoutes(routes, deps);
  jobsRoutes(routes, deps);
  api.use(() => {
    throw new DomainError('not-found', { what: 'such endpoint' });
  });
  app.use('/api', api);
  if (deps.config.webFolder !== undefined) app.use(webFiles(deps.config.webFolder));
  app.use(answerErrors);
  return { app, close: () => session.close() };
}
