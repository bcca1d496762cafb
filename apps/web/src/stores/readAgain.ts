/** What a station shows of the open site: read when the site opens, and again whenever it may have changed. */
import { watch } from 'vue';
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
