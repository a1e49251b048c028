import { mkdirSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { createApp } from '#server/app';
import { takeUpRestore } from '#server/backup/takeUpRestore';
import { readConfig } from '#server/config';
import { buildHouse } from '#server/house';
import { lockData } from '#server/storage/dataLock';
import { CallError } from './exit.ts';

/** The application's own data, as a server gives it. */
export interface OwnData {
  get<T>(path: string): Promise<T>;
  post<T>(path: string, body: unknown): Promise<T>;
  /** What was begun in a server of our own is given up, and taken up by the next; another goes on. */
  close(): Promise<void>;
}

/** The server that has the data open has ended, or is being started again. */
export class NoAnswer extends CallError {
  constructor() {
    super('Light Crest does not answer any more.');
  }
}

const IS_ADDRESS = /^http:\/\/127\.0\.0\.1:\d+$/;

/** By the server that has the data open; where there is none, by one that is there for this call alone. */
export async function openOwnData(): Promise<OwnData> {
  const config = readConfig();
  mkdirSync(config.dataFolder, { recursive: true });
  const lock = lockData(config.dataFolder);
  if ('heldBy' in lock) {
    if (!IS_ADDRESS.test(lock.heldBy)) {
      throw new CallError('Light Crest is just starting. Try again in a moment.');
    }
    return { ...clientOf(lock.heldBy), close: () => Promise.resolve() };
  }
  takeUpRestore(config.dataFolder);
  const house = buildHouse(config, pino({ level: 'silent' }));
  let port = 0;
  const server = createServer(createApp(house, { port: () => port, extraOrigins: [] }));
  await new Promise<void>((ready) => server.listen(0, config.host, ready));
  ({ port } = server.address() as AddressInfo);
  const address = `http://${config.host}:${port}`;
  await lock.setAddress(address);
  await house.queue.recover();
  return {
    ...clientOf(address),
    close: async () => {
      server.close();
      server.closeAllConnections();
      await house.close();
      lock.release();
    },
  };
}

function clientOf(address: string): Pick<OwnData, 'get' | 'post'> {
  const call = async <T>(path: string, init: RequestInit = {}): Promise<T> => {
    const response = await fetch(`${address}/api${path}`, init).catch(() => null);
    // It may end in the middle of an answer.
    const answer: unknown = await response?.json().catch(() => undefined);
    if (!response || answer === undefined) throw new NoAnswer();
    if (!response.ok) throw new CallError((answer as { message: string }).message);
    return answer as T;
  };
  return {
    get: (path) => call(path),
    post: (path, body) =>
      call(path, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      }),
  };
}
