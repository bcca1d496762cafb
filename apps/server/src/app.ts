/** The application, wired from what it is given; it opens no port and reads no environment. */
import type { Session } from '@fastigium/contracts/api/session';
import { DomainError } from '@fastigium/contracts/errors';
import { openApiDocument } from '@fastigium/contracts/openapi';
import express, { type Express } from 'express';
import { pinoHttp } from 'pino-http';
import type { Deps } from './deps.ts';
import { addAddressRoutes } from './features/address/routes.ts';
import { addDraftRoutes } from './features/draft/routes.ts';
import { addHealthRoutes } from './features/health/health.ts';
import { openMetrics } from './features/health/metrics.ts';
import { addHostingRoutes } from './features/hosting/routes.ts';
import { addImportsRoutes } from './features/imports/routes.ts';
import { addJobsRoutes } from './features/jobs/routes.ts';
import { addEntranceRoutes } from './features/people/entranceRoutes.ts';
import { addTeamRoutes } from './features/people/teamRoutes.ts';
import type { PreviewLinks } from './features/previews/links.ts';
import { addMetadataRoutes } from './features/metadata/routes.ts';
import { addRedirectsRoutes } from './features/redirects/routes.ts';
import { addPicturesRoutes } from './features/pictures/routes.ts';
import { addPreviewsRoutes } from './features/previews/routes.ts';
import { moveRoutes } from './features/move/routes.ts';
import { addVisitorsRoutes } from './features/visitors/routes.ts';
import { addTellingRoutes } from './features/telling/routes.ts';
import { watchRoutes } from './features/watch/routes.ts';
import { addInspectionRoutes } from './features/inspection/routes.ts';
import { addReleasesRoutes } from './features/releases/routes.ts';
import { addRemovalsRoutes } from './features/removals/routes.ts';
import { findPersonById } from './features/people/people.ts';
import { addSitesRoutes } from './features/sites/routes.ts';
import { addSnagsRoutes } from './features/snags/routes.ts';
import { addStandInsRoutes } from './features/standIns/routes.ts';
import { requireSite } from './features/people/seenSites.ts';
import { signIn } from './features/people/signIn.ts';
import { addAccountRoutes } from './features/people/accountRoutes.ts';
import { addClientViewRoutes } from './features/clientView/routes.ts';
import { addTrailRoutes } from './features/trail/routes.ts';
import { beginAct } from './features/trail/trail.ts';
import { answerErrors } from './http/errors.ts';
import { assignRequestId, withoutSecrets } from './http/requestId.ts';
import { createRoutesOn } from './http/route.ts';
import { createSecurityHeaders } from './http/security.ts';
import { createSessions } from './http/sessions.ts';
import { answerOnlyTo, isFromHere } from './http/hostNames.ts';
import { createCsrfTokens } from './http/csrf.ts';
import { createIncomingFiles } from './http/incoming.ts';
import { serveWebFiles } from './http/webFiles.ts';
import { VERSION } from './version.ts';

export interface AppParts {
  readonly previews: PreviewLinks;
  /** The demo's sign-in, while there is one. */
  readonly demo: Session['demo'];
}

export function createApp(deps: Deps, parts: AppParts): { app: Express; close(): void } {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger: deps.log,
      genReqId: assignRequestId,
      // A request's line says what was asked and answered; headers would carry the session.
      serializers: {
        req: (req: { method: string; url: string; id: unknown }) => ({
          method: req.method,
          url: withoutSecrets(req.url),
          id: req.id,
        }),
        res: (res: { statusCode: number }) => ({ status: res.statusCode }),
      },
      customLogLevel: (_req, res) => (res.statusCode >= 500 ? 'error' : 'debug'),
    }),
  );
  app.set('trust proxy', deps.config.trustProxy);
  app.use(createSecurityHeaders(parts.previews.source, deps.config.publicSite.isSecure));

  const incoming = createIncomingFiles(deps.config.uploads);
  const metrics = openMetrics(deps, incoming);
  app.use(metrics.middleware);
  addHealthRoutes(app, deps, metrics, VERSION);
  app.use(answerOnlyTo(deps.config.publicSite.names));

  const session = createSessions(deps.config, deps.db, deps.log);
  const csrf = createCsrfTokens(deps.config.secrets);
  const api = express.Router();
  api.use((_req, res, next) => {
    res.set('cache-control', 'no-store');
    next();
  });
  api.use((_req, _res, next) => {
    next(deps.pulse.isThere() ? undefined : new DomainError('database-away'));
  });
  api.get('/openapi.json', (_req, res) => res.json(openApiDocument(VERSION)));
  api.use(session.middleware);
  const routes = createRoutesOn(api, {
    callerOf: (id) => findPersonById(deps.db, id),
    requireSite: (person, site) => requireSite(deps.db, person, site),
    beginAct: (act) => beginAct(deps.db, act),
    hasSession: session.has,
    csrf,
    incoming,
    mostBytes: {
      file: deps.config.limits.fileBytes,
      site: deps.config.limits.uploadBytes,
      log: deps.config.uploads.logBytes,
    },
  });
  const attempts = signIn(deps.db);
  // Nobody but whoever sits at this machine is told how to sign in.
  addEntranceRoutes(routes, deps, csrf, attempts, (req) => (isFromHere(req) ? parts.demo : null));
  addTeamRoutes(routes, deps);
  addAccountRoutes(routes, deps, attempts);
  addTrailRoutes(routes, deps);
  addClientViewRoutes(routes, deps);
  addSitesRoutes(routes, deps);
  addImportsRoutes(routes, deps);
  addDraftRoutes(routes, deps);
  addSnagsRoutes(routes, deps);
  addPreviewsRoutes(routes, parts.previews);
  addPicturesRoutes(routes, deps);
  addMetadataRoutes(routes, deps);
  addRedirectsRoutes(routes, deps);
  addReleasesRoutes(routes, deps);
  addInspectionRoutes(routes, deps);
  watchRoutes(routes, deps);
  addTellingRoutes(routes, deps);
  addVisitorsRoutes(routes, deps);
  moveRoutes(routes, deps);
  addRemovalsRoutes(routes, deps);
  addAddressRoutes(routes, deps);
  addHostingRoutes(routes, deps);
  addStandInsRoutes(routes, deps);
  addJobsRoutes(routes, deps);
  api.use(() => {
    throw new DomainError('not-found', { what: 'endpoint' });
  });
  app.use('/api', api);
  if (deps.config.webFolder !== undefined) app.use(serveWebFiles(deps.config.webFolder));
  app.use(answerErrors);
  return { app, close: () => session.close() };
}
