import { basename } from 'node:path';
import type { Design, Parts } from '#core/contract/design';
import type { LiftSettings } from '#core/contract/lift';
import type { Size } from '#core/placement/geometry';
import {
  FONT_TIMEOUT_MS,
  INTAKE_TIMEOUT_MS,
  LIFT_TIMEOUT_MS,
  PDF_TIMEOUT_MS,
  PHOTO_TIMEOUT_MS,
  RASTER_TIMEOUT_MS,
} from '../limits.ts';
import type { PageWish } from '../pdf/pdf.ts';
import type { RegionJob } from '../photoRegion.ts';
import type { Showing } from '../raster/artwork.ts';
import type { Drawer } from '../raster/rasteriser.ts';
import type { GivenMark, ImagingTasks, JudgeJob, PlacedMark } from './imagingTasks.ts';
import { sentenceOf, told } from './processSentences.ts';
import type { ProcessPool } from './processPool.ts';
import { type TaskLimits } from './processPool.ts';

export type Answer<Name extends keyof ImagingTasks> = Awaited<ReturnType<ImagingTasks[Name]>>;

/** What the page and the command line wait for: single pictures, designs, scans, fonts. */
export class PageImaging {
  constructor(protected readonly page: ProcessPool<ImagingTasks>) {}

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
}

/** Of a task that may draw marks. */
export function limitsOf(timeMs: number, signal?: AbortSignal): TaskLimits {
  return { timeMs, drawingMs: RASTER_TIMEOUT_MS, signal };
}
