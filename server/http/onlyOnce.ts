import { createHash } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import type { StoredAnswer } from '../db/answers.ts';
import type { Tables } from '../db/tables.ts';
import { HttpError } from './errors.ts';

/**
 * Requests that make something may carry an `Idempotency-Key` (IETF draft of that name): one that comes
 * twice, since its answer was lost or somebody clicked again, is answered alike and makes nothing anew.
 * Refusals are not kept: what stood in the way may be gone when it is asked again.
 */
const KEY_HEADER = 'Idempotency-Key';
const KEY = /^[\x21-\x7e]{8,200}$/;

/** Where the request's answer is kept before it is sent, by those who can do so with what they make. */
const KEEP = 'keepAnswer';

type KeepAnswer = (status: number, body: unknown) => void;

export function onlyOnce({ answers }: Pick<Tables, 'answers'>, log: Logger): RequestHandler {
  /** Requests that are being answered, by key. */
  const underWay = new Map<string, Promise<void>>();

  return async (request, response, next) => {
    const key = request.get(KEY_HEADER);
    if (request.method !== 'POST' || key === undefined) return next();
    if (!KEY.test(key)) {
      throw new HttpError(400, 'invalid', `Expected a ${KEY_HEADER} of 8 to 200 characters.`);
    }
    const about = `${request.originalUrl} ${bodyHash(request.body)}`;
    while (underWay.has(key)) await underWay.get(key);
    const known = answers.get(key);
    if (known) return replay(known, about, response);
    let settle = (): void => undefined;
    underWay.set(key, new Promise((done) => (settle = done)));
    const keep: KeepAnswer = (status, body) =>
      answers.put(key, { request: about, status, body: JSON.stringify(body ?? null) });
    let isKept = false;
    response.locals[KEEP] = ((status, body) => {
      keep(status, body);
      isKept = true;
    }) satisfies KeepAnswer;
    const json = response.json.bind(response);
    response.json = (body: unknown) => {
      try {
        if (!isKept && response.statusCode < 300) keep(response.statusCode, body);
      } catch (error) {
        log.error({ err: error }, 'an answer could not be kept');
      }
      return json(body);
    };
    const end = response.end.bind(response) as (...values: unknown[]) => Response;
    response.end = ((...values: unknown[]) => {
      underWay.delete(key);
      settle();
      return end(...values);
    }) as typeof response.end;
    next();
  };
}

/** Makes something and keeps the answer with it, both or neither; then sends it. */
export function sendMade<T>(
  response: Response,
  { together }: Pick<Tables, 'together'>,
  make: () => T,
): void {
  const CREATED = 201;
  const body = together(() => {
    const made = make();
    (response.locals[KEEP] as KeepAnswer | undefined)?.(CREATED, made);
    return made;
  });
  response.status(CREATED).json(body);
}

function replay(known: StoredAnswer, about: string, response: Response): void {
  if (known.request !== about) {
    throw new HttpError(422, 'unusable', `That ${KEY_HEADER} was used for another request.`);
  }
  response.status(known.status).type('json').send(known.body);
}

/** Bodies that are no JSON are read later, by their own routes. */
function bodyHash(body: unknown): string {
  return createHash('sha256')
    .update(JSON.stringify(body ?? null))
    .digest('hex');
}
