/** The tasks with one argument each, as messages between threads need it. */
import * as tasks from './tasks.ts';

export const readFiles = (files: readonly tasks.FileToRead[]) => tasks.readFiles(files);

export const compilePages = ({ pages, moves, basePath }: { pages: readonly tasks.PageToCompile[]; moves: ReadonlyMap<string, string>; basePath: string }) =>
  tasks.compilePages(pages, moves, basePath);
