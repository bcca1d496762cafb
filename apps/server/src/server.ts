/** A whole server process: wiring, ports opened and closed in order. */
import { randomUUID } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { openStudio } from './adapters/browser/browser.ts';
import { createHosts } from './adapters/host/hosts.ts';
import { createHttpHost } from './adapters/host/httpHost.ts';
import { openMail } from './adapters/mail/mail.ts';
import { openWorld } from './adapters/world/world.ts';
import { createApp } from './app.ts';
import type { Config } from './config/config.ts';
import { connect } from './db/database.ts';
import { listen } from './db/events.ts';
import { createDatabasePlaces } from './db/places.ts';
import { migrate } from './db/migrate.ts';
import { feelPulse } from './db/pulse.ts';
import { loadDemo, readScenario } from './demo.ts';
import type { Deps } from './deps.ts';
import { createCertificateJob } from './features/address/certificateJob.ts';
import { startLooking } from './features/address/schedule.ts';
import { startTelling } from './features/telling/deliver.ts';
import { startWatching } from './features/watch/schedule.ts';
import { startSweeping } from './features/removals/schedule.ts';
import { startRetention } from './features/retention/schedule.ts';
import { startDeleting } from './features/sites/deletion.ts';
import { sweepJob } from './features/removals/sweepJob.ts';
import { importJob } from './features/imports/importJob.ts';
import { rehearseJob } from './features/releases/rehearse.ts';
import { inspectJob } from './features/inspection/inspectJob.ts';
import { gatherJob } from './features/redirects/gather/gatherJob.ts';
import { proveJob } from './features/redirects/prove/proveJob.ts';
import { suggestJob } from './features/redirects/suggest/suggestJob.ts';
import { suggestAgain } from './features/shared/suggestSoon.ts';
import { createPictureJob, enqueuePictures } from './features/pictures/pictureJob.ts';
import { publishJob } from './features/releases/publishJob.ts';
import { startSetTimes } from './features/releases/setTime.ts';
import { checkDraft } from './features/snags/checkDraft.ts';
import { checkRedirects } from './features/snags/redirectSnags.ts';
import type { JobHandler, JobRun } from './jobs/queue.ts';
import type { Repeated } from './jobs/repeat.ts';
import { KeptUploads } from './http/keptUploads.ts';
import { startWorker } from './jobs/worker.ts';
import { createPreviewLinks } from './features/previews/links.ts';
import { createPreviewApp } from './features/previews/previewApp.ts';
import { checkSealKeys } from './features/sealed/sealedSecrets.ts';
import { sealWith } from './secrets.ts';
import { startThreads } from './threads/pool.ts';

/** Long jobs a process works on at once; each import or compile uses all threads by itself. */
const JOBS_AT_ONCE = 4;

export type ScheduleName =
  'addresses' | 'removals' | 'setTimes' | 'telling' | 'deletions' | 'retention' | 'logs' | 'probes' | 'drift';

export interface RunningServer {
  readonly port: number;
  readonly previewPort: number;
  readonly deps: Deps;
  /** What is done by itself. */
  readonly schedules: Readonly<Record<ScheduleName, Repeated>>;
  stop(): Promise<void>;
}

/** @param options its folder of migrations, and the built file that its worker threads run */
export async function startServer(
  config: Config,
  options: { log: Logger; migrations: string; worker: string },
): Promise<RunningServer> {
  const { log } = options;
  const places = createDatabasePlaces(config.databaseUrls);
  await places.findPrimary();
  const db = connect(places.url, (error) => log.warn({ err: error }, 'idle database connection'));
  const applied = await migrate(db, options.migrations);
  if (applied.length > 0) log.info({ applied }, 'migrations applied');
  const feed = await listen(places.url, (error) => log.warn({ err: error }, 'listening for events'));
  const threads = startThreads(config.workerThreads, options.worker);
  const { host } = config;
  const standIn =
    host &&
    createHttpHost({
      controlUrl: host.controlUrl,
      token: host.token,
      urlOf: (site) => `http://${site}.localhost:${host.publicPort}/`,
    });
  const seal = sealWith(config.sealKeys);
  await checkSealKeys(db, seal);
  const world = await openWorld(config.world);
  const hosts = createHosts(standIn, { seal, gate: world.gate, places: config.places });
  const stopping = new AbortController();
  const pulse = feelPulse(places, () => {
    log.warn('the database is another server, or was started again; connections are made anew');
    db.renew();
    feed.renew();
  });
  const deps: Deps = {
    config,
    db,
    feed,
    pulse,
    threads,
    hosts,
    world,
    seal,
    mail: openMail(config.mail),
    log,
    stopping: stopping.signal,
    keptUploads: new KeptUploads(),
    process: randomUUID(),
  };
  const scenario = config.demoFolder === undefined ? undefined : await readScenario(config.demoFolder);
  if (config.demoFolder !== undefined && (await loadDemo(deps, config.demoFolder))) log.info('demo loaded');
  const demoOwner =
    scenario && (await db.maybeOne('select 1 from person where email = $1', [scenario.owner.email]))
      ? scenario.owner
      : undefined;

  const ports = { app: 0, preview: 0 };
  const links = createPreviewLinks(
    { secrets: config.secrets, site: config.previewSite },
    () => ports.preview,
    Date.now,
  );
  const { app, close } = createApp(deps, {
    previews: links,
    demo: demoOwner ? { email: demoOwner.email, password: demoOwner.password } : null,
  });
  const preview = createPreviewApp(deps, links);
  const servers = [createServer(app), createServer(preview)] as const;
  ports.app = await open(servers[0], config.address, config.port);
  ports.preview = await open(servers[1], config.address, config.previewPort);
  const studio =
    config.chromium === undefined
      ? undefined
      : openStudio(config.chromium, isAnywhere(config.address) ? '127.0.0.1' : config.address);
  // What nobody waits for at a screen has connections of its own, and takes none from those who do.
  const atWork: Deps = { ...deps, db: db.forWork };
  const worker = startWorker(
    db,
    feed,
    {
      import: afterwards(importJob(atWork), (job) => suggestAgain(atWork.db, job)),
      publish: afterwards(publishJob(atWork), (job) => enqueuePictures(atWork, job.site, job.id)),
      certificate: createCertificateJob(atWork),
      compile: afterwards(
        { run: async (job) => void (await checkDraft(atWork, job.site, { signal: job.signal, report: job.report })) },
        (job) => enqueuePictures(atWork, job.site, job.id),
      ),
      pictures: createPictureJob(atWork, links, studio),
      inspect: inspectJob(atWork),
      rehearse: rehearseJob(atWork),
      gather: gatherJob(atWork),
      suggest: suggestJob(atWork),
      prove: afterwards(proveJob(atWork), (job) => checkRedirects(atWork, job.site)),
      sweep: sweepJob(atWork),
    },
    {
      process: deps.process,
      leaseSeconds: config.jobLeaseSeconds,
      concurrency: JOBS_AT_ONCE,
      retryPauses: config.retryPausesSeconds,
      log,
    },
  );

  const schedules = {
    addresses: startLooking(atWork, log),
    removals: startSweeping(atWork, log),
    setTimes: startSetTimes(atWork, log),
    telling: startTelling(atWork, log),
    deletions: startDeleting(atWork, log),
    retention: startRetention(atWork, log),
    ...startWatching(atWork, log),
  };

  return {
    port: ports.app,
    previewPort: ports.preview,
    deps,
    schedules,
    async stop() {
      stopping.abort();
      await Promise.all(servers.map(endAfterAnswers));
      await Promise.all(Object.values(schedules).map((schedule) => schedule.stop()));
      await worker.stop();
      await studio?.close();
      close();
      world.clock.close();
      await hosts.close();
      await threads.close();
      pulse.close();
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

/**
 * Longer than a minute, as long as browsers and proxies keep a connection that nothing comes by (common practice):
 * who closes first while the other sends has lost a request.
 */
const KEPT_OPEN_MS = 65_000;

/** What is under way has this long to be answered; whoever asks anew meanwhile is turned away by the system. */
const ANSWERED_WITHIN_MS = 10_000;

async function endAfterAnswers(server: Server): Promise<void> {
  const patience = setTimeout(() => server.closeAllConnections(), ANSWERED_WITHIN_MS);
  await new Promise<void>((resolve) => {
    server.close(() => resolve());
    server.closeIdleConnections();
  });
  clearTimeout(patience);
}

/** Listening at all addresses is listening at this machine's own. */
const isAnywhere = (address: string): boolean => address === '0.0.0.0' || address === '::';

function open(server: Server, address: string, port: number): Promise<number> {
  server.keepAliveTimeout = KEPT_OPEN_MS;
  server.headersTimeout = KEPT_OPEN_MS + 1000;
  // Bodies have limits of their own, by what they are.
  server.requestTimeout = 0;
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new Error(`Port ${port} is in use. Stop what uses it, or choose another one.`)
          : error,
      ),
    );
    server.listen(port, address, () => resolve((server.address() as AddressInfo).port));
  });
}
