/** What is removed from the open site, read again whenever the draft changes. */
import type { RemovalList } from '@fastigium/contracts/api/removals';
import { shallowRef, type Ref } from 'vue';
import { callLarge } from '../../../api/large.ts';
import { useReadAgain } from '../../../stores/readAgain.ts';

export function useRemovals(): Readonly<Ref<RemovalList | undefined>> {
  const list = shallowRef<RemovalList>();
  useReadAgain(async (id) => {
    list.value = await callLarge('removals', 'list', { site: id }, 'rows');
  });
  return list;
}
