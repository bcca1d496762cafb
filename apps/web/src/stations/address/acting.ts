/** One change at a time: done, told, or refused with the reason; what was typed stays where it is. */
import { ref, type Ref } from 'vue';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';

export interface Acting {
  readonly busy: Readonly<Ref<boolean>>;
  /** False when it went wrong or something is still being done. */
  act(work: (site: string) => Promise<void>, done?: string): Promise<boolean>;
}

export function useActing(): Acting {
  const site = useSite();
  const notices = useNotices();
  const busy = ref(false);
  return {
    busy,
    async act(work, done) {
      const { id } = site;
      if (id === undefined || busy.value) return false;
      busy.value = true;
      try {
        await work(id);
        if (done !== undefined) notices.done(done);
        return true;
      } catch (error) {
        notices.problem(error);
        return false;
      } finally {
        busy.value = false;
      }
    },
  };
}
