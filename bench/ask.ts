import type { ServerProcess } from '../tests/helpers/serverProcess.ts';

/** A request to a server that is measured; anything but success is an error. */
export async function ask<T>(
  server: ServerProcess,
  method: string,
  path: string,
  body?: object,
): Promise<T> {
  const isBytes = body instanceof Uint8Array;
  const answer = await fetch(`${server.address}/api${path}`, {
    method,
    headers: { 'Content-Type': isBytes ? 'application/octet-stream' : 'application/json' },
    ...(body === undefined ? {} : { body: isBytes ? body : JSON.stringify(body) }),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return (await answer.json()) as T;
}
