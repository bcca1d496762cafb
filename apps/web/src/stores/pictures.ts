/** Pictures of the open site's pages: of the draft as it stands, and of what is live. */
import { picturesApi, type Pictures } from '@fastigium/contracts/api/pictures';
import { listCandidateFiles, findFileOfAddress } from '@fastigium/core/address';
import { defineStore } from 'pinia';
import { shallowRef, watch } from 'vue';
import { call, writePath } from '../api/client.ts';
import { useSite } from './site.ts';

export const usePictures = defineStore('pictures', () => {
  const site = useSite();
  const pictures = shallowRef<Pictures>({ draft: {}, live: {} });

  watch(
    [() => site.id, () => site.versions.pictures, () => site.overview?.live?.number],
    async ([id], [before]) => {
      if (id !== before) pictures.value = { draft: {}, live: {} };
      if (id === undefined) return;
      // Without pictures everything still works, so a failure is nothing to be told of.
      const next = await call(picturesApi.list, { params: { site: id } }).catch(() => undefined);
      if (next && site.id === id) pictures.value = next;
    },
    { immediate: true },
  );

  /** Where the picture of a published file's page is; undefined where there is none. */
  function ofFile(which: keyof Pictures, path: string): string | undefined {
    const picture = pictures.value[which][path];
    return picture === undefined || site.id === undefined
      ? undefined
      : writePath(picturesApi.picture, { site: site.id, picture });
  }

  function ofAddress(which: keyof Pictures, address: string): string | undefined {
    const file = [findFileOfAddress(address) ?? '', ...listCandidateFiles(address)].find(
      (path) => pictures.value[which][path] !== undefined,
    );
    return file === undefined ? undefined : ofFile(which, file);
  }

  return { ofFile, ofAddress };
});
