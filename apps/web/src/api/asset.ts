/** Sending one file to an endpoint that takes it as it is. */
import { pagesApi } from '@fastigium/contracts/api/pages';
import type { AnswerOf, Endpoint } from '@fastigium/contracts/endpoint';
import { readChangeHeaders, writePath, readAnswer, runSignedIn } from './client.ts';

export function sendFile<E extends Endpoint>(
  endpoint: E,
  params: unknown,
  query: Record<string, string> | undefined,
  file: Blob,
): Promise<AnswerOf<E>> {
  return runSignedIn(async () => {
    const response = await fetch(writePath(endpoint, params, query), {
      method: 'POST',
      headers: { ...readChangeHeaders(), 'content-type': endpoint.streams ?? 'application/octet-stream' },
      body: file,
    });
    return readAnswer(endpoint, response.ok, await response.text());
  });
}

/** Adds a file to the draft. */
export function addAsset(
  site: string,
  file: File,
  folder: string,
  version: number,
): Promise<AnswerOf<typeof pagesApi.addAsset>> {
  return sendFile(pagesApi.addAsset, { site }, { fileName: file.name, folder, version: String(version) }, file);
}
