/**
 * SQLSTATE to domain error, in one place. Source: PostgreSQL manual, appendix A. Constraints that a
 * person can run into have words of their own; everything else stays an unexpected failure.
 */
import { DomainError, type ErrorCode } from '@fastigium/contracts/errors';

const UNIQUE_VIOLATION = '23505';

/**
 * The server is going, coming, full of connections or only a standby, its clock jumped over a transaction's time, or two
 * transactions stood in each other's way: the same again may go well. Classes 08, 40 and 57P; 53300
 * too_many_connections; 25006 read_only_sql_transaction; 25P03 idle_in_transaction_session_timeout.
 */
const PASSING_STATE = /^(08|40|57P|53300$|25006$|25P03$)/;
/** 57014 query_canceled: it took longer than its limit. */
const TOOK_TOO_LONG = '57014';
/** 53100 disk_full. */
const DISK_FULL = '53100';
/** What the system says of a connection that does not come about, or breaks (node:os, constants.errno). */
const BROKEN_LINE = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'EHOSTUNREACH',
  'ENOTFOUND',
  'ENOENT',
]);
/** node-postgres says these in words alone (pg 8.23, client.js and pg-pool's index.js). */
const BROKEN_WORDS =
  /^(Connection terminated|timeout exceeded when trying to connect|timeout expired$|Client has encountered a connection error|Client was closed|Query read timeout)/;

/** Whether a failed query, or getting a connection for one, says something of the database rather than of the query. */
function isAway(error: Error): boolean {
  const code = 'code' in error ? String(error.code) : '';
  return PASSING_STATE.test(code) || BROKEN_LINE.has(code) || BROKEN_WORDS.test(error.message);
}

const BY_CONSTRAINT: Readonly<Record<string, ErrorCode>> = {
  import_one_at_a_time: 'import-running',
};

export function toDomainError(error: unknown): unknown {
  if (!(error instanceof Error) || error instanceof DomainError) return error;
  if (isAway(error)) return new DomainError('database-away', {}, { cause: error });
  if (!('code' in error)) return error;
  if (error.code === TOOK_TOO_LONG) return new DomainError('database-slow', {}, { cause: error });
  if (error.code === DISK_FULL) return new DomainError('database-full', {}, { cause: error });
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
