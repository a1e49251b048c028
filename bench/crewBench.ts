import { spawn, type ChildProcess } from 'node:child_process';
import { copyFileSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { availableParallelism, constants, setPriority } from 'node:os';
import { join } from 'node:path';
import { setTimeout as later } from 'node:timers/promises';
import { root } from '../scripts/house.mjs';
import { startWorker, type OwnProcess } from '../tests/helpers/crew.ts';
import { writeJpeg } from '../tests/helpers/makePhoto.ts';
import { ask } from './ask.ts';
import { claimsASecond } from './claims.ts';
import { forecast, type Measured } from './crewForecast.ts';
import { folderOf } from './material.ts';
import { atLeast, atMost, cpuMs, told, type Row } from './measure.ts';
import { Studio } from './studio.ts';

/** Workers: what a server does with them in a second, how it answers meanwhile, and what each more brings. */

const IDLE_PHOTOS = 1_500;
/** Of the photos; the others are copies of them. */
const DIFFERENT = 10;
const IDLE_WORKERS = 2;
const IDLE_JOBS = 64;
/** As many as there are to begin with. */
const FOUR = ['a', 'b', 'c', 'd'].map((name) => `${name}-{name}-{number}`);
const WANTED_PACE = 1_000;
const MOST_MS = 50;
const ASK_EACH_MS = 25;
const REAL_PHOTOS = 24;
const BYTES_PER_MB = 1e6;

export async function crewBench(): Promise<Row[]> {
  const idle = await idleWorkers();
  const more = await moreWorkers();
  const claims = told('workers: claims a second, in portions of 64', claimsASecond());
  const forecasts = forecast({ ...idle.measured, ...more.measured });
  return [...idle.rows, claims, ...more.rows, ...forecasts];
}

/** Workers whose photos cost nothing: what is left is the server. */
export async function idleWorkers(): Promise<{
  rows: Row[];
  measured: Pick<Measured, 'serverMs' | 'redisMs'>;
}> {
  const studio = await Studio.open();
  const workers: ChildProcess[] = [];
  try {
    const { folder, address, token } = studio;
    for (let seed = 0; seed < IDLE_PHOTOS; seed++) {
      const path = join(folder, 'photos', `${seed}.jpg`);
      if (seed < DIFFERENT) await writeJpeg(path, { width: 64, height: 48, seed });
      else copyFileSync(join(folder, 'photos', `${seed % DIFFERENT}.jpg`), path);
    }
    const batch = await studio.batch('photos', IDLE_PHOTOS);
    for (let number = 0; number < IDLE_WORKERS; number++) {
      const words = [`idle-${number}`, address, token, `all=${folder}`, join(folder, 'cache')];
      const script = join(root, 'bench/idleWorker.ts');
      const node = ['--import', 'tsx', script, ...words, `${IDLE_JOBS}`];
      const worker = spawn(process.execPath, node, { stdio: 'inherit' });
      // They would be on machines of their own, and are not to take the server's cores.
      if (worker.pid !== undefined) setPriority(worker.pid, constants.priority.PRIORITY_LOW);
      workers.push(worker);
    }
    await studio.haveCome(IDLE_WORKERS);
    const one = await watched(studio, batch, ['{name}-{number}']);
    const four = await watched(studio, batch, FOUR);
    const rows = [
      atLeast('workers: outputs a second, where photos cost nothing', one.pace, WANTED_PACE),
      atMost('workers: an answer of the server meanwhile, 99 of 100', one.at(0.99), MOST_MS, ' ms'),
      told('workers: the slowest answer meanwhile', one.at(0.9999), ' ms'),
      told('workers: time of a core that the server needs for an output', one.serverMs, ' ms'),
      told('workers: the same of Redis', one.redisMs, ' ms'),
      atLeast('workers: the same outputs a second, by four deliveries', four.pace, WANTED_PACE),
      atMost('workers: an answer meanwhile, by four, 99 of 100', four.at(0.99), MOST_MS, ' ms'),
      told('workers: time of a core for an output, by four', four.serverMs, ' ms'),
    ];
    return { rows, measured: { serverMs: one.serverMs, redisMs: one.redisMs } };
  } finally {
    for (const worker of workers) worker.kill('SIGKILL');
    await studio.close();
  }
}

/** A run to the end, with what its server costs and how it answers meanwhile. */
async function watched(studio: Studio, batch: number, patterns: readonly string[]) {
  const { server, redis } = studio;
  const answers: number[] = [];
  let isOver = false;
  const asking = (async () => {
    while (!isOver) {
      const askedMs = performance.now();
      await ask(server, 'GET', '/presets');
      answers.push(performance.now() - askedMs);
      await later(ASK_EACH_MS);
    }
  })();
  const outputs = IDLE_PHOTOS * patterns.length;
  const before = [cpuMs(server.pid), cpuMs(redis.pid)];
  const seconds = await studio.run(batch, ...patterns);
  const [serverMs, redisMs] = [server.pid, redis.pid].map(
    (pid, index) => (cpuMs(pid) - before[index]) / outputs,
  );
  isOver = true;
  await asking;
  answers.sort((a, b) => a - b);
  const at = (share: number): number => answers[Math.floor(answers.length * share)] ?? 0;
  return { pace: outputs / seconds, serverMs, redisMs, at };
}

/** Each is held to a core of its own, where there are as many. */
export async function moreWorkers(): Promise<{
  rows: Row[];
  measured: Omit<Measured, 'serverMs' | 'redisMs'>;
}> {
  const studio = await Studio.open();
  const workers: OwnProcess[] = [];
  try {
    const { folder, address: redis, token } = studio;
    const photos = await folderOf(REAL_PHOTOS, join(folder, 'photos'));
    const batch = await studio.batch('photos', photos.length);
    const cores = availableParallelism();
    const rows: Row[] = [];
    let alone = 0;
    let makeMs = 0;
    for (const count of [1, 2, 4]) {
      while (workers.length < count) {
        const name = `w${workers.length}`;
        const wish = { name, redis, token, roots: [`all=${folder}`], leaseMs: 30_000 };
        workers.push(
          startWorker({ ...wish, cache: join(folder, 'cache'), core: workers.length % cores }),
        );
      }
      await studio.haveCome(count);
      const seconds = await studio.run(batch, `{name}-${count}-{number}`);
      const pace = REAL_PHOTOS / seconds;
      if (count === 1) {
        alone = pace;
        makeMs = cpuOf(workers[0].pid) / REAL_PHOTOS;
      }
      rows.push(told(`workers: ${count} of a core each (${cores} cores), photos a second`, pace));
      if (count === 2) rows.push(atLeast('workers: two to one', pace / alone, 1.6));
    }
    const readMb = megabytesIn(join(folder, 'photos')) / REAL_PHOTOS;
    const writeMb = megabytesIn(join(folder, 'out')) / readdirSync(join(folder, 'out')).length;
    return { rows, measured: { makeMs, readMb, writeMb } };
  } finally {
    for (const worker of workers) await worker.kill();
    await studio.close();
  }
}

/** With the imaging processes that it has started. */
function cpuOf(pid: number): number {
  const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ');
  return [pid, ...children.map(Number)].reduce((sum, one) => sum + (one > 0 ? cpuMs(one) : 0), 0);
}

function megabytesIn(folder: string): number {
  const bytes = readdirSync(folder).map((name) => statSync(join(folder, name)).size);
  return bytes.reduce((sum, one) => sum + one, 0) / BYTES_PER_MB;
}
