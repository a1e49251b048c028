import { randomBytes } from 'node:crypto';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { Worker as QueueWorker, type Job } from 'bullmq';
import { Redis } from 'ioredis';
import type { RenderPool } from '../imaging/pool/renderPool.ts';
import { ContentIn } from './contents.ts';
import { crewNames, queuesFor, type Ability, type CrewNames } from './crewNames.ts';
import { Lease } from './lease.ts';
import { OneAtATime } from './oneAtATime.ts';
import { makePass, removeMade, type MakingParts } from './makePass.ts';
import type { PassEnd, PassJob } from './passJob.ts';
import { PixelRoom } from './pixelRoom.ts';
import type { RedisAddress } from './redisAddress.ts';
import {
  SAID_EACH_MS,
  sayGone,
  sayHere,
  serverSays,
  unfitReason,
  type Asked,
  type RollEntry,
} from './roll.ts';
import { sealOf, type Seal } from './seal.ts';
import { sweepCache } from './sweepCache.ts';
import type { TakingWays } from './storage/ways.ts';

export interface WorkerParts {
  readonly redis: RedisAddress;
  readonly token: string;
  readonly name: string;
  /** Of the program. */
  readonly version: string;
  /** Photos at once. */
  readonly jobs: number;
  /** What it reaches. */
  readonly reaches: Asked;
  readonly ways: TakingWays;
  readonly abilities: readonly Ability[];
  /** For what has travelled here. */
  readonly folder: string;
  readonly imaging: RenderPool;
  /** How long a pass is held without a sign of life. */
  readonly leaseMs: number;
  /** Told of a change of what keeps it from working. */
  readonly tell: (problem: string | null) => void;
}

/** Below the folder of a worker: photos and outputs that came by a store and go by it. */
export const IN_WORK = 'in-work';

/** Looks for a pass this often while there is none. */
const LOOK_EACH_MS = 250;
/** After this long without an answer it asks again. */
const TAKE_MS = 20_000;
/** After it refused a pass it lets others come first. */
const REST_MS = 3_000;
/** So often a pass may be under a worker that ends, before it is made by the server itself. */
const MOST_STALLS = 6;
const MINUTE_MS = 60_000;

/** Takes passes from the queues and makes them, until it is ended. */
export class Worker {
  private readonly seal: Seal;
  private readonly names: CrewNames;
  private readonly redis: Redis;
  private readonly queues: QueueWorker[];
  private readonly making: MakingParts;
  private readonly room = new PixelRoom();
  private readonly inWork = new Map<string, { readonly photo: string; readonly sinceMs: number }>();
  private readonly works = new Set<Promise<void>>();
  private readonly endedMs: number[] = [];
  private made = 0;
  private problem: string | null = 'It has not heard of the server yet.';
  private restUntilMs = 0;
  private readonly saying = new OneAtATime();
  private isEnding = false;
  private tellEnding: () => void = () => undefined;
  private readonly ending = new Promise<void>((ends) => (this.tellEnding = ends));
  private timer: NodeJS.Timeout | null = null;

  constructor(private readonly parts: WorkerParts) {
    const { token, redis, leaseMs, abilities, ways, folder, imaging, name } = parts;
    this.seal = sealOf(token);
    this.names = crewNames(this.seal.name);
    this.redis = new Redis(redis);
    this.redis.on('error', () => undefined);
    const kept = join(folder, this.seal.name);
    void sweepCache([kept, join(folder, IN_WORK)]);
    const contents = new ContentIn(kept, this.redis, this.names, this.seal);
    this.making = { worker: name, ways, contents, folder, imaging };
    this.queues = queuesFor(abilities).map((queue) => {
      const worker = new QueueWorker(queue, null, {
        ...{ connection: redis, prefix: this.names.prefix, autorun: false },
        ...{ lockDuration: leaseMs, stalledInterval: leaseMs / 2, maxStalledCount: MOST_STALLS },
      });
      worker.on('error', () => undefined);
      return worker;
    });
  }

  /** Resolves when it was ended and what it held is finished. */
  async run(): Promise<void> {
    this.timer = setInterval(() => this.say(), SAID_EACH_MS);
    this.say();
    for (const queue of this.queues) queue.startStalledCheckTimer().catch(() => undefined);
    while (!this.isEnding) {
      // A Redis that is away answers nothing, and the end comes all the same.
      const hasTaken = await Promise.race([
        this.takeNext().catch(() => false),
        ...[this.ending, delay(TAKE_MS, false, { ref: false })],
      ]);
      if (!hasTaken) await Promise.race([delay(LOOK_EACH_MS), this.ending]);
    }
    await Promise.all(this.works);
  }

  /** Takes no more; what it holds is finished. */
  async end(): Promise<void> {
    this.isEnding = true;
    this.tellEnding();
    await Promise.all(this.works);
    if (this.timer) clearInterval(this.timer);
    await Promise.race([
      sayGone(this.redis, this.names, this.parts.name).catch(() => undefined),
      new Promise((done) => setTimeout(done, SAID_EACH_MS)),
    ]);
    for (const queue of this.queues) void queue.close(true).catch(() => undefined);
    this.redis.disconnect();
  }

  /** Redis may be away: it is said again. */
  private say(): void {
    void this.saying.run(
      () => this.sayNow(),
      () => undefined,
    );
  }

  private async sayNow(): Promise<void> {
    const { name, jobs, reaches, abilities, version } = this.parts;
    const nowMs = Date.now();
    while (this.endedMs.length > 0 && this.endedMs[0] < nowMs - MINUTE_MS) this.endedMs.shift();
    const entry: RollEntry = {
      ...{ name, jobs, abilities, host: hostname(), version, ...reaches },
      doing: [...this.inWork.values()],
      ...{ made: this.made, photosAMinute: this.endedMs.length, problem: this.problem },
    };
    const server = await serverSays(this.redis, this.names, this.seal);
    const unfit = server ? unfitReason(entry, server) : 'It has not heard of the server yet.';
    if (nowMs > this.restUntilMs) this.note(unfit);
    await sayHere(this.redis, this.names, this.seal, { ...entry, problem: this.problem });
  }

  private note(problem: string | null): void {
    if (problem === this.problem) return;
    this.problem = problem;
    this.parts.tell(problem);
  }

  /** @returns whether a pass was there to be taken */
  private async takeNext(): Promise<boolean> {
    if (this.problem !== null || this.works.size >= this.parts.jobs) return false;
    for (const queue of this.queues) {
      const token = `${this.parts.name}-${randomBytes(8).toString('hex')}`;
      const job = await queue.getNextJob(token, { block: false });
      if (!job) continue;
      // One that came too late for this worker is another's when its lease has run out.
      if (this.isEnding) return false;
      const work: Promise<void> = this.work(job, token)
        .catch(() => undefined)
        .finally(() => this.works.delete(work));
      this.works.add(work);
      return true;
    }
    return false;
  }

  private async work(job: Job, token: string): Promise<void> {
    const id = job.id ?? '';
    const { leaseMs, ways } = this.parts;
    const isCancelled = async () => (await this.redis.exists(this.names.cancelled(id))) === 1;
    const lease = new Lease(job, token, leaseMs, isCancelled);
    try {
      const pass = this.opened(job);
      if (!pass) {
        // Whoever put it there has not the token.
        await job.moveToFailed(new Error('It is not sealed by the token.'), token, false);
        return;
      }
      const photo = pass.job.named.name;
      this.inWork.set(id, { photo, sinceMs: Date.now() });
      const release = await this.room.take(pass.pixels);
      const end = await makePass(pass, lease.fence, lease.lost.signal, this.making).finally(
        release,
      );
      if (end.kind === 'refused') this.rest(end.reason);
      const isOurs = await Promise.race([
        this.tellEnd(job, token, end, isCancelled),
        lease.untilLost,
      ]);
      if (!isOurs) await removeMade(pass, lease.fence, ways);
      else if (end.kind === 'made') this.count(end);
    } finally {
      lease.end();
      this.inWork.delete(id);
    }
  }

  private opened(job: Job): PassJob | null {
    try {
      return this.seal.open((job.data as { sealed: string }).sealed) as PassJob;
    } catch {
      return null;
    }
  }

  /** @returns whether it still had the pass */
  private async tellEnd(
    job: Job,
    token: string,
    end: PassEnd,
    isCancelled: () => Promise<boolean>,
  ): Promise<boolean> {
    try {
      if (await isCancelled()) return false;
      await job.moveToCompleted(this.seal.close(end), token, false);
      return true;
    } catch {
      // Redis says that the lease is another's, or knows nothing of it any more.
      return false;
    }
  }

  private count({ results }: PassEnd & { kind: 'made' }): void {
    this.made += results.filter(({ ok }) => ok).length;
    this.endedMs.push(Date.now());
  }

  private rest(reason: string): void {
    this.restUntilMs = Date.now() + REST_MS;
    this.note(reason);
  }
}
