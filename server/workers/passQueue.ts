import { Redis } from 'ioredis';
import type { Logger } from 'pino';
import { newSerial, type CarriedPass } from './carryPass.ts';
import { CalledCrew, type CrewMember } from './calledCrew.ts';
import { ContentOut } from './contents.ts';
import { crewNames, type CrewNames } from './crewNames.ts';
import { OneAtATime } from './oneAtATime.ts';
import { ENDED_KEPT_S, QueueLines } from './queueLines.ts';
import { endIn, type Pending, type QueueEnd } from './pendingPass.ts';
import type { RedisAddress } from './redisAddress.ts';
import { SAID_EACH_MS, type Asked } from './roll.ts';
import { sealOf, type Seal } from './seal.ts';
import { wayOf, type HandingWays } from './storage/ways.ts';

/** A pass that waits for nobody is taken back after this long; a worker may be starting anew. */
const NOBODY_MS = 6_000;
/** A pass that cannot be put into the queue so often is made by the server. */
const MOST_FAILURES = 3;

export interface PassQueueParts {
  readonly redis: RedisAddress;
  readonly token: string;
  /** What workers have to reach. */
  readonly asked: Asked;
  readonly ways: HandingWays;
  readonly log: Logger;
}

/**
 * The server's side of the queues of passes (BullMQ): puts passes in, and learns how they ended. Their ids
 * say what is to be made, so that the same asked for again finds what was made meanwhile. What Redis tells
 * is only believed to be faster than looking: every pending pass is looked at once a second.
 */
export class PassQueue {
  readonly contents: ContentOut;
  private readonly seal: Seal;
  private readonly names: CrewNames;
  private readonly redis: Redis;
  private readonly lines: QueueLines;
  private readonly pending = new Map<string, Pending>();
  private readonly timer: NodeJS.Timeout;
  private readonly crew: CalledCrew;
  private readonly looking = new OneAtATime();
  private isClosed = false;

  constructor(private readonly parts: PassQueueParts) {
    this.seal = sealOf(parts.token);
    this.names = crewNames(this.seal.name);
    this.redis = new Redis(parts.redis);
    this.contents = new ContentOut(this.redis, this.names, this.seal);
    this.lines = new QueueLines(parts.redis, this.names, {
      ended: (id, sealed) => void (this.isEnded(id, sealed) || this.lookAt(id).catch(this.warn)),
      look: (id) => void this.lookAt(id).catch(this.warn),
      warn: this.warn,
    });
    this.crew = new CalledCrew(this.redis, this.names, this.seal, parts.asked);
    this.redis.on('error', this.warn);
    // It may come back with nothing in it.
    this.redis.on('close', () => this.contents.forget());
    this.timer = setInterval(() => void this.look(), SAID_EACH_MS);
    this.timer.unref();
    this.redis.on('ready', () => void this.look());
  }

  /** Workers that are there, each with why it is given nothing, or null. */
  workers(): CrewMember[] {
    return this.crew.members();
  }

  get isConnected(): boolean {
    return this.redis.status === 'ready';
  }

  /** Photos that the workers of the moment make at once. */
  get jobs(): number {
    return this.crew.fit([]).reduce((sum, { jobs }) => sum + jobs, 0);
  }

  /** Resolves when a worker has ended a pass, or none will. */
  ask(carried: CarriedPass, signal?: AbortSignal): Promise<QueueEnd> {
    const { id } = carried;
    return new Promise((resolve) => {
      const abort = (): void => {
        end('aborted');
        // What a server is closed under stays, for the next.
        if (!this.isClosed) this.withdraw(carried).catch(this.warn);
      };
      const end = (how: QueueEnd): void => {
        this.pending.delete(id);
        signal?.removeEventListener('abort', abort);
        resolve(how);
      };
      if (signal?.aborted) {
        resolve('aborted');
        return;
      }
      signal?.addEventListener('abort', abort);
      const putting = new OneAtATime();
      const pending: Pending = {
        ...{ carried, end, putting, serial: null, isFresh: false },
        ...{ failures: 0, nobodySinceMs: null },
      };
      this.pending.set(id, pending);
      void this.put(pending, carried.pass.serial);
    });
  }

  /** Takes an ended pass out of the queue, with what only it needed: asked for again, it is made again. */
  async settle({ id, needs, pass }: CarriedPass): Promise<void> {
    if (!this.isConnected) return;
    try {
      await this.lines.remove(needs, id);
      if (pass.proxy) this.contents.remove(pass.proxy);
      await wayOf(this.parts.ways, pass.source).takeBack(pass.source);
    } catch (error) {
      this.warn(error);
    }
  }

  /** Resolves at once with what is there, even where Redis is away. */
  async close(): Promise<void> {
    this.isClosed = true;
    clearInterval(this.timer);
    await this.lines.close();
    this.redis.disconnect();
  }

  /** Passes put in from now on stay where they are when their signal is aborted. */
  leave(): void {
    this.isClosed = true;
  }

  private readonly warn = (error: unknown): void => {
    this.parts.log.debug({ err: error }, 'the Redis of the workers does not answer');
  };

  /** Never throws: what could not be put is put when it is looked at, or made by this machine. */
  private put(pending: Pending, serial: string): Promise<void> {
    return pending.putting.run(
      () => this.putNow(pending, serial),
      (error) => {
        pending.serial = null;
        this.warn(error);
        if (this.isConnected && ++pending.failures >= MOST_FAILURES) pending.end('nobody');
      },
    );
  }

  private async putNow(pending: Pending, serial: string): Promise<void> {
    const { id, needs, pass, source, contents } = pending.carried;
    await Promise.all([
      wayOf(this.parts.ways, pass.source).offer(pass.source, source),
      ...contents.map((content) => this.contents.offer(content)),
    ]);
    await this.redis.del(this.names.cancelled(id));
    if (this.pending.get(id) !== pending) return;
    const sealed = this.seal.close({ ...pass, serial });
    // Noted first: its end may be told before Redis says that it has it.
    pending.serial = serial;
    pending.isFresh = true;
    await this.lines.add(needs, id, sealed);
  }

  private look(): Promise<void> {
    return this.looking.run(async () => {
      if (this.isClosed) return;
      if (this.isConnected) {
        await this.crew.call();
        await Promise.all([...this.pending.keys()].map((id) => this.lookAgainAt(id)));
      } else {
        this.crew.isAway();
      }
      await this.takeBack();
    }, this.warn);
  }

  /** What Redis tells of the pass as this server put it there needs no look. */
  private isEnded(id: string, sealed: unknown): boolean {
    const pending = this.pending.get(id);
    if (!pending) return true;
    const end = endIn(this.seal, sealed);
    if (end === 'lost' || end.kind !== 'made') return false;
    if (end.serial !== pending.serial || end.stem !== pending.carried.pass.stem) return false;
    pending.end(end);
    return true;
  }

  /** What was put there a moment ago is looked at the next time. */
  private async lookAgainAt(id: string): Promise<void> {
    const pending = this.pending.get(id);
    if (!pending?.isFresh) return this.lookAt(id);
    pending.isFresh = false;
  }

  private async lookAt(id: string): Promise<void> {
    const pending = this.pending.get(id);
    if (!pending) return;
    if (pending.serial === null) return this.put(pending, newSerial());
    const job = await this.lines.get(pending.carried.needs, id);
    if (this.pending.get(id) !== pending) return;
    if (!job) {
      // Redis has lost it, and what belongs to it.
      this.contents.forget();
      pending.serial = null;
      return this.put(pending, newSerial());
    }
    if (job.finishedOn !== undefined) pending.end(endIn(this.seal, job.returnvalue));
  }

  /** Passes for which nobody has been there for a while; one that a worker holds stays. */
  private async takeBack(): Promise<void> {
    const nowMs = performance.now();
    for (const [id, pending] of this.pending) {
      const { needs } = pending.carried;
      if (this.crew.fit(needs).length > 0) {
        pending.nobodySinceMs = null;
        continue;
      }
      pending.nobodySinceMs ??= nowMs;
      if (nowMs - pending.nobodySinceMs < NOBODY_MS) continue;
      const isAway = !this.isConnected;
      const isBack = isAway || (await this.lines.remove(needs, id));
      if (!isBack || this.pending.get(id) !== pending) continue;
      pending.end('nobody');
      // Told when Redis is back: nobody is to make it then.
      if (isAway) this.withdraw(pending.carried).catch(this.warn);
    }
  }

  private async withdraw({ id, needs }: CarriedPass): Promise<void> {
    await this.redis.set(this.names.cancelled(id), '1', 'EX', ENDED_KEPT_S);
    await this.lines.remove(needs, id);
  }
}
