import { appendFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { broken } from './invariants.ts';
import { randomOf } from './random.ts';
import { CREW_STEPS, FIRST_STEPS, STEPS, type Step } from './steps.ts';
import { World } from './world.ts';

/**
 * Random schedules of imports, runs, edits and deletions, with kills, full and unplugged disks and
 * broken lines in between; afterwards the same must hold, whatever happened. The same seed makes the
 * same schedule: `FAULT_SEED=17 FAULT_SCHEDULES=1 npm run faults` runs the one that failed.
 */
const SEED = Number(process.env.FAULT_SEED ?? 1);
const SCHEDULES = Number(process.env.FAULT_SCHEDULES ?? 7);
/** Share of the schedules that are run with workers as well: starting them takes a while. */
const WITH_WORKERS = 0.4;
const STEPS_A_SCHEDULE = 14;
const SCHEDULE_TIMEOUT_MS = 400_000;

/** A line for each schedule as it ends, for long runs: `FAULT_LOG=faults.log`. */
function note(line: string): void {
  if (process.env.FAULT_LOG) appendFileSync(process.env.FAULT_LOG, `${line}\n`);
}

const seeds = Array.from({ length: SCHEDULES }, (_, index) => SEED + index);

async function leavesInOrder(seed: number, steps: readonly Step[], world: World): Promise<void> {
  const random = randomOf(seed);
  const taken: string[] = [];
  try {
    await world.begin();
    for (let step = 0; step < STEPS_A_SCHEDULE; step++) {
      const next = FIRST_STEPS[step] ?? random.of(steps);
      taken.push(next.name);
      await next(world, random);
    }
    const problems = await broken(world);
    note(`seed ${seed}: ${problems.length === 0 ? 'in order' : problems.join('; ')}`);
    expect(problems, `seed ${seed}: ${taken.join(', ')}`).toEqual([]);
  } finally {
    await world.end();
  }
}

it.each(seeds)(
  'schedule %i leaves everything in order',
  (seed) => leavesInOrder(seed, STEPS, new World()),
  SCHEDULE_TIMEOUT_MS,
);

it.each(seeds.slice(0, Math.ceil(SCHEDULES * WITH_WORKERS)))(
  'schedule %i leaves everything in order where workers help',
  (seed) => leavesInOrder(seed, CREW_STEPS, new World(true)),
  SCHEDULE_TIMEOUT_MS,
);
