/** Work that nobody waits for: should it fail, that is told like everything that fails. */
import { useNotices } from './notices.ts';

export function runInBackground(work: Promise<unknown>): void {
  work.catch(useNotices().problem);
}
