import type { LiftSettings } from '../contract/lift.ts';
import type { Pixels } from '../pixels.ts';
import { radians, type Box, type Size } from '../placement/geometry.ts';
import {
  composed,
  mapped,
  rotation,
  scaling,
  translation,
  unitSquareTo,
  type Homography,
  type Quad,
} from './homography.ts';
import { LINEAR_CHANNELS, type LinearImage } from './linearImage.ts';

/**
 * How the sheet is looked at: straightened by its corners, turned by quarters, then by a fine angle,
 * then cropped. All of it is one map from the view's pixels to the photo's, so nothing is resampled
 * twice, and nothing at all where only quarter turns and a crop are asked.
 */
export interface SheetView {
  /** The straightened, turned sheet, px. */
  readonly sheet: Size;
  /** Part of it that is lifted, whole px. */
  readonly crop: Box;
  /** From points of the sheet to points of the photo, px, pixel corners at whole numbers. */
  readonly toPhoto: Homography;
  /** Set when each pixel of the sheet is a pixel of the photo. */
  readonly isExact: boolean;
}

export type ViewSettings = Pick<LiftSettings, 'corners' | 'turn' | 'angle' | 'crop'>;

export function sheetView(photo: Size, settings: ViewSettings): SheetView {
  const { width, height } = photo;
  const flat = settings.corners ? straightenedSize(photo, settings.corners) : { width, height };
  const lies = settings.turn % 180 !== 0;
  const sheet = lies ? { width: flat.height, height: flat.width } : flat;
  const toPhoto = composed(
    settings.corners ? straightening(photo, flat, settings.corners) : scaling(1, 1),
    composed(unturning(flat, settings.turn), unangling(sheet, settings.angle)),
  );
  return {
    sheet,
    crop: wholeCrop(sheet, settings.crop),
    toPhoto,
    isExact: !settings.corners && settings.angle === 0,
  };
}

/** The crop in whole pixels, at least one, inside the sheet. */
function wholeCrop(sheet: Size, crop: LiftSettings['crop']): Box {
  if (!crop) return { x: 0, y: 0, ...sheet };
  const x = Math.min(Math.round(crop.x * sheet.width), sheet.width - 1);
  const y = Math.min(Math.round(crop.y * sheet.height), sheet.height - 1);
  return {
    x,
    y,
    width: Math.max(1, Math.min(Math.round(crop.width * sheet.width), sheet.width - x)),
    height: Math.max(1, Math.min(Math.round(crop.height * sheet.height), sheet.height - y)),
  };
}

type Corners = NonNullable<LiftSettings['corners']>;

function cornersPx(photo: Size, corners: Corners): Quad {
  const [a, b, c, d] = corners.map(({ x, y }) => ({ x: x * photo.width, y: y * photo.height }));
  return [a, b, c, d];
}

/** Opposite edges of the sheet are equally long: each side takes the mean of its two. */
function straightenedSize(photo: Size, corners: Corners): Size {
  const [a, b, c, d] = cornersPx(photo, corners);
  const length = (p: typeof a, q: typeof a) => Math.hypot(p.x - q.x, p.y - q.y);
  return {
    width: Math.max(1, Math.round((length(a, b) + length(d, c)) / 2)),
    height: Math.max(1, Math.round((length(a, d) + length(b, c)) / 2)),
  };
}

function straightening(photo: Size, flat: Size, corners: Corners): Homography {
  return composed(
    unitSquareTo(cornersPx(photo, corners)),
    scaling(1 / flat.width, 1 / flat.height),
  );
}

/** From the turned sheet back to the one before the quarter turns. */
function unturning(flat: Size, turn: LiftSettings['turn']): Homography {
  switch (turn) {
    case 0:
      return scaling(1, 1);
    case 90:
      return [0, 1, 0, -1, 0, flat.height, 0, 0, 1];
    case 180:
      return [-1, 0, flat.width, 0, -1, flat.height, 0, 0, 1];
    case 270:
      return [0, -1, flat.width, 1, 0, 0, 0, 0, 1];
    default:
      throw new Error(`Unknown turn ${turn satisfies never}`);
  }
}

function unangling(sheet: Size, angleDeg: number): Homography {
  if (angleDeg === 0) return scaling(1, 1);
  const x = sheet.width / 2;
  const y = sheet.height / 2;
  return composed(translation(x, y), composed(rotation(-radians(angleDeg)), translation(-x, -y)));
}

/** The map from the sheet's points to the photo's, for both given as fractions of their sizes. */
export function fractionsToPhoto(photo: Size, view: SheetView): Homography {
  return composed(
    scaling(1 / photo.width, 1 / photo.height),
    composed(view.toPhoto, scaling(view.sheet.width, view.sheet.height)),
  );
}

/** The cropped view as pixels; what lies outside of the photo repeats its edge. */
export function viewPixels(photo: Pixels, view: SheetView): Pixels {
  return view.isExact ? copied(photo, view) : resampled(photo, view);
}

function copied(photo: Pixels, { crop, toPhoto }: SheetView): Pixels {
  const { data, width, channels } = photo;
  const isWhole = toPhoto[0] === 1 && crop.x === 0 && crop.y === 0 && crop.width === width;
  if (isWhole && crop.height === photo.height) return photo;
  const out = new Uint8ClampedArray(crop.width * crop.height * channels);
  const start = mapped(toPhoto, { x: crop.x + 0.5, y: crop.y + 0.5 });
  const first = (Math.floor(start.y) * width + Math.floor(start.x)) * channels;
  const stepX = (toPhoto[0] + toPhoto[3] * width) * channels;
  const stepY = (toPhoto[1] + toPhoto[4] * width) * channels;
  for (let y = 0, to = 0; y < crop.height; y++) {
    let from = first + y * stepY;
    if (stepX === channels) {
      out.set(data.subarray(from, from + crop.width * channels), to);
      to += crop.width * channels;
      continue;
    }
    for (let x = 0; x < crop.width; x++, from += stepX, to += channels) {
      for (let channel = 0; channel < channels; channel++) out[to + channel] = data[from + channel];
    }
  }
  return { data: out, width: crop.width, height: crop.height, channels };
}

/** Bilinear: the map keeps about the photo's own scale, where this neither skips nor rings. */
function resampled(photo: Pixels, { crop, toPhoto }: SheetView): Pixels {
  const { data, width, height, channels } = photo;
  const out = new Uint8ClampedArray(crop.width * crop.height * channels);
  const [a, b, c, d, e, f, g, h, i] = toPhoto;
  for (let y = 0, to = 0; y < crop.height; y++) {
    const viewY = crop.y + y + 0.5;
    for (let x = 0; x < crop.width; x++, to += channels) {
      const viewX = crop.x + x + 0.5;
      const w = g * viewX + h * viewY + i;
      const photoX = Math.min(Math.max((a * viewX + b * viewY + c) / w - 0.5, 0), width - 1);
      const photoY = Math.min(Math.max((d * viewX + e * viewY + f) / w - 0.5, 0), height - 1);
      const left = Math.floor(photoX);
      const top = Math.floor(photoY);
      const shareX = photoX - left;
      const shareY = photoY - top;
      const at = (top * width + left) * channels;
      const right = left + 1 < width ? channels : 0;
      const below = top + 1 < height ? width * channels : 0;
      const diagonal = below + right;
      for (let p = at, end = at + channels, q = to; p < end; p++, q++) {
        const upper = data[p] + (data[p + right] - data[p]) * shareX;
        const lower = data[p + below] + (data[p + diagonal] - data[p + below]) * shareX;
        out[q] = upper + (lower - upper) * shareY;
      }
    }
  }
  return { data: out, width: crop.width, height: crop.height, channels };
}

/** Size of the whole sheet (not only the crop) at the scale of a reduced photo. */
export function linearSize(reduced: Size, photo: Size, { sheet }: SheetView): Size {
  const scale = Math.max(reduced.width / photo.width, reduced.height / photo.height);
  return {
    width: Math.max(1, Math.round(sheet.width * scale)),
    height: Math.max(1, Math.round(sheet.height * scale)),
  };
}

/**
 * The sheet from a reduced photo, at the reduced photo's scale.
 *
 * @param part of the sheet at that scale; without it all of it
 * @returns with `outside` 1 where the view shows what the photo does not hold
 */
export function viewLinear(
  reduced: LinearImage,
  photo: Size,
  view: SheetView,
  part?: Box,
): { readonly image: LinearImage; readonly outside: Uint8Array } {
  const whole = linearSize(reduced, photo, view);
  const { x: left, y: top, width, height } = part ?? { x: 0, y: 0, ...whole };
  const map = composed(
    scaling(reduced.width / photo.width, reduced.height / photo.height),
    composed(
      view.toPhoto,
      scaling(view.sheet.width / whole.width, view.sheet.height / whole.height),
    ),
  );
  const data = new Float32Array(width * height * LINEAR_CHANNELS);
  const outside = new Uint8Array(width * height);
  for (let y = 0, index = 0; y < height; y++) {
    for (let x = 0; x < width; x++, index++) {
      const point = mapped(map, { x: left + x + 0.5, y: top + y + 0.5 });
      const inside =
        point.x >= 0 && point.y >= 0 && point.x <= reduced.width && point.y <= reduced.height;
      if (!inside) outside[index] = 1;
      sample(reduced, point.x - 0.5, point.y - 0.5, data, index * LINEAR_CHANNELS);
    }
  }
  return { image: { data, width, height }, outside };
}

function sample(
  { data, width, height }: LinearImage,
  x: number,
  y: number,
  out: Float32Array,
  to: number,
): void {
  const atX = Math.min(Math.max(x, 0), width - 1);
  const atY = Math.min(Math.max(y, 0), height - 1);
  const left = Math.floor(atX);
  const top = Math.floor(atY);
  const shareX = atX - left;
  const shareY = atY - top;
  const at = (top * width + left) * LINEAR_CHANNELS;
  const right = left + 1 < width ? LINEAR_CHANNELS : 0;
  const below = top + 1 < height ? width * LINEAR_CHANNELS : 0;
  for (let channel = 0; channel < LINEAR_CHANNELS; channel++) {
    const p = at + channel;
    const upper = data[p] + (data[p + right] - data[p]) * shareX;
    const lower = data[p + below] + (data[p + below + right] - data[p + below]) * shareX;
    out[to + channel] = upper + (lower - upper) * shareY;
  }
}
