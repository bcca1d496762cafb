/** A job as the API shows it. */
import type { Job } from '@fastigium/contracts/api/jobs';

export const JOB_COLUMNS =
  'id, site_id as site, kind, state, progress, error, created_at as "createdAt", ended_at as "endedAt"';

export interface JobRow extends Omit<Job, 'createdAt' | 'endedAt'>, Record<string, unknown> {
  readonly createdAt: Date;
  readonly endedAt: Date | null;
}

export function jobRow({ createdAt, endedAt, ...row }: JobRow): Job {
  return { ...row, createdAt: createdAt.toISOString(), endedAt: endedAt?.toISOString() ?? null };
}
