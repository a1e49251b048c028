import type { PhotoView } from '#core/contract/http';
import { ApiError, NOT_REACHED_CODE, TAB, toApiError } from './client.ts';
import { noteAnswer, noteAway } from './connection.ts';

/** A photo that is in the batch; it may have been there before. */
export interface UploadedPhoto {
  readonly photo: PhotoView;
  readonly isAlready: boolean;
}

const CREATED = 201;
const IS_THERE = 200;

/** One file to the server, with progress, which fetch cannot tell. */
export function uploadPhoto(
  batchId: number,
  file: File,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<UploadedPhoto> {
  const query = new URLSearchParams({ name: file.name, modified: String(file.lastModified) });
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const abort = (): void => request.abort();
    request.open('POST', `/api/batches/${batchId}/photos?${query}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.setRequestHeader('Light-Crest-Tab', TAB);
    request.upload.onprogress = (event) => {
      if (event.lengthComputable && event.total > 0) onProgress(event.loaded / event.total);
    };
    request.onload = () => {
      noteAnswer();
      const { status, responseText } = request;
      if (status !== CREATED && status !== IS_THERE) reject(toApiError(responseText, status));
      else {
        const photo = JSON.parse(responseText) as PhotoView;
        resolve({ photo, isAlready: status === IS_THERE });
      }
    };
    request.onerror = () => {
      noteAway();
      const sentence = `${file.name} did not arrive: the server does not answer.`;
      reject(new ApiError(NOT_REACHED_CODE, sentence, {}, 0));
    };
    request.onabort = () => reject(new ApiError('cancelled', `${file.name} was cancelled.`));
    request.onloadend = () => signal.removeEventListener('abort', abort);
    signal.addEventListener('abort', abort);
    if (signal.aborted) request.abort();
    else request.send(file);
  });
}
