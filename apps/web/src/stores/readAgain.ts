/** What a station shows of the open site: read when the site opens, and again whenever it may have changed. */
import { onScopeDispose, watch } from 'vue';
import type { Topic } from './freshness.ts';
import { useNotices } from './notices.ts';
import { useSite } from './site.ts';

/** A topic of the site, or something else that is watched. */
export type Reason = Topic | (() => unknown);

/**
 * One reading at a time: an answer that was asked for earlier could otherwise arrive later and show what is past.
 *
 * @param read called with the open site; its failure is told
 * @param reasons after whose change it is read again
 */
export function useReadAgain(read: (site: string) => Promise<void>, reasons: readonly Reason[] = ['draft']): void {
  const site = useSite();
  const notices = useNotices();
  let isReading = false;
  let again = false;
  const readNow = async (): Promise<void> => {
    if (isReading) {
      again = true;
      return;
    }
    isReading = true;
    do {
      again = false;
      if (site.id === undefined) break;
      const reading = read(site.id).catch(notices.problem);
      site.noteReading(reading);
      await reading;
    } while (again);
    isReading = false;
  };
  watch(
    [() => site.id, ...reasons.map((reason) => (typeof reason === 'function' ? reason : () => site.versions[reason]))],
    readNow,
    { immediate: true },
  );
}

/**
 * The same for what is dear to read: one reading at a time, and none while the list shows by other means what was
 * just changed; whatever changed meanwhile is in the next one.
 *
 * @param read false where what was read is older than what is shown already, so that it has to be read again
 * @returns puts the next reading off, before a change that shows by itself
 */
export function useReadAtEase(
  read: (site: string) => Promise<boolean>,
  reasons: readonly Reason[],
  pauseMs: number,
): () => void {
  const site = useSite();
  const notices = useNotices();
  let isReading = false;
  let again = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  onScopeDispose(() => clearTimeout(timer));
  const readOn = (): void => {
    if (again && site.id !== undefined) void ease(site.id).catch(notices.problem);
  };
  const postpone = (): void => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      timer = undefined;
      readOn();
    }, pauseMs);
  };
  const ease = async (id: string): Promise<void> => {
    if (isReading || timer !== undefined) {
      again = true;
      return;
    }
    [isReading, again] = [true, false];
    try {
      if (!(await read(id))) again = true;
    } finally {
      isReading = false;
    }
    readOn();
  };
  useReadAgain(ease, reasons);
  return postpone;
}
