/**
 * SQLSTATE to domain error, in one place. Source: PostgreSQL manual, appendix A. Constraints that a
 * person can run into have words of their own; everything else stays an unexpected failure.
 */
import { DomainError, type ErrorCode } from '@fastigium/contracts/errors';

const UNIQUE_VIOLATION = '23505';

const BY_CONSTRAINT: Readonly<Record<string, ErrorCode>> = {
  import_one_at_a_time: 'import-running',
};

export function toDomainError(error: unknown): unknown {
  if (!(error instanceof Error) || !('code' in error)) return error;
  const constraint = 'constraint' in error ? String(error.constraint) : '';
  const code = BY_CONSTRAINT[constraint];
  return error.code === UNIQUE_VIOLATION && code !== undefined ? new DomainError(code, {}, { cause: error }) : error;
}

export function isUniqueViolation(error: unknown, constraint: string): boolean {
  return (
    error instanceof Error &&
    'code' in error &&
    error.code === UNIQUE_VIOLATION &&
    'constraint' in error &&
    error.constraint === constraint
  );
}
