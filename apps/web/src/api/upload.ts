/** Sending what is large, with progress, which fetch cannot tell. */
import { importsApi } from '@fastigium/contracts/api/imports';
import type { AnswerOf, Endpoint } from '@fastigium/contracts/endpoint';
import { readChangeHeaders, writePath, readAnswer, runSignedIn } from './client.ts';
import { say } from './words.ts';

export interface Uploading {
  progress(sent: number, total: number): void;
  signal: AbortSignal;
}
type Begun = { import: string; job: string };

export function uploadZip(site: string, zip: Blob, fileName: string, on: Uploading): Promise<Begun> {
  return sendLargeFile(importsApi.start, { site }, { fileName }, zip, on);
}

export function sendLargeFile<E extends Endpoint>(
  endpoint: E,
  params: unknown,
  query: Record<string, string>,
  file: Blob,
  on: Uploading,
): Promise<AnswerOf<E>> {
  return runSignedIn(() => sendOnce(endpoint, writePath(endpoint, params, query), file, on));
}

function sendOnce<E extends Endpoint>(endpoint: E, path: string, file: Blob, on: Uploading): Promise<AnswerOf<E>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', path);
    for (const [name, value] of Object.entries(readChangeHeaders())) request.setRequestHeader(name, value);
    request.setRequestHeader('content-type', endpoint.streams ?? 'application/octet-stream');
    request.upload.onprogress = ({ loaded, total }) => on.progress(loaded, total);
    request.onload = () => {
      try {
        resolve(readAnswer(endpoint, request.status < 300, request.responseText));
      } catch (error) {
        reject(error as Error);
      }
    };
    request.onerror = () => reject(new Error(say('upload.theUploadBrokeOffNothing')));
    request.onabort = () => reject(new Error(say('upload.theUploadWasCancelledNothing')));
    on.signal.addEventListener('abort', () => request.abort(), { once: true });
    request.send(file);
  });
}
