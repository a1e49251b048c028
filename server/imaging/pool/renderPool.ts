import type { Result } from '#core/result';
import type { RenderedOutput, RenderJob } from '../pass/renderJob.ts';
import type { SheetJob, WrittenDocument } from '../sheet/sheetJob.ts';
import type { ShowJob } from '../show/showJob.ts';
import type { GivenMark } from './imagingTasks.ts';

/** What may be in work at once. */
export interface RenderRoom {
  readonly photos: number;
  /** Of all of them; a photo beyond it has to be alone. */
  readonly pixels: number;
}

/** Whoever renders photos: processes of this machine, or of others. */
export interface RenderPool {
  /** As it is now: workers come and go. */
  room(): RenderRoom;

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

  /** Sheets of photos that it made ready, in temporary files. */
  writeSheets(
    job: SheetJob,
    marks: readonly GivenMark[],
    signal?: AbortSignal,
  ): Promise<Result<WrittenDocument[]>>;

  /** A show of photos that it made ready, as a folder. */
  writeShow(
    job: ShowJob,
    marks: readonly GivenMark[],
    signal?: AbortSignal,
  ): Promise<Result<WrittenDocument>>;

  /** Takes away what is left of passes whose stems begin so, but for what lies in the folders of their run. */
  sweep(stem: string): Promise<void>;

  /** Before what is in work is aborted because the server ends: what others hold they may finish. */
  leave(): void;
}
