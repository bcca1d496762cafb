/** What is removed from the open site, read again whenever the draft changes. */
import { removalsApi, type RemovalList } from '@fastigium/contracts/api/removals';
import { shallowRef, type Ref } from 'vue';
import { call } from '../../../api/client.ts';
import { useReadAgain } from '../../../stores/readAgain.ts';

export function useRemovals(): Readonly<Ref<RemovalList | undefined>> {
  const list = shallowRef<RemovalList>();
  useReadAgain(async (id) => { list.value = await call(removalsApi.list, { params: { site: id } }); });
  return list;
}
