import type { PresetRule } from '#core/contract/preset';
import type { SheetRule } from '#core/contract/sheet';
import type { PhotoWords } from '#core/lettering/words';
import type { Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import { MM_AN_INCH } from '#core/sheet/photoOnSheet';
import type { LaidMark, MarkSource } from '../compose.ts';
import { judgedInOrder } from '../pass/markCanvas.ts';
import { wordsOn } from '../raster/artwork.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import { workingSize, type WorkingPhoto } from '../workingPhoto.ts';
import type { SheetJob } from './sheetJob.ts';

const WHITE = 255;

/** Marks in the margin of sheets: placed on the paper as on a photo, and judged on white. */
export class MarginMarks {
  private readonly known = new Map<string, Promise<Result<readonly LaidMark[]>>>();

  constructor(
    private readonly job: SheetJob,
    private readonly marks: readonly MarkSource[],
    private readonly rasteriser: Rasteriser,
  ) {}

  /** @param frame the sheet, px @param words of the first photo on it */
  on(frame: Size, words: PhotoWords): Promise<Result<readonly LaidMark[]>> {
    const { margin } = this.job;
    const said = margin.map(({ mark }) => wordsOn(this.marks[mark].artwork, words));
    const key = JSON.stringify([frame, said]);
    let laid = this.known.get(key);
    if (!laid) this.known.set(key, (laid = this.judged(frame, words)));
    return laid;
  }

  private async judged(frame: Size, words: PhotoWords): Promise<Result<readonly LaidMark[]>> {
    const { margin, rule } = this.job;
    const wanted = margin.map(({ rule: preset, adjustment, mark }) => ({
      subject: { frame, rule: inMargin(preset, rule.sheet), adjustment, words },
      mark: this.marks[mark],
    }));
    const paper = whitePaper(frame);
    const working = () => Promise.resolve(success(paper));
    const judged = await judgedInOrder(wanted, { working }, this.rasteriser);
    return judged.ok ? success(judged.value.laid) : judged;
  }
}

/** A preset as the paper wants it: what the sheet says in mm takes the place of size and inset. */
function inMargin(
  preset: PresetRule,
  { margin_mark: { width, inset }, dpi }: SheetRule,
): PresetRule {
  const pixels = (mm: number): number => (mm * dpi) / MM_AN_INCH;
  const size = width === null ? {} : { size: { basis: 'pixels', value: pixels(width) } as const };
  const edge = inset === null ? 0 : pixels(inset);
  const from = inset === null ? {} : { inset: { unit: 'pixels', x: edge, y: edge } as const };
  // Sheets that lie upright are no other case for a mark that has its size and inset in mm.
  const upright = preset.upright && { ...preset.upright, ...size, ...from };
  return { ...preset, ...size, ...from, upright };
}

function whitePaper(frame: Size): WorkingPhoto {
  const { width, height } = workingSize(frame);
  const data = new Uint8ClampedArray(width * height * 3).fill(WHITE);
  const pixels = { data, width, height, channels: 3 } as const;
  return { pixels, size: { width, height }, left: 0, top: 0 };
}
