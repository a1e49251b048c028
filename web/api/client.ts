import type { ErrorAnswer } from '#core/contract/http';

/** The server said no; `message` is a sentence that can be shown as it is. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly details: Readonly<Record<string, string>> = {},
  ) {
    super(message);
  }
}

/** The server is not there, or does not answer as itself: it may a little later. */
export const NOT_REACHED_CODE = 'not-reached';
const NOT_REACHED = 'The server does not answer. Is Light Crest still running?';

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  const isBytes = body instanceof Blob;
  const init: RequestInit = { method };
  if (body !== undefined) {
    init.body = isBytes ? body : JSON.stringify(body);
    init.headers = { 'Content-Type': isBytes ? 'application/octet-stream' : 'application/json' };
  }
  let response: Response;
  try {
    response = await fetch(`/api${path}`, init);
  } catch {
    throw new ApiError(NOT_REACHED_CODE, NOT_REACHED);
  }
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as T;
  throw toApiError(await response.text());
}

/** The error in an answer's text; a proxy or a crash may have answered something else. */
export function toApiError(text: string): ApiError {
  try {
    const { code, message, details } = JSON.parse(text) as ErrorAnswer;
    return new ApiError(code, message, details);
  } catch {
    return new ApiError(NOT_REACHED_CODE, NOT_REACHED);
  }
}

export const api = {
  get: <T>(path: string) => call<T>('GET', path),
  post: <T>(path: string, body?: unknown) => call<T>('POST', path, body),
  put: <T>(path: string, body: unknown) => call<T>('PUT', path, body),
  patch: <T>(path: string, body: unknown) => call<T>('PATCH', path, body),
  delete: (path: string) => call<undefined>('DELETE', path),
};

/** The sentence of whatever was thrown. */
export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
