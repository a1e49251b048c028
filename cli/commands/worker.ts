import { hostname, homedir } from 'node:os';
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { photoProcesses } from '#server/imaging/limits';
import { Imaging } from '#server/imaging/pool/imaging';
import { readConfig } from '#server/config';
import { codeVersion } from '#server/workers/codeVersion';
import { redisAt } from '#server/workers/redisAddress';
import { Roots } from '#server/workers/roots';
import { TakingShare } from '#server/workers/storage/share';
import { TakingStore } from '#server/workers/storage/store';
import { openObjects, storeAt, storeName } from '#server/workers/storage/storeAddress';
import { ownToken, readToken } from '#server/workers/token';
import { CallError, EXIT } from '../exit.ts';
import { wholeNumber } from '../wholeNumber.ts';

export interface WorkerOptions {
  readonly jobs?: string;
  readonly name?: string;
  readonly redis?: string;
  readonly root: readonly string[];
  readonly store?: string;
  readonly tokenFile?: string;
  readonly showToken?: boolean;
}

const MOST_JOBS = 64;
const LEASE_MS = 30_000;
const LEAST_LEASE_MS = 500;

/** Makes passes that a server hands out, until it is ended; what it holds then is finished first. */
export async function worker(options: WorkerOptions): Promise<number> {
  const env = process.env;
  const { dataFolder } = readConfig();
  if (options.showToken) {
    mkdirSync(dataFolder, { recursive: true });
    process.stdout.write(`${ownToken(dataFolder)}\n`);
    return EXIT.done;
  }
  const redis = redisAt(options.redis ?? env.LIGHT_CREST_REDIS ?? '', env.LIGHT_CREST_REDIS_CA);
  if (!redis.ok) throw new CallError(`--redis or LIGHT_CREST_REDIS: ${redis.reason}`);
  const roots =
    options.root.length > 0 ? Roots.of(options.root) : Roots.inText(env.LIGHT_CREST_ROOTS ?? '');
  if (!roots.ok) throw new CallError(`--root or LIGHT_CREST_ROOTS: ${roots.reason}`);
  const named = options.store ?? env.LIGHT_CREST_STORE;
  const store = named ? storeAt(named, env) : null;
  if (store?.ok === false) throw new CallError(`--store or LIGHT_CREST_STORE: ${store.reason}`);
  const jobs = wholeNumber('--jobs', options.jobs, photoProcesses(), 1, MOST_JOBS);
  const leaseMs = wholeNumber(
    'LIGHT_CREST_LEASE_MS',
    env.LIGHT_CREST_LEASE_MS,
    LEASE_MS,
    LEAST_LEASE_MS,
    10 * LEASE_MS,
  );
  const name = options.name ?? `${hostname()}-${process.pid}`;
  const { Worker, IN_WORK } = await import('#server/workers/worker');
  const { ownAbilities } = await import('#server/workers/ownAbilities');
  const imaging = new Imaging(undefined, jobs);
  const folder = resolve(env.LIGHT_CREST_CACHE ?? join(homedir(), '.cache', 'light-crest'));
  const objects = store && (await openObjects(store.value));
  const working = new Worker({
    ...{ redis: redis.value, token: tokenOf(options, dataFolder), leaseMs, folder },
    reaches: { roots: roots.value.names, store: store && storeName(store.value) },
    ways: {
      share: new TakingShare(roots.value),
      store: objects && new TakingStore(objects, join(folder, IN_WORK)),
    },
    ...{ name, jobs, version: codeVersion(), abilities: ownAbilities(), imaging },
    tell: (problem) => {
      const said = problem ?? 'the server is there, and photos are made.';
      process.stderr.write(`light-crest: ${said}\n`);
    },
  });
  let end: Promise<void> | null = null;
  const stop = (): void => {
    // Asked twice, it does not wait for what it holds: another worker takes that over.
    if (end) process.exit(EXIT.someFailed);
    end = working.end();
  };
  process.on('SIGINT', stop).on('SIGTERM', stop);
  process.stderr.write(`light-crest: ${name} makes ${jobs} at once. Ctrl+C ends it.\n`);
  try {
    await working.run();
    await end;
    return EXIT.done;
  } finally {
    process.off('SIGINT', stop).off('SIGTERM', stop);
    imaging.close();
    objects?.close();
  }
}

function tokenOf({ tokenFile }: WorkerOptions, dataFolder: string): string {
  const given = process.env.LIGHT_CREST_TOKEN?.trim();
  if (tokenFile === undefined && given) return given;
  try {
    // On the server's own machine its token lies in the data.
    return tokenFile === undefined ? ownToken(dataFolder) : readToken(tokenFile);
  } catch (error) {
    throw new CallError(
      `No token could be read (${(error as Error).message}). The server's machine tells it by "light-crest worker --show-token".`,
    );
  }
}
