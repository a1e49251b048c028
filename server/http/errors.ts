import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';
import type { ErrorAnswer } from '#core/contract/http';

/** An answer that is an error: thrown by routes, turned into JSON by the one handler below. */
export class HttpError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly details: Readonly<Record<string, string>> = {},
  ) {
    super(message);
  }
}

export function notFound(what: string): HttpError {
  return new HttpError(404, 'not-found', `${what} is not there any more.`);
}

export function conflict(message: string): HttpError {
  return new HttpError(409, 'conflict', message);
}

/** It was changed since the version that the request was made to: by another window, mostly. */
export function changedMeanwhile(name: string, version: number): HttpError {
  return new HttpError(409, 'changed', `${name} was changed in another window.`, {
    version: String(version),
  });
}

/** Our own disk does not take it; asked again later, it may. */
export function storageFull(message: string): HttpError {
  return new HttpError(507, 'storage', message);
}

/** What was sent is well-formed but cannot be used. */
export function unusable(message: string): HttpError {
  return new HttpError(422, 'unusable', message);
}

export const unknownRoute: RequestHandler = (request) => {
  throw new HttpError(404, 'not-found', `There is nothing at ${request.path}.`);
};

/** Status of errors that Express and its body parser make themselves. */
function ownStatus(error: unknown): number {
  const status = (error as { status?: unknown } | null)?.status;
  return typeof status === 'number' && status >= 400 && status < 500 ? status : 500;
}

/** What the database and the file system say where our own disk does not take anything. */
const UNWRITABLE_CODE = /^(SQLITE_(FULL|IOERR|READONLY)|ENOSPC|EDQUOT|EROFS)/;
const UNWRITABLE =
  "The disk that holds Light Crest's own data is full or cannot be written. Make room, then try again.";

function isUnwritable(error: unknown): boolean {
  return UNWRITABLE_CODE.test(String((error as { code?: unknown } | null)?.code ?? ''));
}

export function errorHandler(log: Logger): ErrorRequestHandler {
  return (error, request, response, next) => {
    if (response.headersSent) return next(error);
    if (error instanceof HttpError) {
      response.status(error.status).json(answer(error.code, error.message, error.details));
      return;
    }
    const status = ownStatus(error);
    if (status < 500) {
      response.status(status).json(answer('bad-request', (error as Error).message, {}));
      return;
    }
    log.error({ err: error, path: request.path }, 'request failed');
    if (isUnwritable(error)) {
      response.status(507).json(answer('storage', UNWRITABLE, {}));
      return;
    }
    response
      .status(500)
      .json(answer('internal', 'Something went wrong in the server; its log says what.', {}));
  };
}

function answer(
  code: string,
  message: string,
  details: Readonly<Record<string, string>>,
): ErrorAnswer {
  return { code, message, details };
}
