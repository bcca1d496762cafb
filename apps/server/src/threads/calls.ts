/** The tasks with one argument each, as messages between threads need it. */
import { comparePage } from '@fastigium/core/report';
import { writeRecipe } from '@fastigium/core/pieces';
import type { SharedPlan } from '@fastigium/core/release';
import type { Touch } from '@fastigium/core/touches';
import * as tasks from './tasks.ts';

export const readFiles = (files: readonly tasks.FileToRead[]) => tasks.readFiles(files);

export const compilePages = ({ pages, shared }: { pages: readonly tasks.PageToCompile[]; shared: SharedPlan }) =>
  tasks.compilePages(pages, shared);

export const findListsAt = ({
  pages,
  ways,
}: {
  pages: Parameters<typeof tasks.findListsAt>[0];
  ways: ReadonlySet<string>;
}) => tasks.findListsAt(pages, ways);

export const checkPages = ({
  pages,
  judgedWith,
}: {
  pages: Parameters<typeof tasks.checkPages>[0];
  judgedWith: tasks.CheckedWith;
}) => tasks.checkPages(pages, judgedWith);

export const findTouches = ({ pages, touches }: { pages: readonly tasks.PageToSearch[]; touches: readonly Touch[] }) =>
  tasks.findTouches(pages, touches);

export const readAnswer = (answer: Parameters<typeof tasks.readAnswer>[0]) => tasks.readAnswer(answer);

export const relinkAnswer = (answer: tasks.AnswerToRelink) => tasks.relinkAnswer(answer);

export { readOldAddresses } from './oldAddresses.ts';
/** What visitors notice of each page. */
export const comparePages = (pages: readonly { before: Uint8Array; after: Uint8Array }[]) =>
  pages.map(({ before, after }) => comparePage(before, after));

export const writePieces = ({ old, now }: { old: Uint8Array; now: Uint8Array }) => writeRecipe(old, now);

export { countLog } from './countLog.ts';
export { drawDocumentPages } from './documentPages.ts';
export { judgePassword } from './judgePassword.ts';
export { matchAddresses } from './matchAddresses.ts';
