/** The origin under which the open site's draft can be looked at, asked for anew before it ends. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { onScopeDispose, ref, watch, type Ref } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';

const MINUTE_MS = 60_000;

export function usePreviewOrigin(): Readonly<Ref<string | undefined>> {
  const site = useSite();
  const notices = useNotices();
  const origin = ref<string>();
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function ask(id: string): Promise<void> {
    try {
      const answer = await call(draftApi.previewLink, { params: { site: id } });
      origin.value = answer.origin;
      const leftMs = new Date(answer.until).getTime() - Date.now() - MINUTE_MS;
      timer = setTimeout(() => void ask(id), Math.max(MINUTE_MS, leftMs));
    } catch (error) {
      notices.problem(error);
    }
  }

  watch(() => site.id, (id) => {
    clearTimeout(timer);
    if (id !== undefined) void ask(id);
  }, { immediate: true });
  onScopeDispose(() => clearTimeout(timer));
  return origin;
}
