/**
 * Long work as rows in PostgreSQL: taken with SKIP LOCKED, held by a lease that its worker renews,
 * taken up again by any worker when the lease runs out, so that a killed server loses nothing.
 *
 * A queue package was weighed: the ones that run on Node.js 20 either hold a dead worker's jobs for
 * hours or know neither progress nor cancelling, and what remains is this file.
 */
import { AsyncResource } from 'node:async_hooks';
import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { DomainError, passes, type KeptError } from '@fastigium/contracts/errors';
import type { Progress } from '@fastigium/contracts/api/jobs';
import type { Logger } from 'pino';
import type { Database, Queries } from '../db/database.ts';
import { announce, type NewsFeed } from '../db/events.ts';

export type JobKind =
  | 'import'
  | 'publish'
  | 'compile'
  | 'certificate'
  | 'pictures'
  | 'inspect'
  | 'gather'
  | 'suggest'
  | 'prove'
  | 'sweep'
  | 'rehearse';

export interface JobRun {
  readonly id: string;
  readonly site: string;
  readonly body: unknown;
  /** 1 the first time, more after a worker died in the middle. */
  readonly attempt: number;
  /** Aborts when somebody cancels the job or this worker has lost it. */
  readonly signal: AbortSignal;
  report(progress: Progress): void;
}

export interface JobHandler {
  run(job: JobRun): Promise<void>;
  /**
   * Clears away what a job that failed, was cancelled or was given up leaves behind. `done` where a closer look shows
   * that what it was for has happened all the same.
   */
  undo?(job: { id: string; site: string; body: unknown }, error: DomainError): Promise<void | 'done'>;
}

/**
 * Nobody waits for them, and they take long: one of each at a time in a process, behind everything else, and together
 * in no more than half of its places, so that whoever asks for something finds one.
 */
const UNHURRIED: readonly JobKind[] = ['pictures', 'inspect', 'suggest', 'sweep'];
const MOST_ATTEMPTS = 3;
/** Progress is written at most this often; people cannot read faster. */
const REPORT_EVERY_MS = 200;
/** A waiting job is announced, so this only matters when an announcement was missed. */
const LOOK_EVERY_MS = 2000;
/** What became of a job is said again this often while the database is away. */
const SAY_AGAIN_MS = 500;

export async function enqueue(
  tx: Queries,
  job: { kind: JobKind; site: string; body: unknown; by: string },
): Promise<string> {
  const { id } = await tx.one<{ id: string }>(
    'insert into job (kind, site_id, body, created_by) values ($1, $2, $3, $4) returning id',
    [job.kind, job.site, JSON.stringify(job.body), job.by],
  );
  await announce(tx, { kind: 'job', site: job.site, job: id });
  return id;
}

/** Asks a job to stop. A waiting one never starts; a running one stops at its next safe point. */
export async function cancelJob(db: Database, id: string, by: string): Promise<void> {
  await db.transaction(async (tx) => {
    const job = await tx.maybeOne<{ site_id: string }>(
      `update job set cancelled_by = $2 where id = $1 and state in ('waiting', 'running') returning site_id`,
      [id, by],
    );
    if (!job) throw new DomainError('job-ended');
    await announce(tx, { kind: 'job', site: job.site_id, job: id });
  });
}

interface TakenJob extends Record<string, unknown> {
  id: string;
  site: string;
  kind: JobKind;
  body: unknown;
  attempts: number;
  retries: number;
  cancelledBy: string | null;
}

export interface Worker {
  stop(): Promise<void>;
}

export function startWorker(
  db: Database,
  feed: NewsFeed,
  handlers: Readonly<Record<JobKind, JobHandler>>,
  options: {
    leaseSeconds: number;
    concurrency: number;
    /** Pauses before what failed for a reason that may pass is tried again; then it is given up. */
    retryPauses: readonly number[];
    log: Logger;
  },
): Worker {
  const worker = randomUUID();
  const timers = new Set<NodeJS.Timeout>();
  const running = new Map<string, { kind: JobKind; controller: AbortController; ended: Promise<void> }>();
  let stopped = false;
  let taking = false;
  let again = false;

  function kindsNotNow(): JobKind[] {
    const underWay = [...running.values()].map(({ kind }) => kind).filter((kind) => UNHURRIED.includes(kind));
    return underWay.length >= options.concurrency / 2 ? [...UNHURRIED] : underWay;
  }

  async function take(): Promise<TakenJob | undefined> {
    return db.maybeOne<TakenJob>(
      `update job set state = 'running', worker = $1, attempts = attempts + 1,
              leased_until = now() + make_interval(secs => $2), retry_at = null, retry_error = null
        where id = (select id from job
                     where ((state = 'waiting' and (retry_at is null or retry_at <= now() or cancelled_by is not null))
                            or (state = 'running' and leased_until < now()))
                       and kind <> all($3) and id <> all($5)
                     order by kind = any($4), created_at for update skip locked limit 1)
       returning id, site_id as site, kind, body, attempts, retries, cancelled_by as "cancelledBy"`,
      [
        worker,
        options.leaseSeconds,
        kindsNotNow(),
        UNHURRIED,
        // A process too busy to renew in time still does what it does; twice at once would spoil both.
        [...running.keys()],
      ],
    );
  }

  /** For whoever does not wait for it. */
  const lookSoon = (): void => {
    look().catch((error: unknown) => options.log.warn({ err: error }, 'looking for work failed'));
  };

  async function look(): Promise<void> {
    if (taking) {
      again = true;
      return;
    }
    taking = true;
    try {
      do {
        again = false;
        while (!stopped && running.size < options.concurrency) {
          const job = await take();
          if (!job) break;
          const controller = new AbortController();
          const ended = perform(job, controller).finally(() => {
            running.delete(job.id);
            lookSoon();
          });
          running.set(job.id, { kind: job.kind, controller, ended });
        }
      } while (again && !stopped);
    } finally {
      taking = false;
    }
  }

  /** Renews the lease and learns of cancelling; false when the job is this worker's no more. */
  async function renew(job: TakenJob, controller: AbortController): Promise<void> {
    const row = await db.maybeOne<{ cancelledBy: string | null }>(
      `update job set leased_until = now() + make_interval(secs => $3)
        where id = $1 and worker = $2 and state = 'running' returning cancelled_by as "cancelledBy"`,
      [job.id, worker, options.leaseSeconds],
    );
    if (!row) controller.abort(new Error('lease lost'));
    else if (row.cancelledBy) controller.abort(new DomainError('cancelled', { person: await nameOf(row.cancelledBy) }));
  }

  async function nameOf(person: string): Promise<string> {
    return (await db.one<{ name: string }>('select name from person where id = $1', [person])).name;
  }

  async function perform(job: TakenJob, controller: AbortController): Promise<void> {
    const log = options.log.child({ job: job.id, kind: job.kind });
    const heartbeat = setInterval(
      () => void renew(job, controller).catch((error: unknown) => log.warn({ err: error }, 'heartbeat failed')),
      (options.leaseSeconds * 1000) / 3,
    );
    const handler = handlers[job.kind];
    const progress = progressWriter(job, log);
    try {
      const error = await failureOf(async () => {
        if (job.cancelledBy) throw new DomainError('cancelled', { person: await nameOf(job.cancelledBy) });
        if (job.attempts > MOST_ATTEMPTS) throw new DomainError('job-lost');
        await handler.run({
          id: job.id,
          site: job.site,
          body: job.body,
          attempt: job.attempts,
          signal: controller.signal,
          report: progress.report,
        });
      });
      await progress.settle();
      if (error === undefined) return await saying(log, () => end(job, 'done', null));
      // Another worker has it, or this process is going down and one will: leave everything as it is.
      if (stopped || (controller.signal.aborted && !(controller.signal.reason instanceof DomainError))) return;
      const failure = asDomainError(controller.signal.aborted ? controller.signal.reason : error, job.id);
      if (failure.code === 'internal') log.error({ err: error }, 'job failed');
      await saying(log, async () => {
        const pauseSeconds = options.retryPauses[job.retries];
        if (passes(failure) && pauseSeconds !== undefined) return tryAgain(job, failure, pauseSeconds);
        const seen = await handler.undo?.({ id: job.id, site: job.site, body: job.body }, failure);
        if (seen === 'done') return end(job, 'done', null);
        return end(job, failure.code === 'cancelled' ? 'cancelled' : 'failed', failure);
      });
    } finally {
      clearInterval(heartbeat);
    }
  }

  /**
   * What is said of a job after its work, said again until the database takes it: while that is away the job is this
   * worker's, unless somebody else has it by then.
   */
  async function saying(log: Logger, say: () => Promise<void>): Promise<void> {
    for (;;) {
      try {
        return await say();
      } catch (error) {
        log.warn({ err: error }, 'what became of the job could not be said');
        // Who is going down says it once; whoever takes the job up finds what was done.
        if (stopped || !(error instanceof DomainError && passes(error))) return;
        await pause(SAY_AGAIN_MS);
      }
    }
  }

  /** It is no attempt that counts: those are for jobs whose workers die. */
  async function tryAgain(job: TakenJob, failure: DomainError, pauseSeconds: number): Promise<void> {
    await db.transaction(async (tx) => {
      await tx.run(
        `update job set state = 'waiting', worker = null, leased_until = null, attempts = attempts - 1,
                retries = retries + 1, retry_at = now() + make_interval(secs => $3), retry_error = $4
          where id = $1 and worker = $2 and state = 'running'`,
        [job.id, worker, pauseSeconds, JSON.stringify(errorRow(failure))],
      );
      await announce(tx, { kind: 'job', site: job.site, job: job.id });
    });
    const again = setTimeout(() => {
      timers.delete(again);
      lookSoon();
    }, pauseSeconds * 1000);
    timers.add(again);
  }

  async function end(
    job: TakenJob,
    state: 'done' | 'failed' | 'cancelled',
    failure: DomainError | null,
  ): Promise<void> {
    await db.transaction(async (tx) => {
      await tx.run(
        `update job set state = $3, error = $4, ended_at = now(), leased_until = null where id = $1 and worker = $2`,
        [job.id, worker, state, failure && JSON.stringify(errorRow(failure))],
      );
      await announce(tx, { kind: 'job', site: job.site, job: job.id });
    });
  }

  function progressWriter(job: TakenJob, log: Logger) {
    let latest: Progress | undefined;
    let timer: NodeJS.Timeout | undefined;
    let writing = Promise.resolve();
    // Bound here: a handler may report from inside a transaction, whose connection is not this one's.
    const write = AsyncResource.bind(() => {
      timer = undefined;
      const progress = latest;
      if (!progress) return;
      latest = undefined;
      writing = writing
        .then(async () => {
          await db.run(`update job set progress = $3 where id = $1 and worker = $2`, [
            job.id,
            worker,
            JSON.stringify(progress),
          ]);
          await announce(db, { kind: 'job', site: job.site, job: job.id });
        })
        .catch((error: unknown) => log.warn({ err: error }, 'progress not written'));
    });
    return {
      report(progress: Progress) {
        latest = progress;
        timer ??= setTimeout(write, REPORT_EVERY_MS);
      },
      async settle() {
        clearTimeout(timer);
        write();
        await writing;
      },
    };
  }

  const unsubscribe = feed.subscribe((news) => {
    if (news.kind !== 'job') return;
    const mine = running.get(news.job);
    if (mine) {
      // Cheap compared with waiting for the next heartbeat, and cancelling should feel immediate.
      void db
        .maybeOne<{ cancelledBy: string | null }>(
          'select cancelled_by as "cancelledBy" from job where id = $1 and cancelled_by is not null',
          [news.job],
        )
        .then(
          async (row) =>
            row?.cancelledBy &&
            mine.controller.abort(new DomainError('cancelled', { person: await nameOf(row.cancelledBy) })),
        )
        .catch((error: unknown) => options.log.warn({ err: error }, 'cancel not read'));
    } else lookSoon();
  });
  const timer = setInterval(lookSoon, LOOK_EVERY_MS);
  lookSoon();

  return {
    async stop() {
      stopped = true;
      unsubscribe();
      clearInterval(timer);
      for (const each of timers) clearTimeout(each);
      for (const { controller } of running.values()) controller.abort(new Error('stopping'));
      await Promise.allSettled([...running.values()].map(({ ended }) => ended));
      // Give what was not finished back at once instead of when the lease runs out.
      await db
        .run(
          `update job set state = 'waiting', worker = null, leased_until = null, attempts = attempts - 1
                     where worker = $1 and state = 'running'`,
          [worker],
        )
        .catch(() => {});
    },
  };
}

/** What some work threw; undefined where it went well. */
async function failureOf(work: () => Promise<void>): Promise<unknown> {
  try {
    await work();
    return undefined;
  } catch (error) {
    return error ?? new Error('nothing was thrown');
  }
}

function asDomainError(error: unknown, reference: string): DomainError {
  return error instanceof DomainError
    ? error
    : new DomainError('internal', { reference: reference.slice(0, 8) }, { cause: error });
}

export function errorRow({ code, details }: DomainError): KeptError {
  return { code, details };
}
