/** A whole server process: wiring, ports opened and closed in order. */
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { openStudio } from './adapters/browser/browser.ts';
import { hostsBy } from './adapters/host/hosts.ts';
import { httpHost } from './adapters/host/httpHost.ts';
import { openWorld } from './adapters/world/world.ts';
import { createApp } from './app.ts';
import type { Config } from './config.ts';
import { connect } from './db/database.ts';
import { listen } from './db/events.ts';
import { migrate } from './db/migrate.ts';
import { loadDemo, readScenario } from './demo.ts';
import type { Deps } from './deps.ts';
import { certificateJob } from './features/address/certificateJob.ts';
import { startLooking } from './features/address/schedule.ts';
import { startTelling } from './features/telling/deliver.ts';
import { startWatching } from './features/watch/schedule.ts';
import { startSweeping } from './features/removals/schedule.ts';
import { sweepJob } from './features/removals/sweepJob.ts';
import { importJob } from './features/imports/importJob.ts';
import { rehearseJob } from './features/releases/rehearse.ts';
import { inspectJob } from './features/inspection/inspectJob.ts';
import { gatherJob } from './features/redirects/gather/gatherJob.ts';
import { proveJob } from './features/redirects/prove/proveJob.ts';
import { suggestJob } from './features/redirects/suggest/suggestJob.ts';
import { suggestAgain } from './features/redirects/suggest/suggestSoon.ts';
import { pictureJob, picturesSoon } from './features/pictures/pictureJob.ts';
import { publishJob } from './features/releases/publishJob.ts';
import { startSetTimes } from './features/releases/setTime.ts';
import { checkDraft } from './features/snags/checkDraft.ts';
import { startWorker, type JobHandler, type JobRun } from './jobs/queue.ts';
import { previewLinks } from './features/previews/links.ts';
import { createPreviewApp } from './features/previews/previewApp.ts';
import { sealWith } from './secrets.ts';
import { startThreads } from './threads/pool.ts';

/** Long jobs a process works on at once; each import or compile uses all threads by itself. */
const JOBS_AT_ONCE = 4;

export interface RunningServer {
  readonly port: number;
  readonly previewPort: number;
  readonly deps: Deps;
  stop(): Promise<void>;
}

export async function startServer(
  config: Config,
  options: { log: Logger; migrations: string },
): Promise<RunningServer> {
  const { log } = options;
  const db = connect(config.databaseUrl, (error) => log.warn({ err: error }, 'idle database connection'));
  const applied = await migrate(db, options.migrations);
  if (applied.length > 0) log.info({ applied }, 'migrations applied');
  const feed = await listen(config.databaseUrl, (error) => log.warn({ err: error }, 'listening for events'));
  const threads = startThreads(config.workerThreads);
  const standIn = httpHost({
    controlUrl: config.host.controlUrl,
    token: config.host.token,
    urlOf: (site) => `http://${site}.localhost:${config.host.publicPort}/`,
  });
  const seal = sealWith(config.sealKey);
  const hosts = hostsBy(standIn, seal);
  const world = await openWorld(config.world);
  const deps: Deps = { config, db, feed, threads, hosts, world, seal, log };
  const scenario = config.demoFolder === undefined ? undefined : await readScenario(config.demoFolder);
  if (config.demoFolder !== undefined && (await loadDemo(deps, config.demoFolder))) log.info('demo loaded');
  const demoOwner =
    scenario && (await db.maybeOne('select 1 from person where email = $1', [scenario.owner.email]))
      ? scenario.owner
      : undefined;

  const ports = { app: 0, preview: 0 };
  const links = previewLinks(config.secret, () => ports.preview, Date.now);
  const { app, close } = createApp(deps, {
    previews: links,
    previewPort: () => ports.preview,
    demo: () => (demoOwner ? { email: demoOwner.email, password: demoOwner.password } : null),
  });
  const preview = createPreviewApp(deps, links);
  const servers = [createServer(app), createServer(preview)] as const;
  ports.app = await open(servers[0], config.port);
  ports.preview = await open(servers[1], config.previewPort);
  const studio = config.chromium === undefined ? undefined : openStudio(config.chromium, '*.preview.localhost');
  const worker = startWorker(
    db,
    feed,
    {
      import: afterwards(importJob(deps), (job) => suggestAgain(deps.db, job)),
      publish: afterwards(publishJob(deps), (job) => picturesSoon(deps, job.site, job.id)),
      certificate: certificateJob(deps),
      compile: afterwards(
        { run: async (job) => void (await checkDraft(deps, job.site, { signal: job.signal, report: job.report })) },
        (job) => picturesSoon(deps, job.site, job.id),
      ),
      pictures: pictureJob(deps, links, studio),
      inspect: inspectJob(deps),
      rehearse: rehearseJob(deps),
      gather: gatherJob(deps),
      suggest: suggestJob(deps),
      prove: proveJob(deps),
      sweep: sweepJob(deps),
    },
    { leaseSeconds: config.jobLeaseSeconds, concurrency: JOBS_AT_ONCE, log },
  );

  const looking = startLooking(deps, log);
  const sweeping = startSweeping(deps, log);
  const setTimes = startSetTimes(deps, log);
  const telling = startTelling(deps, log);
  const watching = startWatching(deps, log);

  return {
    port: ports.app,
    previewPort: ports.preview,
    deps,
    async stop() {
      for (const server of servers) {
        server.close();
        server.closeAllConnections();
      }
      await looking.stop();
      await sweeping.stop();
      await watching.stop();
      await telling.stop();
      await setTimes.stop();
      await worker.stop();
      await studio?.close();
      close();
      world.clock.close();
      await hosts.close();
      await threads.close();
      await feed.close();
      await db.close();
    },
  };
}

/** A job that another one follows, where it ends well. */
function afterwards(handler: JobHandler, next: (job: JobRun) => Promise<void>): JobHandler {
  return {
    ...handler,
    async run(job) {
      await handler.run(job);
      await next(job);
    },
  };
}

/** Loopback only: a site under work is nobody else's business. */
/**
 * Longer than a minute, as long as browsers and proxies keep a connection that nothing comes by (common practice):
 * who closes first while the other sends has lost a request.
 */
const KEPT_OPEN_MS = 65_000;

function open(server: Server, port: number): Promise<number> {
  server.keepAliveTimeout = KEPT_OPEN_MS;
  server.headersTimeout = KEPT_OPEN_MS + 1000;
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Error(`Port ${port} is in use. Stop what uses it, or choose another one.`)
          : error,
      ),
    );
    server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
  });
}
