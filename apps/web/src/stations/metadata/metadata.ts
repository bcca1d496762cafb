/** Metadata of the open site, read again whenever the draft changes. */
import type { HeadSettingRequest } from '@fastigium/contracts/decisions/head';
import { metadataApi, type Metadata } from '@fastigium/contracts/api/metadata';
import { shallowRef, type Ref } from 'vue';
import { call } from '../../api/client.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSite } from '../../stores/site.ts';

export function useMetadata(): Readonly<Ref<Metadata | undefined>> {
  const metadata = shallowRef<Metadata>();
  useReadAgain(async (id) => {
    metadata.value = await call(metadataApi.table, { params: { site: id } });
  });
  return metadata;
}

export type NewSetting = Omit<HeadSettingRequest, 'own'> & { readonly own?: 'kept' | 'replaced' | null };

/** Sets lines for the site, branches or pages, all in one step. */
export function useSetHead(): (settings: readonly NewSetting[]) => Promise<boolean> {
  const site = useSite();
  return (settings) => site.decide({ kind: 'head', settings: settings.map((each) => ({ own: null, ...each })) });
}
