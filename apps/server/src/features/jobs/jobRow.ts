/** A job as the API shows it. */
import type { Job } from '@fastigium/contracts/api/jobs';

export const JOB_COLUMNS =
  'id, site_id as site, kind, state, progress, error, retries, retry_at as "retryAt", retry_error as "retryError", created_at as "createdAt", ended_at as "endedAt"';

export interface JobRow extends Omit<Job, 'createdAt' | 'endedAt' | 'retry'>, Record<string, unknown> {
  readonly createdAt: Date;
  readonly endedAt: Date | null;
  readonly retries: number;
  readonly retryAt: Date | null;
  readonly retryError: Job['error'];
}

export function describeJob({ createdAt, endedAt, retries, retryAt, retryError, ...row }: JobRow): Job {
  return {
    ...row,
    retry:
      row.state === 'waiting' && retryAt && retryError
        ? { tries: retries, at: retryAt.toISOString(), error: retryError }
        : null,
    createdAt: createdAt.toISOString(),
    endedAt: endedAt?.toISOString() ?? null,
  };
}
