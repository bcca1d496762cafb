/** The origins under which the open site's draft can be looked at, asked for anew before they end. */
import { draftApi } from '@fastigium/contracts/api/draft';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { onScopeDispose, shallowRef, watch, type ShallowRef } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { runInBackground } from '../../stores/background.ts';

const MINUTE_MS = 60_000;
export type PreviewOrigins = AnswerOf<typeof draftApi.previewLink>['origins'];

export function usePreviewOrigins(): Readonly<ShallowRef<PreviewOrigins | undefined>> {
  const site = useSite();
  const notices = useNotices();
  const origins = shallowRef<PreviewOrigins>();
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function ask(id: string): Promise<void> {
    try {
      const answer = await call(draftApi.previewLink, { params: { site: id } });
      origins.value = answer.origins;
      const leftMs = new Date(answer.until).getTime() - Date.now() - MINUTE_MS;
      timer = setTimeout(() => runInBackground(ask(id)), Math.max(MINUTE_MS, leftMs));
    } catch (error) {
      notices.problem(error);
    }
  }

  watch(
    () => site.id,
    (id) => {
      clearTimeout(timer);
      if (id !== undefined) runInBackground(ask(id));
    },
    { immediate: true },
  );
  onScopeDispose(() => clearTimeout(timer));
  return origins;
}
