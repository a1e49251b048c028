import { vi } from 'vitest';

/** Answers of a server that is not there, by method and path; what is asked for is noted. */
export interface Asked {
  readonly method: string;
  readonly path: string;
  readonly body: unknown;
  readonly headers: Readonly<Record<string, string>>;
}

type Answer = unknown | ((asked: Asked) => unknown);

/** Thrown by an answer: the line is down. */
export class LineDown extends Error {}

/** Answered instead of a value: a refusal or a failure. */
export class Refusal {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly message: string,
    readonly details: Readonly<Record<string, string>> = {},
  ) {}
}

export function fakeServer(answers: Record<string, Answer>) {
  const asked: Asked[] = [];
  const table = new Map(Object.entries(answers));
  const answer = async (address: string | URL | Request, init: RequestInit = {}) => {
    const path = String(address).replace(/^\/api/, '');
    const method = init.method ?? 'GET';
    const body = typeof init.body === 'string' ? JSON.parse(init.body) : null;
    const request = { method, path, body, headers: init.headers as Record<string, string> };
    asked.push(request);
    const known = table.get(`${method} ${path}`) ?? table.get(`${method} *`);
    const value = await (typeof known === 'function' ? known(request) : known);
    if (value instanceof Refusal) {
      const { status, code, message, details } = value;
      return new Response(JSON.stringify({ code, message, details }), { status });
    }
    if (value === undefined) return new Response(null, { status: 204 });
    return new Response(JSON.stringify(value), { status: 200 });
  };
  vi.stubGlobal(
    'fetch',
    vi.fn((address: string, init?: RequestInit) => answer(address, init)),
  );
  return {
    asked,
    of: (method: string, path: string) =>
      asked.filter((request) => request.method === method && request.path === path),
    set: (request: string, value: Answer) => void table.set(request, value),
    isDown: () => {
      throw new LineDown();
    },
  };
}

/** An answer that is given when the test wants it. */
export function later<T>() {
  let give: (value: T) => void = () => undefined;
  const promise = new Promise<T>((done) => (give = done));
  return { promise, give: (value: T) => give(value) };
}
