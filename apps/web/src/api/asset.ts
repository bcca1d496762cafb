/** Adding a file to the draft. */
import { pagesApi } from '@fastigium/contracts/api/pages';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { changeHeaders, pathOf, readAnswer } from './client.ts';

export async function addAsset(site: string, file: File, folder: string, version: number): Promise<AnswerOf<typeof pagesApi.addAsset>> {
  const response = await fetch(pathOf(pagesApi.addAsset, { site }, { fileName: file.name, folder, version: String(version) }), {
    method: 'POST', headers: { ...changeHeaders(), 'content-type': 'application/octet-stream' }, body: file,
  });
  return readAnswer(pagesApi.addAsset, response.ok, await response.text());
}
