import type { ErrorAnswer } from '#core/contract/http';
import { noteAnswer, noteAway } from './connection.ts';
import { requestKey } from './requestKeys.ts';

/** The server said no; `message` is a sentence that can be shown as it is. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly details: Readonly<Record<string, string>> = {},
    /** Of HTTP; 0 where there was no answer. */
    readonly status = 400,
  ) {
    super(message);
  }
}

/** The server is not there, or does not answer as itself: it may a little later. */
export const NOT_REACHED_CODE = 'not-reached';
const NOT_REACHED = 'The server does not answer. Is Light Crest still running?';

/** Something else was saved since the version that a change was made to. */
export const CHANGED_CODE = 'changed';

const FIRST_SERVER_ERROR = 500;

/** Asked again, it may succeed: the server is away, or failed itself. A refusal would come again. */
export function isTemporary(error: unknown): boolean {
  if (!(error instanceof ApiError)) return true;
  return error.code === NOT_REACHED_CODE || error.status >= FIRST_SERVER_ERROR;
}

/** The name of this window, by which it knows what it changed itself. */
export const TAB = Math.random().toString(36).slice(2);

export interface CallOptions {
  /** The answer is not wanted any more. */
  readonly signal?: AbortSignal;
  /** Goes on though the page is being closed. */
  readonly keepalive?: boolean;
}

async function call<T>(
  method: string,
  path: string,
  body?: unknown,
  options: CallOptions = {},
): Promise<T> {
  const response = await answered(method, path, body, options);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

async function answered(
  method: string,
  path: string,
  body: unknown,
  { keepalive = false, signal }: CallOptions,
): Promise<Response> {
  const isBytes = body instanceof Blob;
  const headers: Record<string, string> = { 'Light-Crest-Tab': TAB };
  const init: RequestInit = { method, headers, keepalive };
  if (signal) init.signal = signal;
  if (body !== undefined) {
    init.body = isBytes ? body : JSON.stringify(body);
    headers['Content-Type'] = isBytes ? 'application/octet-stream' : 'application/json';
  }
  const key = method === 'POST' ? requestKey(path, init.body) : null;
  if (key) headers['Idempotency-Key'] = key.value;
  let response: Response;
  try {
    response = await fetch(`/api${path}`, init);
  } catch (error) {
    if (signal?.aborted) throw error;
    // The answer may have been lost on its way: the same wish keeps its key.
    noteAway();
    throw notReached();
  }
  if (response.ok) {
    noteAnswer();
    key?.done();
    return response;
  }
  const error = toApiError(await response.text(), response.status);
  if (error.code === NOT_REACHED_CODE) noteAway();
  else noteAnswer();
  if (!isTemporary(error)) key?.done();
  throw error;
}

function notReached(): ApiError {
  return new ApiError(NOT_REACHED_CODE, NOT_REACHED, {}, 0);
}

/** The error in an answer's text; a proxy or a crash may have answered something else. */
export function toApiError(text: string, status = 400): ApiError {
  try {
    const { code, message, details } = JSON.parse(text) as ErrorAnswer;
    return new ApiError(code, message, details, status);
  } catch {
    return notReached();
  }
}

export const api = {
  get: <T>(path: string, options?: CallOptions) => call<T>('GET', path, undefined, options),
  post: <T>(path: string, body?: unknown) => call<T>('POST', path, body),
  /** @returns bytes of a picture */
  picture: async (path: string, body: unknown, signal: AbortSignal): Promise<Blob> =>
    (await answered('POST', path, body, { signal })).blob(),
  put: <T>(path: string, body: unknown, options?: CallOptions) =>
    call<T>('PUT', path, body, options),
  patch: <T>(path: string, body: unknown, options?: CallOptions) =>
    call<T>('PATCH', path, body, options),
  delete: (path: string) => call<undefined>('DELETE', path),
};

/** The sentence of whatever was thrown. */
export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
