/** The pool of worker threads for work on many pages. */
import { Piscina } from 'piscina';
import type { CompiledFile, FileToRead, PageToCompile, ReadFile } from './tasks.ts';

export interface Threads {
  readonly size: number;
  read(files: readonly FileToRead[], signal?: AbortSignal): Promise<readonly ReadFile[]>;
  compile(pages: readonly PageToCompile[], moves: ReadonlyMap<string, string>, basePath: string, signal?: AbortSignal): Promise<readonly CompiledFile[]>;
  close(): Promise<void>;
}

export function startThreads(size: number): Threads {
  // Built, the worker stands beside the server as JavaScript; in tests it is TypeScript.
  const isSource = import.meta.url.endsWith('.ts');
  const pool = new Piscina({
    filename: new URL(isSource ? './worker.source.mjs' : './worker.js', import.meta.url).href,
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
    compile: (pages, moves, basePath, signal) => pool.run({ pages, moves, basePath }, options('compile', signal)) as Promise<CompiledFile[]>,
    close: () => pool.destroy(),
  };
}
