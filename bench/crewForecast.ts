import { told, type Row } from './measure.ts';
import { simulateCrew, type CrewModel } from './simulateCrew.ts';

/** What was measured with one of each. */
export type Measured = Pick<CrewModel, 'makeMs' | 'serverMs' | 'redisMs' | 'readMb' | 'writeMb'>;

const WORKERS = [1, 4, 16, 64];
const PHOTOS = 1_000_000;
/** What one and ten gigabits a second carry, less what the protocols need. */
const NETWORKS = { '1 Gbit/s': 117, '10 Gbit/s': 1_170 };
/** Of a million photos the longest takes four times as long as the shortest. */
const SPREAD = 4;
const SEED = 20_260_614;

/** A million photos by up to 64 workers of a core each: how fast, and what keeps them from being faster. */
export function forecast(measured: Measured): Row[] {
  return Object.entries(NETWORKS).flatMap(([network, networkMbS]) =>
    WORKERS.map((workers) => {
      const model = { ...measured, workers, networkMbS, photos: PHOTOS, spread: SPREAD };
      const { photosASecond, busy, limit } = simulateCrew({ ...model, seed: SEED });
      const share = Math.round(busy[limit] * 100);
      const what = `forecast: ${workers} workers, ${network}, ${share} % of the ${limit}, photos a second`;
      return told(what, photosASecond);
    }),
  );
}
