import type { PhotoWords } from '#core/lettering/words';
import type { Box, Size } from '#core/placement/geometry';
import { scaledCopies } from '#core/placement/scaledCopies';
import { exampleWords } from '#core/lettering/photoWords';
import { success, type Result } from '#core/result';
import { MM_AN_INCH, sheetsWithPhotos, trimOf } from '#core/sheet/photoOnSheet';
import type { PlannedSheet, SheetPhoto } from '#core/sheet/planSheets';
import type { LaidMark, MarkSource } from '../compose.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import { MarginMarks } from './marginMarks.ts';
import type { SheetJob, SheetPhotoJob } from './sheetJob.ts';

/** Marks on an area of a sheet. */
export interface MarkedArea {
  /** mm from the upper left corner of the trimmed sheet. */
  readonly box: Box;
  /** The same in px of the print; the marks lie in it. */
  readonly frame: Size;
  readonly laid: readonly LaidMark[];
}

/** A photo on a sheet with all that belongs to it. */
export interface LaidPhoto extends SheetPhoto {
  readonly photo: SheetPhotoJob;
  readonly marked: MarkedArea;
}

export interface LaidSheet {
  readonly size: Size;
  readonly photos: readonly LaidPhoto[];
  /** Marks in the margin, over the photos. */
  readonly margin: MarkedArea;
}

/** Sheets as they are going to be drawn, on paper or as a picture. */
export class SheetLayout {
  private readonly margins: MarginMarks;

  private constructor(
    private readonly job: SheetJob,
    private readonly marks: readonly MarkSource[],
    private readonly sheets: readonly PlannedSheet[],
    rasteriser: Rasteriser,
  ) {
    this.margins = new MarginMarks(job, marks, rasteriser);
  }

  static of(
    job: SheetJob,
    marks: readonly MarkSource[],
    rasteriser: Rasteriser,
  ): Result<SheetLayout> {
    const given = job.photos.map(({ size, path }) => ({ size, isThere: path !== null }));
    const sheets = sheetsWithPhotos(job.rule.sheet, given);
    return sheets.ok ? success(new SheetLayout(job, marks, sheets.value, rasteriser)) : sheets;
  }

  get count(): number {
    return this.sheets.length;
  }

  async sheet(at: number): Promise<Result<LaidSheet>> {
    const { size, photos } = this.sheets[at];
    const laid = photos.map((planned) => this.photoOn(planned, size));
    const words = laid.find(({ photo }) => photo.words)?.photo.words ?? UNKNOWN_WORDS;
    const frame = this.pixels(size);
    const margin = await this.margins.on(frame, words);
    if (!margin.ok) return margin;
    const box = { x: 0, y: 0, ...size };
    return success({ size, photos: laid, margin: { box, frame, laid: margin.value } });
  }

  private photoOn(planned: SheetPhoto, sheet: Size): LaidPhoto {
    const photo = this.job.photos[planned.index];
    const { box } = planned;
    const trim = trimOf(box, sheet);
    const seen = {
      x: box.x + trim.x * box.width,
      y: box.y + trim.y * box.height,
      width: box.width * trim.width,
      height: box.height * trim.height,
    };
    const frame = this.pixels(seen);
    // Placed in the pixels of the photo, which may be fewer than those of the print.
    const factor = frame.width / photo.frame.width;
    const laid = photo.marks.map(({ placement, mark }) => ({
      placement: { ...placement, copies: scaledCopies(placement.copies, factor) },
      mark: this.marks[mark],
      words: photo.words ?? UNKNOWN_WORDS,
    }));
    return { ...planned, photo, marked: { box: seen, frame, laid } };
  }

  private pixels({ width, height }: Size): Size {
    const pixels = (mm: number): number =>
      Math.max(1, Math.round((mm * this.job.rule.sheet.dpi) / MM_AN_INCH));
    return { width: pixels(width), height: pixels(height) };
  }
}

/** Of sheets on which no photo says any. */
const UNKNOWN_WORDS: PhotoWords = exampleWords(new Date().getFullYear());
