import { basename, join } from 'node:path';
import type { Design, Parts } from '#core/contract/design';
import type { LiftSettings } from '#core/contract/lift';
import type { Size } from '#core/placement/geometry';
import { failure } from '#core/result';
import { BUILT_FOLDER, IS_SOURCE, PROJECT_FOLDER } from '../../projectFolder.ts';
import {
  FONT_TIMEOUT_MS,
  INTAKE_TIMEOUT_MS,
  LIFT_TIMEOUT_MS,
  pageProcesses,
  PDF_TIMEOUT_MS,
  PHOTO_TIMEOUT_MS,
  photoProcesses,
  photosAtOnce,
  PIXELS_AT_ONCE,
  RASTER_TIMEOUT_MS,
  renderTimeoutMs,
  sheetsTimeoutMs,
} from '../limits.ts';
import type { NamedInRun } from '../photo/fileWords.ts';
import type { PageWish } from '../pdf/pdf.ts';
import type { RegionJob } from '../photoRegion.ts';
import type { Showing } from '../raster/artwork.ts';
import type { Drawer } from '../raster/rasteriser.ts';
import type { ShowJob } from '../show/showJob.ts';
import type { SheetJob } from '../sheet/sheetJob.ts';
import type { RenderPool, RenderRoom } from './renderPool.ts';
import type { RenderJob, WantedMark } from '../pass/renderJob.ts';
import type {
  GivenMark,
  ImagingTasks,
  JudgeJob,
  PlacedMark,
  PreviewFiles,
} from './imagingTasks.ts';
import { GB, isStorageError, sentenceOf, told } from './processSentences.ts';
import { ProcessPool, type TaskLimits } from './processPool.ts';

const PROCESS = IS_SOURCE
  ? join(PROJECT_FOLDER, 'server/imaging/pool/imagingProcess.ts')
  : join(BUILT_FOLDER, 'imagingProcess.js');

/** An enlarged output at the limit of pixels is held twice, beside what it was made of. */
const MOST_PHOTO_BYTES = 5 * GB;
/** A hundred megapixels of artwork, with what is worked out from them. */
const MOST_PAGE_BYTES = 3 * GB;

type Answer<Name extends keyof ImagingTasks> = Awaited<ReturnType<ImagingTasks[Name]>>;

/**
 * The imaging processes as seen from the server and the command line. Two pools: one for whole photos,
 * which runs and imports keep busy, and one for what the page waits for, which they must not hold up.
 * Everything that goes wrong with a process is told as a sentence about what it was given.
 */
export class Imaging implements RenderPool {
  private readonly photos: ProcessPool<ImagingTasks>;
  private readonly page: ProcessPool<ImagingTasks>;

  constructor(modulePath = PROCESS, photosAtATime = photoProcesses()) {
    this.photos = new ProcessPool<ImagingTasks>({
      ...{ modulePath, mostProcesses: photosAtATime, work: 'photos' },
      mostBytes: MOST_PHOTO_BYTES,
    });
    this.page = new ProcessPool<ImagingTasks>({
      ...{ modulePath, mostProcesses: pageProcesses(), work: 'small pictures' },
      mostBytes: MOST_PAGE_BYTES,
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

  /** What differs between a photo and an output of it. */
  verify(source: string, output: string): Promise<Answer<'verify'>> {
    const limits = { timeMs: PHOTO_TIMEOUT_MS };
    return told(basename(output), this.photos.run('verify', [source, output], limits));
  }

  /** How marks read on a photo, with what is chosen by that. */
  judge(job: JudgeJob, artworks: readonly GivenMark[]): Promise<Answer<'judge'>> {
    const limits = limitsOf(INTAKE_TIMEOUT_MS);
    return told('The photo', this.page.run('judge', [job, artworks], limits));
  }

  /** Part of an output as a PNG. */
  look(
    job: RegionJob,
    marks: readonly PlacedMark[],
    artworks: readonly GivenMark[],
  ): Promise<Answer<'look'>> {
    const limits = limitsOf(PHOTO_TIMEOUT_MS);
    return told(basename(job.source), this.page.run('look', [job, marks, artworks], limits));
  }

  /** Bytes of a picture, SVG or PDF as artwork. @param page of a PDF */
  importArtwork(bytes: Uint8Array, page = 1): Promise<Answer<'importArtwork'>> {
    const limits = limitsOf(INTAKE_TIMEOUT_MS);
    return told('The artwork', this.page.run('importArtwork', [bytes, page], limits));
  }

  withoutBox(png: Uint8Array, colour: string, from: 'outside' | 'everywhere') {
    // Looks at every pixel of a picture, of which there may be a hundred million.
    const limits = { timeMs: INTAKE_TIMEOUT_MS };
    return told('The artwork', this.page.run('withoutBox', [png, colour, from], limits));
  }

  composeDesign(design: Design, parts: Parts, fontFolders: readonly string[], name: string) {
    const values: Parameters<ImagingTasks['composeDesign']> = [design, parts, fontFolders, name];
    return told('The mark', this.page.run('composeDesign', values, limitsOf(INTAKE_TIMEOUT_MS)));
  }

  /** A design as PNG, `scale` px a unit of its drawing. */
  designPicture(
    design: Design,
    parts: Parts,
    fontFolders: readonly string[],
    showing: Showing,
    scale: number,
  ): Promise<Answer<'designPicture'>> {
    const values: Parameters<ImagingTasks['designPicture']> = [
      ...([design, parts, fontFolders, showing, scale] as const),
    ];
    return told('The mark', this.page.run('designPicture', values, limitsOf(INTAKE_TIMEOUT_MS)));
  }

  lift(path: string, settings: LiftSettings): Promise<Answer<'lift'>> {
    const limits = { timeMs: LIFT_TIMEOUT_MS };
    return told('The scan', this.page.run('lift', [path, settings], limits));
  }

  recogniseScan(path: string, name: string): Promise<Answer<'recogniseScan'>> {
    const limits = { timeMs: PDF_TIMEOUT_MS };
    return told(name, this.page.run('recogniseScan', [path, name], limits));
  }

  /** A page of a scan or PDF as PNG. */
  scanPage(path: string, page: number, wish: PageWish): Promise<Answer<'scanPage'>> {
    const limits = { timeMs: PDF_TIMEOUT_MS };
    return told('The scan', this.page.run('scanPage', [path, page, wish], limits));
  }

  readFont(bytes: Uint8Array): Promise<Answer<'readFont'>> {
    const limits = { timeMs: FONT_TIMEOUT_MS };
    return told('The font', this.page.run('readFont', [bytes], limits));
  }

  outputTile(output: string): Promise<Answer<'outputTile'>> {
    const limits = { timeMs: PHOTO_TIMEOUT_MS };
    return told(basename(output), this.page.run('outputTile', [output], limits));
  }

  sourceAsJpeg(source: string, frame: Size): Promise<Answer<'sourceAsJpeg'>> {
    const limits = { timeMs: PHOTO_TIMEOUT_MS };
    return told(basename(source), this.page.run('sourceAsJpeg', [source, frame], limits));
  }

  outputAsJpeg(output: string): Promise<Answer<'outputAsJpeg'>> {
    const limits = { timeMs: PHOTO_TIMEOUT_MS };
    return told(basename(output), this.page.run('outputAsJpeg', [output], limits));
  }

  /** Draws single marks for the page and the command line. */
  readonly drawer: Drawer = async (request) => {
    const limits = limitsOf(INTAKE_TIMEOUT_MS);
    try {
      return await this.page.run('draw', [request], limits);
    } catch (error) {
      return { ok: false, reason: sentenceOf('The mark', error), isSentence: true };
    }
  };

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

function limitsOf(timeMs: number, signal?: AbortSignal): TaskLimits {
  return { timeMs, drawingMs: RASTER_TIMEOUT_MS, signal };
}
