import type { Logger } from 'pino';
import { success, type Result } from '#core/result';
import type { WorkersView } from '#core/contract/http';
import type { RenderPool } from '../imaging/pool/renderPool.ts';
import { PassQueue } from './passQueue.ts';
import { QueuePool } from './queuePool.ts';
import { redisAt } from './redisAddress.ts';
import { Roots } from './roots.ts';
import { ownToken } from './token.ts';

/** What a server is told of workers. */
export interface CrewConfig {
  readonly redis: string;
  /** PEM of the authority of its certificate. */
  readonly redisCa: string | undefined;
  /** `name=folder`, as folders are listed. */
  readonly roots: string;
}

/** The workers that a server hands passes to. */
export interface Crew {
  readonly poolOver: (local: RenderPool) => RenderPool;
  readonly view: () => WorkersView;
  readonly close: () => Promise<void>;
}

export function openCrew(config: CrewConfig, dataFolder: string, log: Logger): Result<Crew> {
  const redis = redisAt(config.redis, config.redisCa);
  if (!redis.ok) return redis;
  const roots = Roots.inText(config.roots);
  if (!roots.ok) return roots;
  const { names } = roots.value;
  const token = ownToken(dataFolder);
  const queue = new PassQueue({ redis: redis.value, token, roots: names, log });
  return success({
    poolOver: (local) => new QueuePool(queue, roots.value, local),
    view: () => ({
      isConnected: queue.isConnected,
      roots: names,
      workers: queue.workers().map((worker) => ({
        ...{ name: worker.name, host: worker.host, jobs: worker.jobs, made: worker.made },
        doing: worker.doing.map(({ photo }) => photo),
        photosAMinute: worker.photosAMinute,
        problem: worker.unfit ?? worker.problem,
        cannot: ['heic', 'untouched'].filter(
          (ability) => !worker.abilities.some((one) => one === ability),
        ),
      })),
    }),
    close: () => queue.close(),
  });
}
