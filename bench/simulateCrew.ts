import { randomOf } from '../tests/faults/random.ts';

/**
 * Workers beyond what a machine has: passes go through the stations that all of them share (server, Redis,
 * network), each of which serves one after the other, and through the workers' own cores. Times are what was
 * measured for one of each.
 */
export interface CrewModel {
  /** Each makes one photo at a time, and has the next at hand. */
  readonly workers: number;
  readonly photos: number;
  /** Decode, marks and encode of a photo on one core, ms. */
  readonly makeMs: number;
  /** Photos differ: the longest takes this many times as long as the shortest. */
  readonly spread: number;
  /** What the server does for an output, from handing it out to its name, ms. */
  readonly serverMs: number;
  /** What Redis does for a pass, ms. */
  readonly redisMs: number;
  /** Of the source and the output, MB. */
  readonly readMb: number;
  readonly writeMb: number;
  /** Of the network that all of them share, MB a second. */
  readonly networkMbS: number;
  readonly seed: number;
}

export type Station = 'server' | 'redis' | 'network' | 'workers';

export interface CrewForecast {
  readonly seconds: number;
  readonly photosASecond: number;
  /** Share of the time that each was busy. */
  readonly busy: Readonly<Record<Station, number>>;
  /** The busiest of them. */
  readonly limit: Station;
}

/** Passes of a worker: one that is made, and one at hand. */
const AHEAD = 2;
const MS = 1_000;

export function simulateCrew(model: CrewModel): CrewForecast {
  const { workers, photos, networkMbS, spread } = model;
  const random = randomOf(model.seed);
  const free = { server: 0, redis: 0, network: 0 };
  const busy = { server: 0, redis: 0, network: 0, workers: 0 };
  const cores = new Float64Array(workers);
  const use = (station: keyof typeof free, fromMs: number, ms: number): number => {
    const endMs = Math.max(fromMs, free[station]) + ms;
    free[station] = endMs;
    busy[station] += ms;
    return endMs;
  };
  // Uniform between the shortest and the longest, with the mean that was measured.
  const shortestMs = (2 * model.makeMs) / (1 + spread);
  const makeMs = (): number => shortestMs * (1 + random.next() * (spread - 1));

  const passes = new Passes(Math.min(photos, workers * AHEAD), workers);
  let handedOut = passes.size;
  let lastMs = 0;
  for (let pass = passes.take(); pass; pass = passes.take()) {
    const { stage, worker, atMs } = pass;
    switch (stage) {
      case 0:
        // Handed out: half of what the server does for it.
        passes.put(1, worker, use('server', atMs, model.serverMs / 2));
        break;
      case 1:
        passes.put(2, worker, use('redis', atMs, model.redisMs));
        break;
      case 2:
        passes.put(3, worker, use('network', atMs, (model.readMb / networkMbS) * MS));
        break;
      case 3: {
        const ms = makeMs();
        const endMs = Math.max(atMs, cores[worker]) + ms;
        cores[worker] = endMs;
        busy.workers += ms;
        passes.put(4, worker, endMs);
        break;
      }
      case 4:
        passes.put(5, worker, use('network', atMs, (model.writeMb / networkMbS) * MS));
        break;
      default: {
        const endMs = use('server', atMs, model.serverMs / 2);
        lastMs = Math.max(lastMs, endMs);
        if (handedOut < photos) {
          handedOut++;
          passes.put(0, worker, endMs);
        }
      }
    }
  }
  const seconds = lastMs / MS;
  const shares = {
    server: busy.server / lastMs,
    redis: busy.redis / lastMs,
    network: busy.network / lastMs,
    workers: busy.workers / lastMs / workers,
  };
  const [limit] = (Object.keys(shares) as Station[]).sort((a, b) => shares[b] - shares[a]);
  return { seconds, photosASecond: photos / seconds, busy: shares, limit };
}

interface Pass {
  readonly stage: number;
  readonly worker: number;
  readonly atMs: number;
}

/** Passes under way, the one that moves next first: a binary heap. */
class Passes {
  private readonly heap: Pass[] = [];

  constructor(count: number, workers: number) {
    for (let index = 0; index < count; index++) this.put(0, index % workers, 0);
  }

  get size(): number {
    return this.heap.length;
  }

  put(stage: number, worker: number, atMs: number): void {
    const { heap } = this;
    let at = heap.push({ stage, worker, atMs }) - 1;
    while (at > 0) {
      const above = (at - 1) >> 1;
      if (heap[above].atMs <= heap[at].atMs) return;
      [heap[above], heap[at]] = [heap[at], heap[above]];
      at = above;
    }
  }

  take(): Pass | null {
    const { heap } = this;
    const first = heap[0] ?? null;
    const last = heap.pop();
    if (heap.length === 0 || last === undefined) return first;
    heap[0] = last;
    for (let at = 0; ;) {
      const [left, right] = [2 * at + 1, 2 * at + 2];
      let least = at;
      if (left < heap.length && heap[left].atMs < heap[least].atMs) least = left;
      if (right < heap.length && heap[right].atMs < heap[least].atMs) least = right;
      if (least === at) return first;
      [heap[least], heap[at]] = [heap[at], heap[least]];
      at = least;
    }
  }
}
