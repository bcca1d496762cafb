/** The pool of worker threads for work on many pages. */
import { DomainError } from '@fastigium/contracts/errors';
import type { ReasonMessage } from '@fastigium/contracts/messages/reason';
import type { PageChange } from '@fastigium/core/report';
import type { Transferable } from 'node:worker_threads';
import pLimit from 'p-limit';
import { Piscina } from 'piscina';
import type { Recipe } from '@fastigium/core/pieces';
import type { SharedPlan } from '@fastigium/core/release';
import type { Touch } from '@fastigium/core/touches';
import type * as calls from './calls.ts';
import type { CountedLog, LogToCount } from './countLog.ts';
import type { DocumentToShow, ShownDocument } from './documentPages.ts';
import type { PasswordToJudge } from './judgePassword.ts';
import type { MatchRequest } from './matchAddresses.ts';
import type { OldFile, OldFileRequest } from './oldAddresses.ts';
import type { Match } from '@fastigium/core/redirects/matching';
import type {
  AnswerToRelink,
  CheckedWith,
  checkPages,
  CompiledFile,
  FileToRead,
  findTouches,
  findListsAt,
  PageToCompile,
  PageToSearch,
  readAnswer,
  ReadFile,
  SentResult,
} from './tasks.ts';

export interface Threads {
  readonly size: number;
  read(files: readonly FileToRead[], signal?: AbortSignal): Promise<readonly ReadFile[]>;
  compile(pages: readonly PageToCompile[], shared: SharedPlan, signal?: AbortSignal): Promise<readonly CompiledFile[]>;
  findListsAt(
    pages: Parameters<typeof findListsAt>[0],
    ways: ReadonlySet<string>,
    signal?: AbortSignal,
  ): Promise<ReturnType<typeof findListsAt>>;
  check(
    pages: Parameters<typeof checkPages>[0],
    judgedWith: CheckedWith,
    signal?: AbortSignal,
  ): Promise<readonly SentResult[]>;
  find(
    pages: readonly PageToSearch[],
    touches: readonly Touch[],
    signal?: AbortSignal,
  ): Promise<ReturnType<typeof findTouches>>;
  readAnswer(answer: Parameters<typeof readAnswer>[0], signal?: AbortSignal): Promise<ReturnType<typeof readAnswer>>;
  relink(answer: AnswerToRelink, signal?: AbortSignal): Promise<Uint8Array>;
  readOldAddresses(request: OldFileRequest, signal?: AbortSignal): Promise<OldFile>;
  /** Tells how much is done, from 0 to 1, through the request's port. */
  match(request: MatchRequest, signal?: AbortSignal): Promise<readonly Match[]>;
  compare(
    pages: readonly { readonly before: Uint8Array; readonly after: Uint8Array }[],
    signal?: AbortSignal,
  ): Promise<readonly PageChange[]>;
  drawDocument(document: DocumentToShow, signal?: AbortSignal): Promise<ShownDocument | undefined>;
  writePieces(contents: { readonly old: Uint8Array; readonly now: Uint8Array }, signal?: AbortSignal): Promise<Recipe>;
  /** What makes a password easy to guess; null where nothing does. */
  judgePassword(password: PasswordToJudge): Promise<ReasonMessage | null>;
  /** Whole lines of an access log. */
  countLog(log: LogToCount, signal?: AbortSignal): Promise<CountedLog>;
  close(): Promise<void>;
}

/** No task is so long; one that never ends would keep its thread from everybody else. */
const MOST_MINUTES = 10;
/** A person waits for it, and it is about a few letters. */
const JUDGING_MINUTES = 1;

interface TaskOptions {
  readonly signal?: AbortSignal | undefined;
  readonly transferList?: readonly Transferable[];
  readonly mostMinutes?: number;
}

/**
 * @param worker the built file of worker.ts: a thread takes no loader over from its process, and starts quickly without
 * @param longest in minutes, of any task from when a thread begins it; then its thread is ended, and the task fails
 */
export function startThreads(size: number, worker: string, longest = MOST_MINUTES): Threads {
  const pool = new Piscina({
    filename: worker,
    minThreads: 1,
    maxThreads: size,
    idleTimeout: 30_000,
    // A page of 16 MiB needs about half a gigabyte while it is a tree.
    resourceLimits: { maxOldGenerationSizeMb: 2048 },
    // The pool requires a worker's file before it imports it. A thread that is ended just then takes the whole process
    // with it (Node.js 20.20: `v8::Module::IsGraphAsync must be used on an instantiated module`).
    execArgv: ['--no-experimental-require-module'],
  });
  // Tasks wait here and not in the pool, so that the time counts from where one begins.
  const whenFree = pLimit(size);
  const run = <Result>(name: keyof typeof calls, task: unknown, options: TaskOptions = {}): Promise<Result> =>
    whenFree(async () => {
      const { signal, transferList = [], mostMinutes = longest } = options;
      signal?.throwIfAborted();
      const end = AbortSignal.timeout(mostMinutes * 60_000);
      try {
        const either = signal ? AbortSignal.any([signal, end]) : end;
        return (await pool.run(task, { name, signal: either, transferList: [...transferList] })) as Result;
      } catch (error) {
        if (end.aborted && signal?.aborted !== true) throw new DomainError('work-too-long', { minutes: mostMinutes });
        throw error;
      }
    });
  return {
    size,
    read: (files, signal) => run('readFiles', files, { signal }),
    compile: (pages, shared, signal) => run('compilePages', { pages, shared }, { signal }),
    findListsAt: (pages, ways, signal) => run('findListsAt', { pages, ways }, { signal }),
    check: (pages, judgedWith, signal) => run('checkPages', { pages, judgedWith }, { signal }),
    find: (pages, touches, signal) => run('findTouches', { pages, touches }, { signal }),
    readAnswer: (answer, signal) => run('readAnswer', answer, { signal }),
    relink: (answer, signal) => run('relinkAnswer', answer, { signal }),
    readOldAddresses: (request, signal) => run('readOldAddresses', request, { signal, transferList: [request.port] }),
    match: (request, signal) => run('matchAddresses', request, { signal, transferList: [request.port] }),
    compare: (pages, signal) => run('comparePages', pages, { signal }),
    drawDocument: (document, signal) => run('drawDocumentPages', document, { signal }),
    writePieces: (contents, signal) => run('writePieces', contents, { signal }),
    judgePassword: (password) => run('judgePassword', password, { mostMinutes: Math.min(longest, JUDGING_MINUTES) }),
    countLog: (log, signal) => run('countLog', log, { signal }),
    close: () => pool.destroy(),
  };
}
