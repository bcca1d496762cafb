/** Sending a zip, with progress, which fetch cannot tell. */
import { importsApi } from '@fastigium/contracts/api/imports';
import { changeHeaders, pathOf, readAnswer } from './client.ts';

export function uploadZip(
  site: string,
  zip: Blob,
  fileName: string,
  on: { progress(sent: number, total: number): void; signal: AbortSignal },
): Promise<{ import: string; job: string }> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', pathOf(importsApi.start, { site }, { fileName }));
    for (const [name, value] of Object.entries(changeHeaders())) request.setRequestHeader(name, value);
    request.setRequestHeader('content-type', 'application/zip');
    request.upload.onprogress = ({ loaded, total }) => on.progress(loaded, total);
    request.onload = () => {
      try {
        resolve(readAnswer(importsApi.start, request.status < 300, request.responseText));
      } catch (error) {
        reject(error as Error);
      }
    };
    request.onerror = () => reject(new Error('The upload broke off. Nothing was kept; drop it again.'));
    request.onabort = () => reject(new Error('The upload was cancelled. Nothing was kept.'));
    on.signal.addEventListener('abort', () => request.abort(), { once: true });
    request.send(zip);
  });
}
