/** The worker run from its TypeScript source, in tests: a thread does not take its loader over from the process. */
import { register } from 'tsx/esm/api';

register();
const tasks = await import('./worker.ts');
export const {
  check,
  compile,
  countLog,
  crawled,
  describe,
  documentPages,
  find,
  judgePassword,
  listsAt,
  match,
  oldAddresses,
  read,
  recipeOf,
  relink,
} = tasks;
