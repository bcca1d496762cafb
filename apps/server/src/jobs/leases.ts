/** Jobs as one worker holds them: what it takes, renews, and says of them. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Progress } from '@fastigium/contracts/api/jobs';
import type { Database } from '../db/database.ts';
import { announce } from '../db/events.ts';
import { describeError, type JobKind } from './queue.ts';

export interface HeldJob extends Record<string, unknown> {
  readonly id: string;
  readonly site: string;
  readonly kind: JobKind;
  readonly body: unknown;
  readonly attempts: number;
  readonly retries: number;
  readonly cancelledBy: string | null;
}

/** What a worker takes, and what it leaves to others or to later. */
export interface Wanted {
  readonly leaseSeconds: number;
  /** Of these none now. */
  readonly notNow: readonly JobKind[];
  /** These only where nothing else waits. */
  readonly last: readonly JobKind[];
  /** A process too busy to renew in time still does what it does; twice at once would spoil both. */
  readonly underWay: readonly string[];
}

/** A process that takes no job of its own for so long is no more. */
const GIVEN_UP_AFTER_MINUTES = 15;

export class Leases {
  readonly #db: Database;
  readonly #worker: string;

  /** @param worker an id no other process has */
  constructor(db: Database, worker: string) {
    this.#db = db;
    this.#worker = worker;
  }

  take({ leaseSeconds, notNow, last, underWay }: Wanted): Promise<HeldJob | undefined> {
    return this.#db.maybeOne<HeldJob>(
      `update job set state = 'running', worker = $1, attempts = attempts + 1,
              leased_until = now() + make_interval(secs => $2), retry_at = null, retry_error = null
        where id = (select id from job
                     where ((state = 'waiting' and (retry_at is null or retry_at <= now() or cancelled_by is not null))
                            or (state = 'running' and leased_until < now()))
                       and kind <> all($3) and id <> all($5)
                       and (only_at is null or only_at = $1 or created_at < now() - make_interval(mins => $6))
                     order by kind = any($4), created_at for update skip locked limit 1)
       returning id, site_id as site, kind, body, attempts, retries, cancelled_by as "cancelledBy"`,
      [this.#worker, leaseSeconds, notNow, last, underWay, GIVEN_UP_AFTER_MINUTES],
    );
  }

  /** @returns who cancelled it meanwhile; undefined where it is this worker's no more */
  renew(job: string, leaseSeconds: number): Promise<{ cancelledBy: string | null } | undefined> {
    return this.#db.maybeOne<{ cancelledBy: string | null }>(
      `update job set leased_until = now() + make_interval(secs => $3)
        where id = $1 and worker = $2 and state = 'running' returning cancelled_by as "cancelledBy"`,
      [job, this.#worker, leaseSeconds],
    );
  }

  async cancelledBy(job: string): Promise<string | null> {
    const row = await this.#db.maybeOne<{ by: string | null }>('select cancelled_by as by from job where id = $1', [
      job,
    ]);
    return row?.by ?? null;
  }

  /** The error of a job that somebody cancelled. */
  async cancelled(person: string): Promise<DomainError> {
    const { name } = await this.#db.one<{ name: string }>('select name from person where id = $1', [person]);
    return new DomainError('cancelled', { person: name });
  }

  async sayProgress({ id, site }: HeldJob, progress: Progress): Promise<void> {
    await this.#db.run('update job set progress = $3 where id = $1 and worker = $2', [
      id,
      this.#worker,
      JSON.stringify(progress),
    ]);
    await announce(this.#db, { kind: 'job', site, job: id });
  }

  async end({ id, site }: HeldJob, state: 'done' | 'failed' | 'cancelled', failure: DomainError | null): Promise<void> {
    await this.#db.transaction(async (tx) => {
      await tx.run(
        `update job set state = $3, error = $4, ended_at = now(), leased_until = null where id = $1 and worker = $2`,
        [id, this.#worker, state, failure && JSON.stringify(describeError(failure))],
      );
      await announce(tx, { kind: 'job', site, job: id });
    });
  }

  /** It is no attempt that counts: those are for jobs whose workers die. */
  async putOff({ id, site }: HeldJob, failure: DomainError, pauseSeconds: number): Promise<void> {
    await this.#db.transaction(async (tx) => {
      await tx.run(
        `update job set state = 'waiting', worker = null, leased_until = null, attempts = attempts - 1,
                retries = retries + 1, retry_at = now() + make_interval(secs => $3), retry_error = $4
          where id = $1 and worker = $2 and state = 'running'`,
        [id, this.#worker, pauseSeconds, JSON.stringify(describeError(failure))],
      );
      await announce(tx, { kind: 'job', site, job: id });
    });
  }

  /** What is not finished is anybody's at once, instead of when its lease runs out. */
  async giveBack(): Promise<void> {
    await this.#db.run(
      `update job set state = 'waiting', worker = null, leased_until = null, attempts = attempts - 1
        where worker = $1 and state = 'running'`,
      [this.#worker],
    );
  }
}
