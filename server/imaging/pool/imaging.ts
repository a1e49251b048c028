import { basename, join } from 'node:path';
import { failure } from '#core/result';
import { BUILT_FOLDER, IS_SOURCE, PROJECT_FOLDER } from '../../projectFolder.ts';
import {
  INTAKE_TIMEOUT_MS,
  pageProcesses,
  PHOTO_TIMEOUT_MS,
  photoProcesses,
  photosAtOnce,
  PIXELS_AT_ONCE,
  renderTimeoutMs,
  sheetsTimeoutMs,
} from '../limits.ts';
import type { NamedInRun } from '../photo/fileWords.ts';
import type { ShowJob } from '../show/showJob.ts';
import type { SheetJob } from '../sheet/sheetJob.ts';
import { limitsOf, PageImaging, type Answer } from './pageImaging.ts';
import type { RenderPool, RenderRoom } from './renderPool.ts';
import type { RenderJob, WantedMark } from '../pass/renderJob.ts';
import type { GivenMark, ImagingTasks, PreviewFiles } from './imagingTasks.ts';
import { GB, isStorageError, sentenceOf, told } from './processSentences.ts';
import { ProcessPool } from './processPool.ts';

const PROCESS = IS_SOURCE
  ? join(PROJECT_FOLDER, 'server/imaging/pool/imagingProcess.ts')
  : join(BUILT_FOLDER, 'imagingProcess.js');

/** An enlarged output at the limit of pixels is held twice, beside what it was made of. */
const MOST_PHOTO_BYTES = 5 * GB;
/** A hundred megapixels of artwork, with what is worked out from them. */
const MOST_PAGE_BYTES = 3 * GB;

/**
 * The imaging processes as seen from the server and the command line. Two pools: one for whole photos,
 * which runs and imports keep busy, and one for what the page waits for, which they must not hold up.
 * Everything that goes wrong with a process is told as a sentence about what it was given.
 */
export class Imaging extends PageImaging implements RenderPool {
  private readonly photos: ProcessPool<ImagingTasks>;

  constructor(modulePath = PROCESS, photosAtATime = photoProcesses()) {
    super(
      new ProcessPool<ImagingTasks>({
        ...{ modulePath, mostProcesses: pageProcesses(), work: 'small pictures' },
        mostBytes: MOST_PAGE_BYTES,
      }),
    );
    this.photos = new ProcessPool<ImagingTasks>({
      ...{ modulePath, mostProcesses: photosAtATime, work: 'photos' },
      mostBytes: MOST_PHOTO_BYTES,
    });
  }

  room(): RenderRoom {
    return { photos: photosAtOnce(), pixels: PIXELS_AT_ONCE };
  }

  async render(
    job: RenderJob,
    marks: readonly GivenMark[],
    pixels: number,
    signal?: AbortSignal,
  ): Promise<Answer<'render'>> {
    const types = job.outputs.map(({ deliveryRule }) => deliveryRule.file.type);
    const limits = limitsOf(renderTimeoutMs(pixels, types), signal);
    try {
      return await this.photos.run('render', [job, marks], limits);
    } catch (error) {
      const failed = failure(sentenceOf(basename(job.source), error));
      return job.outputs.map(() => failed);
    }
  }

  /** Sheets of photos that were made ready, in temporary files. */
  writeSheets(
    job: SheetJob,
    marks: readonly GivenMark[],
    signal?: AbortSignal,
  ): Promise<Answer<'writeSheets'>> {
    const limits = limitsOf(sheetsTimeoutMs(job.photos.length, job.files.length), signal);
    return told('The sheets', this.photos.run('writeSheets', [job, marks], limits));
  }

  /** A show of photos that were made ready, as a folder. */
  writeShow(
    job: ShowJob,
    marks: readonly GivenMark[],
    signal?: AbortSignal,
  ): Promise<Answer<'writeShow'>> {
    const limits = limitsOf(sheetsTimeoutMs(job.photos.length, 1), signal);
    return told('The show', this.photos.run('writeShow', [job, marks], limits));
  }

  /**
   * A photo's proxy, tile, light map and facts.
   *
   * @throws what the disk says that the proxy and the tile are written to
   */
  async prepare(
    path: string,
    files: PreviewFiles,
    signal?: AbortSignal,
  ): Promise<Answer<'prepare'>> {
    const limits = { timeMs: PHOTO_TIMEOUT_MS, signal };
    try {
      return await this.photos.run('prepare', [path, files], limits);
    } catch (error) {
      if (isStorageError(error)) throw error;
      return failure(sentenceOf(basename(path), error));
    }
  }

  /** Placement and readability of a photo, writing nothing. */
  check(
    path: string,
    named: NamedInRun,
    marks: readonly WantedMark[],
    artworks: readonly GivenMark[],
  ): Promise<Answer<'check'>> {
    const limits = limitsOf(PHOTO_TIMEOUT_MS);
    const values: Parameters<ImagingTasks['check']> = [path, named, marks, artworks];
    return told(basename(path), this.photos.run('check', values, limits));
  }

  /** What a photo's own notes say of it. */
  describe(path: string): Promise<Answer<'describe'>> {
    const limits = { timeMs: INTAKE_TIMEOUT_MS };
    return told(basename(path), this.photos.run('describe', [path], limits));
  }

  /** What differs between a photo and an output of it, on which so many marks were laid at most. */
  verify(source: string, output: string, marks: number): Promise<Answer<'verify'>> {
    const limits = { timeMs: PHOTO_TIMEOUT_MS };
    return told(basename(output), this.photos.run('verify', [source, output, marks], limits));
  }

  /** All that it made lies in the folders of the run. */
  sweep(): Promise<void> {
    return Promise.resolve();
  }

  /** Nobody else holds anything. */
  leave(): void {
    return;
  }

  /** Process ids of the moment, for tests that kill them. */
  pids(): number[] {
    return [...this.photos.pids(), ...this.page.pids()];
  }

  close(): void {
    this.photos.close();
    this.page.close();
  }
}
