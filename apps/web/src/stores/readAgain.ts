/** What a station shows of the open site: read when the site opens, and again whenever it may have changed. */
import { onScopeDispose, watch } from 'vue';
import { useNotices } from './notices.ts';
import { useSite } from './site.ts';

/**
 * @param read called with the open site; its failure is told
 * @param reasons after whose change it is read again; a change of the draft, where none are named
 */
export function useReadAgain(read: (site: string) => Promise<void>, reasons?: readonly (() => unknown)[]): void {
  const site = useSite();
  const notices = useNotices();
  watch([() => site.id, ...(reasons ?? [() => site.tick])], async () => {
    if (site.id === undefined) return;
    try {
      await read(site.id);
    } catch (error) {
      notices.problem(error);
    }
  }, { immediate: true });
}

/**
 * The same for what is dear to read: one reading at a time, and not again before a pause; whatever changed
 * meanwhile is in the next one.
 *
 * @returns begins the pause anew, for whoever shows by other means what was just changed
 */
export function useReadAtEase(read: (site: string) => Promise<void>, reasons: readonly (() => unknown)[], pauseMs: number): () => void {
  const site = useSite();
  const notices = useNotices();
  let isReading = false;
  let again = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  onScopeDispose(() => clearTimeout(timer));
  const pause = (): void => {
    clearTimeout(timer);
    timer = setTimeout(() => {
      timer = undefined;
      if (again && site.id !== undefined) void ease(site.id).catch(notices.problem);
    }, pauseMs);
  };
  const ease = async (id: string): Promise<void> => {
    if (isReading || timer !== undefined) {
      again = true;
      return;
    }
    [isReading, again] = [true, false];
    try {
      await read(id);
    } finally {
      isReading = false;
      pause();
    }
  };
  useReadAgain(ease, reasons);
  return pause;
}
