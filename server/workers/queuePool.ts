import { rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { failure, success, type Result } from '#core/result';
import type { RenderedOutput, RenderJob } from '../imaging/pass/renderJob.ts';
import type { GivenMark } from '../imaging/pool/imagingTasks.ts';
import type { RenderPool, RenderRoom } from '../imaging/pool/renderPool.ts';
import type { SheetJob, WrittenDocument } from '../imaging/sheet/sheetJob.ts';
import type { ShowJob } from '../imaging/show/showJob.ts';
import { carryPass, newSerial } from './carryPass.ts';
import { fencedName, type PassEnd } from './passJob.ts';
import type { PassQueue } from './passQueue.ts';
import { PixelRoom } from './pixelRoom.ts';
import type { Roots } from './roots.ts';

/** A pass that workers refuse, or whose outputs are gone, is made here after this many tries. */
const MOST_TRIES = 4;
/** Passes at hand for each photo that a worker makes at once. */
const AHEAD = 2;

type Made = PassEnd & { readonly kind: 'made' };

/**
 * Has passes made by workers of this and other machines. What they made lies under temporary names of
 * their leases, and becomes what was asked for here; names are given by the server alone. What cannot
 * travel, or finds nobody, is made by this machine's own processes.
 */
export class QueuePool implements RenderPool {
  private readonly memory = new PixelRoom();

  constructor(
    private readonly queue: PassQueue,
    private readonly roots: Roots,
    private readonly local: RenderPool,
  ) {}

  room(): RenderRoom {
    const local = this.local.room();
    const { jobs } = this.queue;
    // Each worker looks after its own memory.
    return jobs === 0 ? local : { photos: Math.max(local.photos, jobs * AHEAD), pixels: Infinity };
  }

  async render(
    job: RenderJob,
    marks: readonly GivenMark[],
    pixels: number,
    signal?: AbortSignal,
  ): Promise<Result<RenderedOutput>[]> {
    // What cannot be read to be carried is told by who makes it here.
    let carried = await carryPass(job, marks, pixels, this.roots, this.queue.contents).catch(
      () => null,
    );
    for (let tries = 0; carried && tries < MOST_TRIES; tries++) {
      const end = await this.queue.ask(carried, signal);
      if (end === 'aborted') return job.outputs.map(() => failure('It was given up.'));
      if (end === 'nobody') break;
      const collected = end !== 'lost' && end.kind === 'made' ? await collect(job, end) : null;
      await this.queue.settle(carried);
      if (collected) return collected;
      carried = { ...carried, pass: { ...carried.pass, serial: newSerial() } };
    }
    return this.madeHere(job, marks, pixels, signal);
  }

  /** Beside workers many come here at once. */
  private async madeHere(...work: Parameters<RenderPool['render']>) {
    const [, , pixels] = work;
    const release = await this.memory.take(pixels);
    return this.local.render(...work).finally(release);
  }

  writeSheets(
    job: SheetJob,
    marks: readonly GivenMark[],
    signal?: AbortSignal,
  ): Promise<Result<WrittenDocument[]>> {
    return this.local.writeSheets(job, marks, signal);
  }

  writeShow(
    job: ShowJob,
    marks: readonly GivenMark[],
    signal?: AbortSignal,
  ): Promise<Result<WrittenDocument>> {
    return this.local.writeShow(job, marks, signal);
  }

  leave(): void {
    this.queue.leave();
  }
}

/** A share tells of a new file after a moment. */
const LOOKS = 8;
const LOOK_EACH_MS = 400;

async function isThere(path: string, bytes: number): Promise<boolean> {
  for (let look = 1; ; look++) {
    const found = await stat(path).catch(() => null);
    if (found?.size === bytes) return true;
    if (look === LOOKS) return false;
    await delay(LOOK_EACH_MS);
  }
}

/**
 * What a worker made becomes the temporary files that were asked for.
 *
 * @returns null where some of it is not there, or not whole
 */
async function collect(job: RenderJob, end: Made): Promise<Result<RenderedOutput>[] | null> {
  const files = job.outputs.map(({ temporaryPath }, output) => {
    return join(dirname(temporaryPath), fencedName(end, output, end.fence));
  });
  const isWhole = await Promise.all(
    end.results.map(
      (result, output) => !result.ok || isThere(files[output], result.value.bytesAfter),
    ),
  );
  if (end.results.length !== files.length || isWhole.includes(false)) {
    await Promise.all(files.map((file) => rm(file, { force: true }).catch(() => undefined)));
    return null;
  }
  try {
    for (const [output, result] of end.results.entries()) {
      if (result.ok) await rename(files[output], job.outputs[output].temporaryPath);
    }
  } catch {
    return null;
  }
  const madeBy = end.worker;
  return end.results.map((result) => (result.ok ? success({ ...result.value, madeBy }) : result));
}
