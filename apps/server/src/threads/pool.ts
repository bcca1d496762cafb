/** The pool of worker threads for work on many pages. */
import type { ReasonMessage } from '@fastigium/contracts/messages/reason';
import type { PageChange } from '@fastigium/core/report';
import { Piscina } from 'piscina';
import type { Recipe } from '@fastigium/core/pieces';
import type { SharedPlan } from '@fastigium/core/release';
import type { Touch } from '@fastigium/core/touches';
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
  listsAt,
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
  listsAt(
    pages: Parameters<typeof listsAt>[0],
    ways: ReadonlySet<string>,
    signal?: AbortSignal,
  ): Promise<ReturnType<typeof listsAt>>;
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
  crawled(answer: Parameters<typeof readAnswer>[0], signal?: AbortSignal): Promise<ReturnType<typeof readAnswer>>;
  relink(answer: AnswerToRelink, signal?: AbortSignal): Promise<Uint8Array>;
  oldAddresses(request: OldFileRequest, signal?: AbortSignal): Promise<OldFile>;
  /** Tells how much is done, from 0 to 1, through the request's port. */
  match(request: MatchRequest, signal?: AbortSignal): Promise<readonly Match[]>;
  compare(
    pages: readonly { readonly before: Uint8Array; readonly after: Uint8Array }[],
    signal?: AbortSignal,
  ): Promise<readonly PageChange[]>;
  documentPages(document: DocumentToShow, signal?: AbortSignal): Promise<ShownDocument | undefined>;
  recipeOf(of: { readonly old: Uint8Array; readonly now: Uint8Array }, signal?: AbortSignal): Promise<Recipe>;
  /** What makes a password easy to guess; null where nothing does. */
  judgePassword(of: PasswordToJudge): Promise<ReasonMessage | null>;
  /** Whole lines of an access log. */
  countLog(log: LogToCount, signal?: AbortSignal): Promise<CountedLog>;
  close(): Promise<void>;
}

/** @param worker the built file of worker.ts: a thread takes no loader over from its process, and starts quickly without */
export function startThreads(size: number, worker: string): Threads {
  const pool = new Piscina({
    filename: worker,
    minThreads: 1,
    maxThreads: size,
    idleTimeout: 30_000,
    // A page of 16 MiB needs about half a gigabyte while it is a tree.
    resourceLimits: { maxOldGenerationSizeMb: 2048 },
  });
  const options = (name: string, signal?: AbortSignal) => (signal ? { name, signal } : { name });
  return {
    size,
    read: (files, signal) => pool.run(files, options('read', signal)) as Promise<ReadFile[]>,
    compile: (pages, shared, signal) =>
      pool.run({ pages, shared }, options('compile', signal)) as Promise<CompiledFile[]>,
    listsAt: (pages, ways, signal) =>
      pool.run({ pages, ways }, options('listsAt', signal)) as Promise<ReturnType<typeof listsAt>>,
    check: (pages, judgedWith, signal) =>
      pool.run({ pages, judgedWith }, options('check', signal)) as Promise<SentResult[]>,
    find: (pages, touches, signal) =>
      pool.run({ pages, touches }, options('find', signal)) as Promise<ReturnType<typeof findTouches>>,
    crawled: (answer, signal) => pool.run(answer, options('crawled', signal)) as Promise<ReturnType<typeof readAnswer>>,
    relink: (answer, signal) => pool.run(answer, options('relink', signal)) as Promise<Uint8Array>,
    oldAddresses: (request, signal) =>
      pool.run(request, { ...options('oldAddresses', signal), transferList: [request.port] }) as Promise<OldFile>,
    match: (request, signal) =>
      pool.run(request, { ...options('match', signal), transferList: [request.port] }) as Promise<Match[]>,
    compare: (pages, signal) => pool.run(pages, options('compare', signal)) as Promise<PageChange[]>,
    documentPages: (document, signal) =>
      pool.run(document, options('documentPages', signal)) as Promise<ShownDocument | undefined>,
    recipeOf: (of, signal) => pool.run(of, options('recipeOf', signal)) as Promise<Recipe>,
    judgePassword: (of) => pool.run(of, options('judgePassword')) as Promise<ReasonMessage | null>,
    countLog: (log, signal) => pool.run(log, options('countLog', signal)) as Promise<CountedLog>,
    close: () => pool.destroy(),
  };
}
