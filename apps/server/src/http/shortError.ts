/** An error for the log: what it is and where, and not what else a package has put into it. */
export interface ShortError {
  readonly type: string;
  readonly message: string;
  readonly code?: string;
  readonly stack?: string;
  readonly cause?: ShortError;
}

const MOST_CAUSES = 5;

export function shortenError(error: unknown, depth = 0): ShortError {
  if (!(error instanceof Error)) return { type: typeof error, message: 'no error was thrown' };
  const code = (error as { code?: unknown }).code;
  return {
    type: error.name,
    message: error.message,
    ...(typeof code === 'string' ? { code } : {}),
    ...(error.stack === undefined ? {} : { stack: error.stack }),
    ...(error.cause instanceof Error && depth < MOST_CAUSES ? { cause: shortenError(error.cause, depth + 1) } : {}),
  };
}
