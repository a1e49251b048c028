import { appendFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import type { BatchView, PhotoView, PresetView, RunView } from '#core/contract/http';
import { scene } from '#tests/helpers/makePhoto';
import { ruleOf } from '#tests/helpers/runs';
import type { Random } from './random.ts';
import { hashOf, type World } from './world.ts';

/** What happens in a schedule: things a photographer does, and things that happen to him. */

interface OpenBatch {
  readonly batch: BatchView;
  readonly photos: PhotoView[];
}

export type Step = (world: World, random: Random) => Promise<void>;

/** A line that breaks somewhere between the request and its answer, now and then. */
const breakMs = (random: Random): number | undefined =>
  random.chance(0.25) ? random.below(25) : undefined;

async function someBatch(world: World, random: Random): Promise<OpenBatch | null> {
  const { body } = await world.get<BatchView[]>('/batches');
  if (!body || body.length === 0) return null;
  const opened = await world.get<OpenBatch>(`/batches/${random.of(body).id}`);
  return opened.status === 200 ? opened.body : null;
}

/** Asked again with its key until it is answered, as the page does. */
async function make<T>(
  world: World,
  random: Random,
  path: string,
  body: object,
): Promise<{ key: string; answers: T[] }> {
  const key = `fault-${random.below(1e9)}-${random.below(1e9)}`;
  const answers: T[] = [];
  const clicks = random.chance(0.3) ? 2 : 1;
  const ask = async (): Promise<void> => {
    for (let tries = 0; tries < 4; tries++) {
      const answer = await world.send<T>('POST', path, body, {
        key,
        breakMs: tries === 0 ? breakMs(random) : undefined,
      });
      if (answer.status === 0) continue;
      if (answer.status < 300) answers.push(answer.body);
      return;
    }
  };
  await Promise.all(Array.from({ length: clicks }, ask));
  return { key, answers };
}

const killServer: Step = async (world) => {
  await world.kill();
  await world.start();
};

const newBatch: Step = async (world, random) => {
  const name = `Batch ${random.below(1_000)}`;
  const { answers } = await make<BatchView>(world, random, '/batches', { name });
  for (const { id } of answers) world.confirmed.batches.add(id);
};

const readFolder: Step = async (world, random) => {
  const batch = await someBatch(world, random);
  if (!batch) return newBatch(world, random);
  const path = random.of(world.folders);
  const ask = () => world.send('POST', `/batches/${batch.batch.id}/folders`, { path });
  await Promise.all(random.chance(0.3) ? [ask(), ask()] : [ask()]);
};

const cancelFolder: Step = async (world, random) => {
  const batch = await someBatch(world, random);
  if (batch) await world.send('DELETE', `/batches/${batch.batch.id}/folders`);
};

const upload: Step = async (world, random) => {
  const batch = await someBatch(world, random);
  if (!batch) return;
  const seed = 500 + random.below(4);
  const bytes = await scene({ width: 300, height: 200, seed }).jpeg().toBuffer();
  const path = `/batches/${batch.batch.id}/photos?name=${seed}.jpg`;
  const ask = () => world.send('POST', path, bytes, { breakMs: breakMs(random) });
  const answers = await Promise.all(random.chance(0.3) ? [ask(), ask()] : [ask()]);
  if (!answers.some(({ status }) => status === 200 || status === 201)) return;
  const known = world.confirmed.uploads.get(batch.batch.id) ?? new Set();
  world.confirmed.uploads.set(batch.batch.id, known.add(hashOf(bytes)));
};

/** One at least, in their order. */
function someOf(ids: readonly number[], random: Random): number[] {
  const first = random.of(ids);
  return ids.filter((id) => id === first || random.chance(0.4));
}

/** Laid over the first, in another corner and as quiet as it reads. */
function secondMark({ markId, confirmed }: World) {
  const [presetId] = [...confirmed.presets.keys()];
  const rule = ruleOf({ anchor: 'top-right', opacity: { rule: 'quiet' } });
  return { presetId, presetName: 'Q', markId, rule };
}

const beginRun: Step = async (world, random) => {
  const batch = await someBatch(world, random);
  if (!batch || batch.photos.length === 0) return;
  const wish = {
    batchId: batch.batch.id,
    deliveryIds: someOf(world.deliveries, random),
    presetName: 'P',
    markId: world.markId,
    rule: ruleOf(random.chance(0.5) ? {} : { fallbacks: ['top-left'], rescue: 'halo' }),
    over: random.chance(0.4) ? [secondMark(world)] : [],
    photoIds: null,
  };
  const { key, answers } = await make<RunView>(world, random, '/runs', wish);
  world.confirmed.runs.set(key, new Set(answers.map(({ id }) => id)));
};

const steerRun: Step = async (world, random) => {
  const { body: runs } = await world.get<RunView[]>('/runs');
  if (!runs || runs.length === 0) return;
  const action = random.of(['pause', 'resume', 'cancel', 'retry', 'pause', 'resume']);
  const run = random.of(runs);
  if (action === 'retry') await world.retry(run);
  else await world.send('POST', `/runs/${run.id}/${action}`);
};

const adjust: Step = async (world, random) => {
  const batch = await someBatch(world, random);
  if (!batch || batch.photos.length === 0) return;
  const photoId = random.of(batch.photos).id;
  const opacity = random.chance(0.2) ? null : 0.1 + random.below(9) / 10;
  const adjustment = opacity === null ? null : { opacity };
  const changes = { changes: [{ photoId, adjustment }] };
  const { status } = await world.send('PUT', `/batches/${batch.batch.id}/adjustments`, changes);
  if (status === 204) world.confirmed.adjustments.set(photoId, opacity);
  else if (status === 0) world.confirmed.adjustments.delete(photoId);
};

const savePreset: Step = async (world, random) => {
  const [id] = [...world.confirmed.presets.keys()];
  const name = `P ${random.below(1_000)}`;
  const body = { name, markId: world.markId, rule: {} };
  const { status } = await world.send<PresetView>('PUT', `/presets/${id}`, body);
  if (status === 200) world.confirmed.presets.set(id, name);
};

const setSurround: Step = async (world, random) => {
  const { body } = await world.get<Record<string, unknown>>('/settings');
  if (!body) return;
  const settings = { ...body };
  delete settings.configured;
  const surround = random.of(['paper', 'grey', 'black']);
  const { status } = await world.send('PUT', '/settings', { ...settings, surround });
  if (status === 200) world.confirmed.surround = surround;
};

const takePhotosOut: Step = async (world, random) => {
  const batch = await someBatch(world, random);
  if (!batch || batch.photos.length === 0 || batch.batch.id === world.lastingBatch) return;
  const { id } = random.of(batch.photos);
  const path = `/batches/${batch.batch.id}/photos/remove`;
  const { status } = await world.send('POST', path, { ids: [id] });
  if (status !== 204) return;
  world.confirmed.adjustments.delete(id);
  // Which of the copies it was is not looked into; what is confirmed from now on counts.
  world.confirmed.uploads.delete(batch.batch.id);
};

const deleteBatch: Step = async (world, random) => {
  const batch = await someBatch(world, random);
  if (!batch || batch.batch.id === world.lastingBatch) return;
  const { status } = await world.send('DELETE', `/batches/${batch.batch.id}`);
  if (status !== 204) return;
  world.confirmed.batches.delete(batch.batch.id);
  world.confirmed.goneBatches.add(batch.batch.id);
  for (const { id } of batch.photos) world.confirmed.adjustments.delete(id);
};

const stopServer: Step = async (world) => {
  await world.stop();
  await world.start();
};

/** In the middle of what was just begun. */
const killSoonAfter =
  (begin: Step): Step =>
  async (world, random) => {
    await begin(world, random);
    await delay(random.below(400));
    await killServer(world, random);
  };

const killWhileReading = killSoonAfter(async (world, random) => {
  await newBatch(world, random);
  const id = [...world.confirmed.batches].at(-1) ?? world.lastingBatch;
  await world.send('POST', `/batches/${id}/folders`, { path: random.of(world.folders) });
});

const killWhileExporting = killSoonAfter((world, random) => beginRun(world, random));

const killChild: Step = async (world, random) => {
  const children = world.children();
  if (children.length === 0) return;
  try {
    process.kill(random.of(children), 'SIGKILL');
  } catch {
    // It has ended by itself meanwhile.
  }
};

/** A disk that is unplugged for a while, with the server dying on the way now and then. */
const vanish: Step = async (world, random) => {
  const folder = random.of([...world.folders, world.out, world.inbox, world.inboxOut]);
  renameSync(folder, `${folder}-away`);
  try {
    await delay(random.below(300));
    if (random.chance(0.3)) await killServer(world, random);
    await delay(random.below(300));
  } finally {
    // What was made meanwhile under its name would be in the way of its return.
    rmSync(folder, { recursive: true, force: true });
    renameSync(`${folder}-away`, folder);
  }
};

const FILLER_BYTES = 690_000;

const fillDisk: Step = async (world, random) => {
  if (!world.disk) return;
  const filler = join(world.smallFolder, 'filler');
  try {
    writeFileSync(filler, Buffer.alloc(FILLER_BYTES));
  } catch {
    // As full as it gets.
  }
  await delay(random.below(400));
  rmSync(filler, { force: true });
};

/** Another program saves a photo: beside, then renamed, so that it has a new inode. */
const saveAnew: Step = async (world, random) => {
  const path = join(random.of(world.folders), `${random.below(7)}.jpg`);
  const beside = `${path}.saving`;
  writeFileSync(
    beside,
    await scene({ width: 480, height: 320, seed: random.below(9_999) })
      .jpeg()
      .toBuffer(),
  );
  renameSync(beside, path);
  world.note(path);
};

/** Some photos, now and then written in two goes, as a slow program does. */
const dropInInbox: Step = async (world, random) => {
  for (let count = 1 + random.below(3); count > 0; count--) {
    const below = random.chance(0.3) ? 'day 2/' : '';
    const name = `${below}dropped-${world.dropped.size + 1}.jpg`;
    const path = join(world.inbox, name);
    const bytes = await scene({ width: 360, height: 240, seed: world.dropped.size })
      .jpeg()
      .toBuffer();
    const half = random.chance(0.3) ? bytes.length >> 1 : bytes.length;
    writeFileSync(path, bytes.subarray(0, half));
    if (half < bytes.length) {
      await delay(random.below(300));
      appendFileSync(path, bytes.subarray(half));
    }
    world.dropped.add(name);
    world.note(path);
  }
};

/** A photo rests for two seconds before it is taken. */
const killWhileTaking: Step = async (world, random) => {
  await dropInInbox(world, random);
  await delay(2_000 + random.below(1_500));
  await killServer(world, random);
};

const wait: Step = (_, random) => delay(random.below(250)).then(() => undefined);

/** The more often a step stands here, the more often it is taken. */
export const STEPS: readonly Step[] = [
  ...[newBatch, readFolder, readFolder, readFolder, cancelFolder, upload, upload],
  ...[beginRun, beginRun, beginRun, beginRun, steerRun, steerRun, steerRun],
  ...[adjust, adjust, savePreset, setSurround, takePhotosOut, deleteBatch],
  ...[killWhileReading, killWhileExporting, killWhileExporting],
  ...[dropInInbox, dropInInbox, killWhileTaking],
  ...[killServer, stopServer, killChild, killChild, killChild],
  ...[vanish, fillDisk, saveAnew, wait, wait],
];

const killWorker: Step = async ({ crew }, random) => crew?.killWorker(random);
const freezeWorker: Step = async ({ crew }, random) => crew?.freezeWorker(random);
const restartRedis: Step = async ({ crew }, random) => crew?.restartRedis(random);

/** Where there are workers. */
export const CREW_STEPS: readonly Step[] = [
  ...STEPS,
  ...[beginRun, beginRun, beginRun, killWorker, killWorker, killWorker, killWorker],
  ...[freezeWorker, freezeWorker, freezeWorker, restartRedis, restartRedis, restartRedis],
];

export const FIRST_STEPS: readonly Step[] = [newBatch, readFolder, upload, dropInInbox];
