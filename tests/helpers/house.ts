import { mkdtempSync, realpathSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import request from 'supertest';
import { createApp } from '#server/app';
import { readConfig } from '#server/config';
import { buildHouse, type House } from '#server/house';
import { builtModule } from './built.ts';

/** An application of its own in a temporary folder, listening on a free port. */
export interface TestHouse {
  readonly house: House;
  readonly folder: string;
  /** Allowed for photos and outputs. */
  readonly pictures: string;
  readonly api: ReturnType<typeof request.agent>;
  readonly port: number;
  /** Ends the application and leaves its folders. */
  readonly end: () => Promise<void>;
  /** Ends it and removes them. */
  readonly close: () => Promise<void>;
}

export function temporaryFolder(): string {
  return realpathSync(mkdtempSync(join(tmpdir(), 'light-crest-test-')));
}

/** @param places folders of an application that was opened before, to be opened again */
export async function openHouse(
  places: Partial<Pick<TestHouse, 'folder' | 'pictures'>> = {},
): Promise<TestHouse> {
  const folder = places.folder ?? temporaryFolder();
  const pictures = places.pictures ?? temporaryFolder();
  const config = {
    ...readConfig({ LIGHT_CREST_DATA: folder, LIGHT_CREST_FOLDERS: pictures }),
    pageFolder: null,
    imagingProcess: builtModule('imagingProcess'),
    inboxPace: { stillMs: 150, patienceMs: 900, lookEachMs: 40 },
  };
  const house = buildHouse(config, pino({ level: 'silent' }));
  let port = 0;
  const server: Server = createServer(createApp(house, { port: () => port }));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  port = (server.address() as AddressInfo).port;
  const api = request.agent(server);
  // As the server does it when it starts.
  const { queue, imports, lifts } = house;
  house.inboxes.start();
  const takenUp = Promise.all([queue.recover(), imports.recover(), lifts.recover()]);
  const end = async (): Promise<void> => {
    server.closeAllConnections();
    await new Promise((done) => server.close(done));
    await takenUp;
    await house.close();
  };
  const close = async (): Promise<void> => {
    await end();
    rmSync(folder, { recursive: true, force: true });
    rmSync(pictures, { recursive: true, force: true });
  };
  return { house, folder, pictures, api, port, end, close };
}

/** Asks again until the answer is wanted, or gives up. */
export async function until<T>(
  ask: () => Promise<T> | T,
  isWanted: (answer: T) => boolean,
  timeoutMs = 150_000,
): Promise<T> {
  const endMs = Date.now() + timeoutMs;
  for (;;) {
    const answer = await ask();
    if (isWanted(answer)) return answer;
    if (Date.now() > endMs)
      throw new Error(`Gave up waiting; last answer ${JSON.stringify(answer)}`);
    await new Promise((done) => setTimeout(done, 40));
  }
}
