/** The pages of the open site, read again whenever the draft changes. */
import { draftApi, type PageRow } from '@fastigium/contracts/api/draft';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { ref, shallowRef, watch, type Ref } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';

export interface Pages {
  readonly pages: Readonly<Ref<readonly PageRow[]>>;
  readonly version: Readonly<Ref<number>>;
  readonly style: Readonly<Ref<AnswerOf<typeof draftApi.pages>['style']>>;
}

export function usePages(): Pages {
  const site = useSite();
  const notices = useNotices();
  const pages = shallowRef<readonly PageRow[]>([]);
  const version = ref(0);
  const style = ref<AnswerOf<typeof draftApi.pages>['style']>('imported');
  watch([() => site.id, () => site.tick], async ([id]) => {
    if (id === undefined) return;
    try {
      const answer = await call(draftApi.pages, { params: { site: id } });
      pages.value = answer.pages;
      version.value = answer.version;
      style.value = answer.style;
    } catch (error) {
      notices.problem(error);
    }
  }, { immediate: true });
  return { pages, version, style };
}
