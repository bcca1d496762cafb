/** The application, wired from what it is given; it opens no port and reads no environment. */
import type { Session } from '@fastigium/contracts/api/session';
import { DomainError } from '@fastigium/contracts/errors';
import { openApiDocument } from '@fastigium/contracts/openapi';
import express, { type Express } from 'express';
import { pinoHttp } from 'pino-http';
import type { Deps } from './deps.ts';
import { addressRoutes } from './features/address/routes.ts';
import { draftRoutes } from './features/draft/routes.ts';
import { healthRoutes } from './features/health/health.ts';
import { openMetrics } from './features/health/metrics.ts';
import { hostingRoutes } from './features/hosting/routes.ts';
import { importsRoutes } from './features/imports/routes.ts';
import { jobsRoutes } from './features/jobs/routes.ts';
import { entranceRoutes } from './features/people/entranceRoutes.ts';
import { teamRoutes } from './features/people/teamRoutes.ts';
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
import { requireSite } from './features/people/seenSites.ts';
import { signIn } from './features/people/signIn.ts';
import { accountRoutes } from './features/people/accountRoutes.ts';
import { clientViewRoutes } from './features/clientView/routes.ts';
import { trailRoutes } from './features/trail/routes.ts';
import { beginAct } from './features/trail/trail.ts';
import { answerErrors } from './http/errors.ts';
import { requestId, withoutSecrets } from './http/requestId.ts';
import { routesOn } from './http/route.ts';
import { securityHeaders } from './http/security.ts';
import { sessions } from './http/sessions.ts';
import { answerOnlyTo, isFromHere } from './http/hostNames.ts';
import { csrfTokens } from './http/csrf.ts';
import { incomingFiles } from './http/incoming.ts';
import { webFiles } from './http/webFiles.ts';
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
      genReqId: requestId,
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
  app.use(securityHeaders(parts.previews.source, deps.config.publicSite.isSecure));

  const incoming = incomingFiles(deps.config.uploads);
  const metrics = openMetrics(deps, incoming);
  app.use(metrics.middleware);
  healthRoutes(app, deps, metrics, VERSION);
  app.use(answerOnlyTo(deps.config.publicSite.names));

  const session = sessions(deps.config, deps.db, deps.log);
  const csrf = csrfTokens(deps.config.secrets);
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
  const routes = routesOn(api, {
    callerOf: (id) => personById(deps.db, id),
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
  entranceRoutes(routes, deps, csrf, attempts, (req) => (isFromHere(req) ? parts.demo : null));
  teamRoutes(routes, deps);
  accountRoutes(routes, deps, attempts);
  trailRoutes(routes, deps);
  clientViewRoutes(routes, deps);
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
    throw new DomainError('not-found', { what: 'endpoint' });
  });
  app.use('/api', api);
  if (deps.config.webFolder !== undefined) app.use(webFiles(deps.config.webFolder));
  app.use(answerErrors);
  return { app, close: () => session.close() };
}
