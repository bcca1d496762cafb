/**
 * Long work as rows in PostgreSQL: taken with SKIP LOCKED, held by a lease that its worker renews,
 * taken up again by any worker when the lease runs out, so that a killed server loses nothing.
 *
 * A queue package was weighed: the ones that run on Node.js 20 either hold a dead worker's jobs for
 * hours or know neither progress nor cancelling, and what remains is this folder.
 */
import { DomainError, type KeptError } from '@fastigium/contracts/errors';
import type { JOB_KINDS, Progress } from '@fastigium/contracts/api/jobs';
import type { Database, Queries } from '../db/database.ts';
import { announce } from '../db/events.ts';

export type JobKind = (typeof JOB_KINDS)[number];

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

/** @param job with `onlyAt`, the one process that has what it works on: another takes it only once that is gone */
export async function enqueue(
  tx: Queries,
  job: { kind: JobKind; site: string; body: unknown; by: string; onlyAt?: string },
): Promise<string> {
  const { id } = await tx.one<{ id: string }>(
    'insert into job (kind, site_id, body, created_by, only_at) values ($1, $2, $3, $4, $5) returning id',
    [job.kind, job.site, JSON.stringify(job.body), job.by, job.onlyAt ?? null],
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

export function describeError({ code, details }: DomainError): KeptError {
  return { code, details };
}
