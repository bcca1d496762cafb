/** The pages of the open site, read again whenever the draft changes. */
import type { draftApi, PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { ref, shallowRef, type Ref } from 'vue';
import { callLarge } from '../../api/large.ts';
import { useReadAgain } from '../../stores/readAgain.ts';

export interface Pages {
  /** False until they have been read once: a large site takes a moment. */
  readonly isRead: Readonly<Ref<boolean>>;
  readonly pages: Readonly<Ref<readonly PageRow[]>>;
  readonly removed: Readonly<Ref<readonly RemovedRow[]>>;
  readonly version: Readonly<Ref<number>>;
  readonly style: Readonly<Ref<AnswerOf<typeof draftApi.pages>['style']>>;
}

export function usePages(): Pages {
  const isRead = ref(false);
  const pages = shallowRef<readonly PageRow[]>([]);
  const removed = shallowRef<readonly RemovedRow[]>([]);
  const version = ref(0);
  const style = ref<AnswerOf<typeof draftApi.pages>['style']>('imported');
  useReadAgain(async (id) => {
    const answer = await callLarge('draft', 'pages', { site: id }, 'pages');
    pages.value = answer.pages;
    removed.value = answer.removed;
    version.value = answer.version;
    style.value = answer.style;
    isRead.value = true;
  });
  return { isRead, pages, removed, version, style };
}
