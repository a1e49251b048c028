import { failure, success, type Result } from '#core/result';
import type { RenderedOutput, RenderJob } from '../imaging/pass/renderJob.ts';
import type { GivenMark } from '../imaging/pool/imagingTasks.ts';
import type { RenderPool, RenderRoom } from '../imaging/pool/renderPool.ts';
import type { SheetJob, WrittenDocument } from '../imaging/sheet/sheetJob.ts';
import type { ShowJob } from '../imaging/show/showJob.ts';
import { carryPass, newSerial, type CarriedPass } from './carryPass.ts';
import { fencedName, type PassEnd } from './passJob.ts';
import type { PassQueue } from './passQueue.ts';
import { PixelRoom } from './pixelRoom.ts';
import { wayOf, type HandingWays } from './storage/ways.ts';

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
    private readonly ways: HandingWays,
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
    let carried = await carryPass(job, marks, pixels, this.ways, this.queue.contents).catch(
      () => null,
    );
    for (let tries = 0; carried && tries < MOST_TRIES; tries++) {
      const end = await this.queue.ask(carried, signal);
      if (end === 'aborted') return job.outputs.map(() => failure('It was given up.'));
      if (end === 'nobody') break;
      const isMade = end !== 'lost' && end.kind === 'made';
      const collected = isMade ? await collect(this.ways, job, carried, end) : null;
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

  async sweep(stem: string): Promise<void> {
    await Promise.all([this.ways.share.sweep(stem), this.ways.store?.sweep(stem)]);
  }

  leave(): void {
    this.queue.leave();
  }
}

/**
 * What a worker made becomes the temporary files that were asked for.
 *
 * @returns null where some of it is not there, or not whole
 */
async function collect(
  ways: HandingWays,
  job: RenderJob,
  { pass }: CarriedPass,
  end: Made,
): Promise<Result<RenderedOutput>[] | null> {
  const names = pass.outputs.map((_, output) => fencedName(end, output, end.fence));
  const isWhole = await Promise.all(
    pass.outputs.map(async ({ folder }, output) => {
      const result = end.results.at(output);
      if (!result?.ok) return result !== undefined;
      const { temporaryPath } = job.outputs[output];
      const { bytesAfter } = result.value;
      return wayOf(ways, folder)
        .collect(folder, names[output], bytesAfter, temporaryPath)
        .catch(() => false);
    }),
  );
  if (isWhole.includes(false)) {
    await Promise.all(
      pass.outputs.map(({ folder }, output) =>
        wayOf(ways, folder)
          .discard(folder, names[output])
          .catch(() => undefined),
      ),
    );
    return null;
  }
  const madeBy = end.worker;
  return end.results.map((result) => (result.ok ? success({ ...result.value, madeBy }) : result));
}
