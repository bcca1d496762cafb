/** Sending a zip, with progress, which fetch cannot tell. */
import { importsApi } from '@fastigium/contracts/api/imports';
import { readChangeHeaders, writePath, readAnswer, runSignedIn } from './client.ts';
import { say } from './words.ts';

interface Uploading {
  progress(sent: number, total: number): void;
  signal: AbortSignal;
}
type Begun = { import: string; job: string };

export function uploadZip(site: string, zip: Blob, fileName: string, on: Uploading): Promise<Begun> {
  return runSignedIn(() => uploadOnce(site, zip, fileName, on));
}

function uploadOnce(site: string, zip: Blob, fileName: string, on: Uploading): Promise<Begun> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', writePath(importsApi.start, { site }, { fileName }));
    for (const [name, value] of Object.entries(readChangeHeaders())) request.setRequestHeader(name, value);
    request.setRequestHeader('content-type', 'application/zip');
    request.upload.onprogress = ({ loaded, total }) => on.progress(loaded, total);
    request.onload = () => {
      try {
        resolve(readAnswer(importsApi.start, request.status < 300, request.responseText));
      } catch (error) {
        reject(error as Error);
      }
    };
    request.onerror = () => reject(new Error(say('upload.theUploadBrokeOffNothing')));
    request.onabort = () => reject(new Error(say('upload.theUploadWasCancelledNothing')));
    on.signal.addEventListener('abort', () => request.abort(), { once: true });
    request.send(zip);
  });
}
