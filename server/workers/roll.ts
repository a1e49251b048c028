import type { Redis } from 'ioredis';
import type { Ability, CrewNames } from './crewNames.ts';
import type { Seal } from './seal.ts';

/** Who is there: each worker says so again and again, and the server says what it asks of them. */

export interface RollEntry {
  readonly name: string;
  readonly host: string;
  readonly version: string;
  readonly abilities: readonly Ability[];
  readonly roots: readonly string[];
  /** The store that it reaches. */
  readonly store: string | null;
  /** Photos at once. */
  readonly jobs: number;
  readonly doing: readonly { readonly photo: string; readonly sinceMs: number }[];
  /** Outputs since it started. */
  readonly made: number;
  /** Photos in the last minute. */
  readonly photosAMinute: number;
  /** What keeps it from working, as it sees it; or null. */
  readonly problem: string | null;
}

/** What a worker has to reach. */
export interface Asked {
  readonly roots: readonly string[];
  /** `s3://bucket/prefix/`, or null. */
  readonly store: string | null;
}

export interface ServerEntry extends Asked {
  readonly version: string;
}

export const SAID_EACH_MS = 1_000;
/** Who has said nothing for this long is not there. */
const GONE_AFTER_MS = 8_000;

export async function sayServer(
  redis: Redis,
  names: CrewNames,
  seal: Seal,
  entry: ServerEntry,
): Promise<void> {
  await redis.set(names.server, seal.close(entry));
}

export async function serverSays(
  redis: Redis,
  names: CrewNames,
  seal: Seal,
): Promise<ServerEntry | null> {
  const sealed = await redis.get(names.server);
  return sealed === null ? null : (seal.open(sealed) as ServerEntry);
}

export async function sayHere(
  redis: Redis,
  names: CrewNames,
  seal: Seal,
  entry: RollEntry,
): Promise<void> {
  // Apart, not as one transaction: one that a broken connection cuts is answered never.
  await redis.set(names.worker(entry.name), seal.close(entry), 'PX', GONE_AFTER_MS);
  await redis.sadd(names.roll, entry.name);
}

export async function sayGone(redis: Redis, names: CrewNames, name: string): Promise<void> {
  await redis.srem(names.roll, name);
  await redis.del(names.worker(name));
}

/** All workers that are there, by name. */
export async function calledRoll(redis: Redis, names: CrewNames, seal: Seal): Promise<RollEntry[]> {
  const known = (await redis.smembers(names.roll)).sort();
  if (known.length === 0) return [];
  const said = await redis.mget(known.map((name) => names.worker(name)));
  const gone = known.filter((_, index) => said[index] === null);
  if (gone.length > 0) await redis.srem(names.roll, ...gone);
  return said.flatMap((sealed) => {
    try {
      return sealed === null ? [] : [seal.open(sealed) as RollEntry];
    } catch {
      // Not one of ours.
      return [];
    }
  });
}

/** Why a worker is given nothing, or null. */
export function unfitReason(
  worker: Pick<RollEntry, 'version' | 'roots' | 'store'>,
  server: ServerEntry,
): string | null {
  if (worker.version !== server.version) {
    return 'It has another version of Light Crest than the server, and is given nothing until both are the same.';
  }
  const missing = server.roots.filter((root) => !worker.roots.includes(root));
  if (missing.length > 0) {
    return `It does not say where ${missing.join(', ')} lies (--root ${missing[0]}=folder), and is given nothing.`;
  }
  if (server.store === null || worker.store === server.store) return null;
  return `It does not reach ${server.store} (--store ${server.store}), and is given nothing.`;
}
