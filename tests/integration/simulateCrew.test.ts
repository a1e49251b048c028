import { expect, it } from 'vitest';
import { simulateCrew, type CrewModel } from '../../bench/simulateCrew.ts';

const MODEL: CrewModel = {
  ...{ workers: 4, photos: 4_000, makeMs: 500, spread: 3, serverMs: 1, redisMs: 0.5 },
  ...{ readMb: 8, writeMb: 4, networkMbS: 1e9, seed: 7 },
};

it('workers that share nothing scarce make as many times what one makes', () => {
  const four = simulateCrew(MODEL);
  expect(four.limit).toBe('workers');
  expect(four.photosASecond).toBeGreaterThan(7.7);
  expect(four.photosASecond).toBeLessThan(8.1);
  const one = simulateCrew({ ...MODEL, workers: 1 });
  expect(four.photosASecond / one.photosASecond).toBeCloseTo(4, 1);
});

it('never goes beyond the slowest of what they share, and names it', () => {
  const many = { ...MODEL, workers: 64 };
  const network = simulateCrew({ ...many, networkMbS: 120 });
  expect([network.limit, Math.round(network.photosASecond)]).toEqual(['network', 10]);
  const server = simulateCrew({ ...many, serverMs: 20 });
  expect([server.limit, Math.round(server.photosASecond)]).toEqual(['server', 50]);
  const redis = simulateCrew({ ...many, redisMs: 25 });
  expect([redis.limit, Math.round(redis.photosASecond)]).toEqual(['redis', 40]);
});

it('is the same for the same seed, and no more is made than there is', () => {
  expect(simulateCrew(MODEL)).toEqual(simulateCrew(MODEL));
  expect(simulateCrew({ ...MODEL, seed: 8 })).not.toEqual(simulateCrew(MODEL));
  const few = simulateCrew({ ...MODEL, photos: 1 });
  expect(few.seconds).toBeGreaterThan(0.2);
  expect(few.seconds).toBeLessThan(0.8);
});
