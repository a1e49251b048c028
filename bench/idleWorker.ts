import { writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { success } from '#core/result';
import type { RenderPool } from '#server/imaging/pool/renderPool';
import { redisAt } from '#server/workers/redisAddress';
import { Roots } from '#server/workers/roots';
import { TakingShare } from '#server/workers/storage/share';
import { Worker } from '#server/workers/worker';

/** `node --import tsx bench/idleWorker.ts NAME REDIS TOKEN ROOT CACHE JOBS`: a worker whose photos cost nothing. */

const [name, address, token, root, cache, jobs] = process.argv.slice(2);
const redis = redisAt(address);
const roots = Roots.of([root]);
if (!redis.ok || !roots.ok) throw new Error('Expected a Redis and a root.');

const BYTES = Buffer.from('no picture');
const imaging = {
  render: (job) =>
    Promise.all(
      job.outputs.map(async ({ temporaryPath }) => {
        await writeFile(temporaryPath, BYTES);
        const frame = { width: 1, height: 1 };
        const none = { marks: [], yearFromFile: null, note: null, readBack: null };
        return success({
          ...{ frame, ...none, bytesBefore: 1, bytesAfter: BYTES.length, durationMs: 0 },
        });
      }),
    ),
} as Pick<RenderPool, 'render'> as RenderPool;

const worker = new Worker({
  ...{ redis: redis.value, token, name, jobs: Number(jobs), abilities: [] },
  reaches: { roots: roots.value.names, store: null },
  ways: { share: new TakingShare(roots.value), store: null },
  // The server is the one that was built.
  version: basename(process.env.LIGHT_CREST_BUILT ?? ''),
  ...{ folder: cache, imaging, leaseMs: 30_000, tell: () => undefined },
});
process.on('SIGTERM', () => void worker.end());
await worker.run();
process.exit(0);
