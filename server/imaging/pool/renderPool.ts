import type { Result } from '#core/result';
import type { RenderedOutput, RenderJob } from '../pass/renderJob.ts';
import type { GivenMark } from './imagingTasks.ts';

/** Whoever renders photos: processes of this machine, or of others. */
export interface RenderPool {
  /**
   * All outputs of a photo, in temporary files.
   *
   * @param marks that the outputs of the job name by their place
   * @param pixels the larger of source and outputs
   * @returns one for each output; what goes wrong with the whole fails all of them
   */
  render(
    job: RenderJob,
    marks: readonly GivenMark[],
    pixels: number,
    signal?: AbortSignal,
  ): Promise<Result<RenderedOutput>[]>;
}
