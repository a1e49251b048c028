import type { Logger } from 'pino';
import { success, type Result } from '#core/result';
import type { WorkersView } from '#core/contract/http';
import type { RenderPool } from '../imaging/pool/renderPool.ts';
import { PassQueue } from './passQueue.ts';
import { QueuePool } from './queuePool.ts';
import { redisAt } from './redisAddress.ts';
import { Roots } from './roots.ts';
import { HandingShare } from './storage/share.ts';
import { HandingStore } from './storage/store.ts';
import { openObjects, storeAt, storeName } from './storage/storeAddress.ts';
import { ownToken } from './token.ts';

/** What a server is told of workers. */
export interface CrewConfig {
  readonly redis: string;
  /** PEM of the authority of its certificate. */
  readonly redisCa: string | undefined;
  /** `name=folder`, as folders are listed. */
  readonly roots: string;
  /** `s3://bucket/prefix` for what lies below no root. */
  readonly store: string | undefined;
}

/** The workers that a server hands passes to. */
export interface Crew {
  readonly poolOver: (local: RenderPool) => RenderPool;
  readonly view: () => WorkersView;
  readonly close: () => Promise<void>;
}

export async function openCrew(
  config: CrewConfig,
  dataFolder: string,
  log: Logger,
): Promise<Result<Crew>> {
  const redis = redisAt(config.redis, config.redisCa);
  if (!redis.ok) return redis;
  const roots = Roots.inText(config.roots);
  if (!roots.ok) return roots;
  const { names } = roots.value;
  const store = config.store ? storeAt(config.store, process.env) : null;
  if (store?.ok === false) return store;
  const objects = store && (await openObjects(store.value));
  const ways = {
    share: new HandingShare(roots.value),
    store: objects && new HandingStore(objects),
  };
  const asked = { roots: names, store: store && storeName(store.value) };
  const token = ownToken(dataFolder);
  const queue = new PassQueue({ redis: redis.value, token, asked, ways, log });
  return success({
    poolOver: (local) => new QueuePool(queue, ways, local),
    view: () => ({
      isConnected: queue.isConnected,
      ...asked,
      storeProblem: ways.store && ways.store.problem,
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
    close: async () => {
      await queue.close();
      objects?.close();
    },
  });
}
