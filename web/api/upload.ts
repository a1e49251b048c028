import type { PhotoView } from '#core/contract/http';
import { ApiError, toApiError } from './client.ts';

/** One file to the server, with progress, which fetch cannot tell. */
export function uploadPhoto(
  batchId: number,
  file: File,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<PhotoView> {
  const query = new URLSearchParams({ name: file.name, modified: String(file.lastModified) });
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const abort = (): void => request.abort();
    request.open('POST', `/api/batches/${batchId}/photos?${query}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.upload.onprogress = (event) => {
      if (event.lengthComputable && event.total > 0) onProgress(event.loaded / event.total);
    };
    request.onload = () => {
      if (request.status === 201) resolve(JSON.parse(request.responseText) as PhotoView);
      else reject(toApiError(request.responseText));
    };
    request.onerror = () =>
      reject(
        new ApiError('not-reached', `${file.name} did not arrive: the server does not answer.`),
      );
    request.onabort = () => reject(new ApiError('cancelled', `${file.name} was cancelled.`));
    request.onloadend = () => signal.removeEventListener('abort', abort);
    signal.addEventListener('abort', abort);
    if (signal.aborted) request.abort();
    else request.send(file);
  });
}
