/** A worker takes jobs as they come, does several at once, and says what became of each. */
import { setTimeout as pause } from 'node:timers/promises';
import { DomainError, passes } from '@fastigium/contracts/errors';
import type { Logger } from 'pino';
import type { Database } from '../db/database.ts';
import type { NewsFeed } from '../db/events.ts';
import { Leases, type HeldJob } from './leases.ts';
import { writeProgress } from './progressWriter.ts';
import type { JobHandler, JobKind } from './queue.ts';

/**
 * Nobody waits for them, and they take long: one of each at a time in a process, behind everything else, and together
 * in no more than half of its places, so that whoever asks for something finds one.
 */
const UNHURRIED: readonly JobKind[] = ['pictures', 'inspect', 'suggest', 'sweep'];
const MOST_ATTEMPTS = 3;
/** A waiting job is announced, so this only matters when an announcement was missed. */
const POLL_EVERY_MS = 2000;
/** What became of a job is said again this often while the database is away. */
const SAY_AGAIN_MS = 500;

export interface WorkerOptions {
  /** An id no other process has. */
  readonly process: string;
  readonly leaseSeconds: number;
  readonly concurrency: number;
  /** Pauses before what failed for a reason that may pass is tried again; then it is given up. */
  readonly retryPauses: readonly number[];
  readonly log: Logger;
}

export interface Worker {
  /** Stops what is under way, waits for it, and gives it back. */
  stop(): Promise<void>;
}

type Handlers = Readonly<Record<JobKind, JobHandler>>;

export function startWorker(db: Database, feed: NewsFeed, handlers: Handlers, options: WorkerOptions): Worker {
  const worker = new JobWorker(new Leases(db, options.process), handlers, options);
  const unsubscribe = feed.subscribe((news) => {
    if (news.kind === 'job') worker.hear(news.job);
  });
  const timer = setInterval(() => worker.claimSoon(), POLL_EVERY_MS);
  worker.claimSoon();
  return {
    async stop() {
      unsubscribe();
      clearInterval(timer);
      await worker.stop();
    },
  };
}

interface UnderWay {
  readonly kind: JobKind;
  readonly controller: AbortController;
  readonly ended: Promise<void>;
}

class JobWorker {
  readonly #leases: Leases;
  readonly #handlers: Handlers;
  readonly #options: WorkerOptions;
  readonly #underWay = new Map<string, UnderWay>();
  readonly #retries = new Set<NodeJS.Timeout>();
  #isStopped = false;
  #isLooking = false;
  #claimsAgain = false;

  constructor(leases: Leases, handlers: Handlers, options: WorkerOptions) {
    this.#leases = leases;
    this.#handlers = handlers;
    this.#options = options;
  }

  /** For whoever does not wait for it. */
  claimSoon(): void {
    this.#claim().catch((error: unknown) => this.#options.log.warn({ err: error }, 'looking for work failed'));
  }

  /** Something happened to a job: cancelling should feel immediate, and is cheap to ask about. */
  hear(job: string): void {
    const mine = this.#underWay.get(job);
    if (!mine) {
      this.claimSoon();
      return;
    }
    this.#leases
      .cancelledBy(job)
      .then(async (person) => {
        if (person !== null) mine.controller.abort(await this.#leases.cancelled(person));
      })
      .catch((error: unknown) => this.#options.log.warn({ err: error }, 'cancel not read'));
  }

  async stop(): Promise<void> {
    this.#isStopped = true;
    for (const each of this.#retries) clearTimeout(each);
    for (const { controller } of this.#underWay.values()) controller.abort(new Error('stopping'));
    await Promise.allSettled([...this.#underWay.values()].map(({ ended }) => ended));
    // Where the database is away, the leases run out.
    await this.#leases.giveBack().catch(() => {});
  }

  async #claim(): Promise<void> {
    if (this.#isLooking) {
      this.#claimsAgain = true;
      return;
    }
    this.#isLooking = true;
    try {
      do {
        this.#claimsAgain = false;
        await this.#fillPlaces();
      } while (this.#claimsAgain && !this.#isStopped);
    } finally {
      this.#isLooking = false;
    }
  }

  async #fillPlaces(): Promise<void> {
    while (!this.#isStopped && this.#underWay.size < this.#options.concurrency) {
      const job = await this.#leases.take({
        leaseSeconds: this.#options.leaseSeconds,
        notNow: this.#kindsNotNow(),
        last: UNHURRIED,
        underWay: [...this.#underWay.keys()],
      });
      if (!job) return;
      const controller = new AbortController();
      const ended = this.#perform(job, controller).finally(() => {
        this.#underWay.delete(job.id);
        this.claimSoon();
      });
      this.#underWay.set(job.id, { kind: job.kind, controller, ended });
    }
  }

  #kindsNotNow(): readonly JobKind[] {
    const unhurried = [...this.#underWay.values()].map(({ kind }) => kind).filter((kind) => UNHURRIED.includes(kind));
    return unhurried.length >= this.#options.concurrency / 2 ? UNHURRIED : unhurried;
  }

  async #perform(job: HeldJob, controller: AbortController): Promise<void> {
    const log = this.#options.log.child({ job: job.id, kind: job.kind });
    const heartbeat = setInterval(
      () => void this.#renew(job, controller).catch((error: unknown) => log.warn({ err: error }, 'heartbeat failed')),
      (this.#options.leaseSeconds * 1000) / 3,
    );
    try {
      const error = await catchFailure(() => this.#run(job, controller.signal, log));
      if (error === undefined) return await this.#saying(log, () => this.#leases.end(job, 'done', null));
      // Another worker has it, or this process is going down and one will: leave everything as it is.
      if (this.#isStopped || (controller.signal.aborted && !(controller.signal.reason instanceof DomainError))) return;
      const failure = asDomainError(controller.signal.aborted ? controller.signal.reason : error, job.id);
      if (failure.code === 'internal') log.error({ err: error }, 'job failed');
      await this.#saying(log, () => this.#fail(job, failure));
    } finally {
      clearInterval(heartbeat);
    }
  }

  /** What its progress says last is kept before what became of it. */
  async #run(job: HeldJob, signal: AbortSignal, log: Logger): Promise<void> {
    const progress = writeProgress((latest) =>
      this.#leases.sayProgress(job, latest).catch((error: unknown) => log.warn({ err: error }, 'progress not written')),
    );
    try {
      if (job.cancelledBy) throw await this.#leases.cancelled(job.cancelledBy);
      if (job.attempts > MOST_ATTEMPTS) throw new DomainError('job-lost');
      const { id, site, body, attempts: attempt } = job;
      await this.#handlers[job.kind].run({ id, site, body, attempt, signal, report: progress.report });
    } finally {
      await progress.settle();
    }
  }

  /** Renews the lease and learns of cancelling. */
  async #renew({ id }: HeldJob, controller: AbortController): Promise<void> {
    const row = await this.#leases.renew(id, this.#options.leaseSeconds);
    if (!row) controller.abort(new Error('lease lost'));
    else if (row.cancelledBy) controller.abort(await this.#leases.cancelled(row.cancelledBy));
  }

  async #fail(job: HeldJob, failure: DomainError): Promise<void> {
    const pauseSeconds = this.#options.retryPauses[job.retries];
    if (passes(failure) && pauseSeconds !== undefined) {
      await this.#leases.putOff(job, failure, pauseSeconds);
      this.#claimAfter(pauseSeconds);
      return;
    }
    const { id, site, body } = job;
    const seen = await this.#handlers[job.kind].undo?.({ id, site, body }, failure);
    if (seen === 'done') await this.#leases.end(job, 'done', null);
    else await this.#leases.end(job, failure.code === 'cancelled' ? 'cancelled' : 'failed', failure);
  }

  #claimAfter(seconds: number): void {
    const timer = setTimeout(() => {
      this.#retries.delete(timer);
      this.claimSoon();
    }, seconds * 1000);
    this.#retries.add(timer);
  }

  /**
   * What is said of a job after its work, said again until the database takes it: while that is away the job is this
   * worker's, unless somebody else has it by then.
   */
  async #saying(log: Logger, say: () => Promise<void>): Promise<void> {
    for (;;) {
      try {
        return await say();
      } catch (error) {
        log.warn({ err: error }, 'what became of the job could not be said');
        // Who is going down says it once; whoever takes the job up finds what was done.
        if (this.#isStopped || !(error instanceof DomainError && passes(error))) return;
        await pause(SAY_AGAIN_MS);
      }
    }
  }
}

/** What some work threw; undefined where it went well. */
async function catchFailure(work: () => Promise<void>): Promise<unknown> {
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
