/**
 * Figures in the text format of Prometheus (its documentation, "Exposition formats"): of this process as they are, and
 * of the database as far as it answers. Names follow its "Metric and label naming".
 */
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { RequestHandler } from 'express';
import { JOB_KINDS } from '@fastigium/contracts/api/jobs';
import type { Deps } from '../../deps.ts';
import type { IncomingFiles } from '../../http/incoming.ts';
import { runWithin } from '../../within.ts';

export interface Metrics {
  readonly contentType: string;
  read(): Promise<string>;
  /** Counts requests by what was asked for and how it was answered. */
  readonly middleware: RequestHandler;
}

const DATABASE_WITHIN_MS = 1500;

export function openMetrics(deps: Deps, incoming: Pick<IncomingFiles, 'count'>): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const registers = [registry];
  const pool = new Gauge({
    name: 'fastigium_database_connections',
    help: 'Connections of this process to the database, and requests that wait for one.',
    labelNames: ['state'],
    registers,
    collect() {
      const pools = [deps.db.pool, deps.db.forWork.pool];
      const sum = (figure: (each: (typeof pools)[number]) => number) =>
        pools.reduce((all, each) => all + figure(each), 0);
      pool.set(
        { state: 'busy' },
        sum(({ totalCount, idleCount }) => totalCount - idleCount),
      );
      pool.set(
        { state: 'idle' },
        sum(({ idleCount }) => idleCount),
      );
      pool.set(
        { state: 'wanted' },
        sum(({ waitingCount }) => waitingCount),
      );
    },
  });
  const uploads = new Gauge({
    name: 'fastigium_uploads',
    help: 'Files that people are sending.',
    registers,
    collect() {
      uploads.set(incoming.count());
    },
  });
  const isThere = new Gauge({
    name: 'fastigium_database_up',
    help: 'Whether the database answered this reading in time; without it the figures below are missing.',
    registers,
  });
  const jobs = new Gauge({
    name: 'fastigium_jobs',
    help: 'Long work that waits, waits to try again, or is under way.',
    labelNames: ['kind', 'state'],
    registers,
  });
  const releases = new Gauge({
    name: 'fastigium_releases',
    help: 'Releases by what became of them.',
    labelNames: ['state'],
    registers,
  });
  const sites = new Gauge({
    name: 'fastigium_sites',
    help: 'Sites by the kind of their host.',
    labelNames: ['host'],
    registers,
  });
  const away = new Gauge({
    name: 'fastigium_sites_away',
    help: 'Live sites that did not answer when they were last asked.',
    registers,
  });
  const snags = new Gauge({ name: 'fastigium_snags', help: 'What the checks found and nobody has let be.', registers });
  const requests = new Histogram({
    name: 'fastigium_request_seconds',
    help: 'Requests by what was asked for and how it was answered.',
    labelNames: ['method', 'route', 'status'],
    buckets: [0.01, 0.05, 0.25, 1, 5, 30],
    registers,
  });

  async function readDatabase(): Promise<void> {
    const counted = await deps.db.one<{
      jobs: { kind: string; state: string; n: number }[];
      releases: { state: string; n: number }[];
      sites: { host: string; n: number }[];
      away: number;
      snags: number;
    }>(
      `select (select coalesce(json_agg(j), '[]') from (
                 select kind, case when state = 'waiting' and retry_at is not null then 'retrying' else state end as state, count(*)::int as n
                   from job where state in ('waiting', 'running') group by 1, 2) j) as jobs,
              (select coalesce(json_agg(r), '[]') from (select state, count(*)::int as n from release group by 1) r) as releases,
              (select coalesce(json_agg(h), '[]') from (
                 select coalesce(a.kind, 'none') as host, count(*)::int as n
                   from site s left join host_account a on a.site_id = s.id group by 1) h) as sites,
              (select count(*)::int from (select distinct on (site_id) is_up from probe order by site_id, at desc) p where not is_up) as away,
              (select count(*)::int from snag) as snags`,
    );
    jobs.reset();
    for (const kind of JOB_KINDS) for (const state of ['waiting', 'running', 'retrying']) jobs.set({ kind, state }, 0);
    for (const { kind, state, n } of counted.jobs) jobs.set({ kind, state }, n);
    releases.reset();
    for (const { state, n } of counted.releases) releases.set({ state }, n);
    sites.reset();
    for (const { host, n } of counted.sites) sites.set({ host }, n);
    away.set(counted.away);
    snags.set(counted.snags);
  }

  return {
    contentType: registry.contentType,
    async read() {
      const wasRead =
        deps.pulse.isThere() &&
        (await runWithin(DATABASE_WITHIN_MS, readDatabase()).then(
          () => true,
          () => false,
        ));
      isThere.set(wasRead ? 1 : 0);
      if (!wasRead) for (const gauge of [jobs, releases, sites, away, snags]) gauge.reset();
      return registry.metrics();
    },
    middleware(req, res, next) {
      const done = requests.startTimer();
      res.once('close', () => {
        // What a stranger asks for is not a label: there are too many of those.
        const route = (req.route as { path?: unknown } | undefined)?.path;
        done({ method: req.method, route: typeof route === 'string' ? route : 'none', status: res.statusCode });
      });
      next();
    },
  };
}
