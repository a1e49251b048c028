import { Queue, QueueEvents, type Job } from 'bullmq';
import { queueName, type Ability, type CrewNames } from './crewNames.ts';
import type { RedisAddress } from './redisAddress.ts';

/** What has ended and is asked for by no server any more; and what is not to be made any more. */
export const ENDED_KEPT_S = 7 * 86_400;
const KEPT = { removeOnComplete: { age: ENDED_KEPT_S }, removeOnFail: { age: ENDED_KEPT_S } };
/** What a server that closes waits for its connections. */
const CLOSE_MS = 500;

/** What Redis tells of passes, by their ids. */
export interface LineListener {
  /** @param sealed what the worker said of it */
  readonly ended: (id: string, sealed: unknown) => void;
  /** Something has become of it. */
  readonly look: (id: string) => void;
  readonly warn: (error: unknown) => void;
}

interface Line {
  readonly queue: Queue;
  readonly events: QueueEvents;
}

/** The queues of BullMQ, one for each set of abilities that passes need. */
export class QueueLines {
  private readonly lines = new Map<string, Line>();

  constructor(
    private readonly redis: RedisAddress,
    private readonly names: CrewNames,
    private readonly listener: LineListener,
  ) {}

  async add(needs: readonly Ability[], id: string, sealed: string): Promise<void> {
    await this.of(needs).queue.add('pass', { sealed }, { jobId: id, ...KEPT });
  }

  get(needs: readonly Ability[], id: string): Promise<Job | undefined> {
    return this.of(needs).queue.getJob(id);
  }

  /** @returns whether it was there, and no worker had it */
  async remove(needs: readonly Ability[], id: string): Promise<boolean> {
    return (await this.of(needs).queue.remove(id)) > 0;
  }

  /** Resolves at once with what is there, even where Redis is away. */
  async close(): Promise<void> {
    const left = [...this.lines.values()].flatMap(({ queue, events }) => [
      queue.close(),
      events.close(),
    ]);
    const closed = Promise.all(left).catch(this.listener.warn);
    await Promise.race([closed, new Promise((done) => setTimeout(done, CLOSE_MS))]);
  }

  private of(needs: readonly Ability[]): Line {
    const name = queueName(needs);
    const known = this.lines.get(name);
    if (known) return known;
    const { ended, look, warn } = this.listener;
    const shared = { connection: this.redis, prefix: this.names.prefix };
    const queue = new Queue(name, shared);
    const events = new QueueEvents(name, shared);
    queue.on('error', warn);
    events.on('error', warn);
    events.on('completed', ({ jobId, returnvalue }) => ended(jobId, returnvalue));
    events.on('failed', ({ jobId }) => look(jobId));
    // It was there already, and may have ended before this server asked for it.
    events.on('duplicated', ({ jobId }) => look(jobId));
    const line = { queue, events };
    this.lines.set(name, line);
    return line;
  }
}
