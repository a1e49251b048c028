import type { LiftSettings } from '#core/contract/lift';
import { pickedAt, type Picked } from '#core/ink/dropper';
import type { FoundSheet } from '#core/ink/findSheet';
import { liftedInk, preparedSheet, type LiftedInk, type PreparedSheet } from '#core/ink/lift';
import { readSheet, sheetPaper, type SheetPaper, type SheetPhoto } from '#core/ink/sheetPaper';
import { inkRaster, keepsOutlines, tracedInk } from '#core/ink/liftArtwork';
import { pathData } from '#core/ink/outline';
import type { Levels } from '#core/ink/levels';
import type { Speck } from '#core/ink/specks';
import { sheetView, viewPixels } from '#core/ink/sheetView';
import { suggestedLift } from '#core/ink/suggestedLift';
import type { Pixels } from '#core/pixels';
import type { Result } from '#core/result';
import type { Box, Point, Size } from '#core/placement/geometry';

/** What the page shows of a lift. Lengths are px of the desk's copy of the sheet. */
export interface LiftLook {
  readonly sheet: Size;
  readonly crop: Box;
  readonly histogram: Uint32Array;
  readonly automatic: Levels | null;
  readonly evenness: number;
  /** Null where no ink was found. */
  readonly ink: InkLook | null;
}

export interface InkLook {
  readonly bitmap: ImageBitmap;
  /** Within the crop. */
  readonly box: Box;
  readonly levels: Levels;
  readonly specks: readonly Speck[];
  /** px² of the full size. */
  readonly speckPx2: number;
  readonly pinholePx2: number;
}

export interface OutlineLook {
  /** SVG path in px of the ink box. */
  readonly path: string;
  readonly curves: number;
  readonly amiss: number;
  readonly isKept: boolean;
}

export interface LoadedScan {
  readonly full: Size;
  readonly hasSheet: boolean;
  /** Covers what is not taken for paper in the photo; null where all of it is. */
  readonly veil: ImageBitmap | null;
  readonly cutsInk: boolean;
}

/**
 * A scan on the desk of a worker: at full size, or a copy small enough to follow a hand. Its steps
 * are kept, so that only what a change touches is done again.
 */
export class LiftDesk {
  private photo: SheetPhoto | null = null;
  private scale = 1;
  private readonly paper = new Kept<SheetPaper>();
  private readonly prepared = new Kept<PreparedSheet>();
  private readonly lifted = new Kept<Result<LiftedInk>>();

  /** @param mostPixels of the desk's copy; null works at full size */
  async load(url: string, mostPixels: number | null): Promise<LoadedScan> {
    const answer = await fetch(url);
    if (!answer.ok) throw new Error(await sentenceIn(answer));
    const whole = await createImageBitmap(await answer.blob()).catch(() => {
      throw new Error('The scan is damaged or cut short and cannot be read whole.');
    });
    const full = { width: whole.width, height: whole.height };
    const most = mostPixels ?? Infinity;
    this.scale = Math.min(1, Math.sqrt(most / (full.width * full.height)));
    const pixels = pixelsOf(whole, this.scale);
    whole.close();
    this.photo = readSheet(pixels);
    for (const kept of [this.paper, this.prepared, this.lifted]) kept.forget();
    const { found } = this.photo;
    const veil = found && (await bitmapOf(veilOver(found)));
    return { full, hasSheet: found !== null, veil, cutsInk: found?.cutsInk ?? false };
  }

  /** Settings to begin with. */
  suggested(): LiftSettings {
    return suggestedLift(this.loaded());
  }

  /** The photo upright, and the whole sheet as straightened and turned, as pictures. */
  async pictures(settings: LiftSettings): Promise<{ photo: ImageBitmap; sheet: ImageBitmap }> {
    const { pixels } = this.loaded();
    const view = sheetView(pixels, { ...settings, crop: null });
    const [photo, sheet] = await Promise.all([
      bitmapOf(pixels),
      bitmapOf(viewPixels(pixels, view)),
    ]);
    return { photo, sheet };
  }

  async look(settings: LiftSettings): Promise<LiftLook> {
    const sheet = this.sheetFor(settings);
    const lifted = this.liftedFor(settings);
    return {
      sheet: sheet.view.sheet,
      crop: sheet.view.crop,
      histogram: sheet.histogram,
      automatic: sheet.automatic,
      evenness: sheet.evenness,
      ink: lifted.ok
        ? {
            bitmap: await bitmapOf(inkRaster(lifted.value)),
            box: lifted.value.inkBox,
            levels: lifted.value.levels,
            specks: lifted.value.specks,
            speckPx2: lifted.value.speckPx2,
            pinholePx2: lifted.value.pinholePx2,
          }
        : null,
    };
  }

  /** Null where there is no ink, or ink in its own colours. */
  outlines(settings: LiftSettings): OutlineLook | null {
    const lifted = this.liftedFor(settings);
    const traced = lifted.ok ? tracedInk(lifted.value, settings) : null;
    if (!traced) return null;
    const { outlines } = traced.outlines;
    return {
      path: pathData(outlines),
      curves: outlines.reduce((sum, { curves }) => sum + curves.length, 0),
      amiss: traced.amiss,
      isKept: keepsOutlines(traced, settings),
    };
  }

  /** The crop that fits the ink as the sheet is now looked at. */
  cropRoundInk(settings: LiftSettings): LiftSettings['crop'] {
    return suggestedLift(this.loaded(), settings).crop;
  }

  pick(settings: LiftSettings, place: Point): Picked | null {
    return pickedAt(this.sheetFor(settings), place);
  }

  private loaded(): SheetPhoto {
    if (!this.photo) throw new Error('No scan is loaded.');
    return this.photo;
  }

  private sheetFor(settings: LiftSettings): PreparedSheet {
    const { corners, sheet, turn, angle, crop, inkColour } = settings;
    const photo = this.loaded();
    const view = [corners, sheet, turn, angle, inkColour];
    return this.prepared.of([view, crop], () =>
      preparedSheet(
        photo,
        settings,
        this.paper.of(view, () => sheetPaper(photo, settings)),
      ),
    );
  }

  private liftedFor(settings: LiftSettings): Result<LiftedInk> {
    // Outlines are made of what is lifted; how they are made does not change it.
    const rest = { ...settings, smoothing: null, form: null };
    return this.lifted.of(rest, () => liftedInk(this.sheetFor(settings), settings, this.scale));
  }
}

/** The last result of a step, and what it was made from. */
class Kept<T> {
  private last: { readonly key: string; readonly value: T } | null = null;

  of(from: unknown, make: () => T): T {
    const key = JSON.stringify(from);
    if (this.last?.key !== key) this.last = { key, value: make() };
    return this.last.value;
  }

  forget(): void {
    this.last = null;
  }
}

/** Half of a deep blue, as the ground the application lays pictures on. */
const VEIL = [20, 48, 61, 150] as const;

function veilOver({ paper, grid }: FoundSheet): Pixels {
  const data = new Uint8ClampedArray(paper.length * 4);
  paper.forEach((flag, at) => {
    if (!flag) data.set(VEIL, at * 4);
  });
  return { data, ...grid, channels: 4 };
}

function pixelsOf(whole: ImageBitmap, scale: number): Pixels {
  const width = Math.max(1, Math.round(whole.width * scale));
  const height = Math.max(1, Math.round(whole.height * scale));
  const context = contextOf(width, height);
  context.imageSmoothingQuality = 'high';
  // Transparent parts are paper that was not scanned.
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
  context.drawImage(whole, 0, 0, width, height);
  return { data: context.getImageData(0, 0, width, height).data, width, height, channels: 4 };
}

function contextOf(width: number, height: number): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(width, height).getContext('2d', {
    willReadFrequently: true,
  });
  if (!context) throw new Error('This browser gives no canvas to work on.');
  return context;
}

function bitmapOf({ data, width, height, channels }: Pixels): Promise<ImageBitmap> {
  if (channels === 4) {
    return createImageBitmap(new ImageData(new Uint8ClampedArray(data), width, height));
  }
  const rgba = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let from = 0, to = 0; from < data.length; from += 3, to += 4) {
    rgba[to] = data[from];
    rgba[to + 1] = data[from + 1];
    rgba[to + 2] = data[from + 2];
  }
  return createImageBitmap(new ImageData(rgba, width, height));
}

async function sentenceIn(answer: Response): Promise<string> {
  const body = (await answer.json().catch(() => null)) as { message?: string } | null;
  return body?.message ?? 'The scan could not be read.';
}
