import { LINEAR_OF_BYTE, byteOfLinear } from '../colour/linearLight.ts';
import type { Pixels } from '../pixels.ts';
import type { Box, Size } from '../placement/geometry.ts';
import type { Triple } from './inkColour.ts';
import { LINEAR_CHANNELS, type LinearImage } from './linearImage.ts';
import { REFLECTANCE_ONE, REFLECTANCE_STEPS, type Reflectance } from './plane.ts';

/** Paper darker than this cannot be told from anything. */
const DARKEST_PAPER = 1e-3;

/** The field is read anew this many times between two of its rows. */
const ROWS_PER_FIELD_ROW = 4;

/** Where a crop's pixels lie in the field, which covers the whole sheet at a smaller size. */
interface FieldPlace {
  readonly field: LinearImage;
  readonly outside: Uint8Array;
  readonly sheet: Size;
  readonly crop: Box;
}

/**
 * Pixel ÷ paper in linear light, one value a pixel: 1 is bare paper, 0 no light at all. What lies
 * outside of the sheet is given as bare paper.
 */
export function reflectance(pixels: Pixels, place: FieldPlace, weights: Triple): Reflectance {
  const { data, width, height, channels } = pixels;
  const linear = LINEAR_OF_BYTE;
  const out = new Uint16Array(width * height);
  const row = new PaperRow(
    place,
    width,
    weights.map((weight) => weight * REFLECTANCE_ONE),
  );
  const { red, green, blue, outside } = row;
  for (let y = 0, at = 0, index = 0; y < height; y++) {
    row.moveTo(y);
    for (let x = 0; x < width; x++, at += channels, index++) {
      const value =
        linear[data[at]] * red[x] +
        linear[data[at + 1]] * green[x] +
        linear[data[at + 2]] * blue[x];
      out[index] = value < REFLECTANCE_STEPS ? value : REFLECTANCE_STEPS - 1;
    }
    if (!row.hasOutside) continue;
    for (let x = 0, from = index - width; x < width; x++, from++) {
      if (outside[x]) out[from] = REFLECTANCE_ONE;
    }
  }
  return { data: out, width, height };
}

/**
 * The crop as it would look on white, evenly lit paper.
 *
 * @param paper reflectance that becomes white
 */
export function onWhitePaper(pixels: Pixels, place: FieldPlace, paper: number): Pixels {
  const { data, width, height, channels } = pixels;
  const out = new Uint8ClampedArray(width * height * 3).fill(255);
  const row = new PaperRow(place, width, [1 / paper, 1 / paper, 1 / paper]);
  const { red, green, blue, outside } = row;
  for (let y = 0, at = 0, to = 0; y < height; y++) {
    row.moveTo(y);
    for (let x = 0; x < width; x++, at += channels, to += 3) {
      if (outside[x]) continue;
      out[to] = byteOfLinear(LINEAR_OF_BYTE[data[at]] * red[x]);
      out[to + 1] = byteOfLinear(LINEAR_OF_BYTE[data[at + 1]] * green[x]);
      out[to + 2] = byteOfLinear(LINEAR_OF_BYTE[data[at + 2]] * blue[x]);
    }
  }
  return { data: out, width, height, channels: 3 };
}

/** What light is multiplied by along one row of the crop: 1 ÷ paper, read between the field's pixels. */
class PaperRow {
  readonly red: Float32Array;
  readonly green: Float32Array;
  readonly blue: Float32Array;
  /** 1 where the row is not of the sheet. */
  readonly outside: Uint8Array;
  hasOutside = false;
  private readonly place: FieldPlace;
  private readonly factors: readonly number[];
  private readonly inverse: Float32Array;
  private readonly left: Int32Array;
  private readonly share: Float32Array;
  private readonly rowsShared: number;

  /** @param factors what each channel is multiplied by besides */
  constructor(place: FieldPlace, width: number, factors: readonly number[]) {
    const { field, sheet, crop } = place;
    this.place = place;
    this.factors = factors;
    this.rowsShared = Math.max(1, Math.floor(sheet.height / field.height / ROWS_PER_FIELD_ROW));
    this.red = new Float32Array(width);
    this.green = new Float32Array(width);
    this.blue = new Float32Array(width);
    this.outside = new Uint8Array(width);
    // One pixel more than the field has, so that the last one can be read between, too.
    this.inverse = new Float32Array((field.width + 1) * LINEAR_CHANNELS);
    this.left = new Int32Array(width);
    this.share = new Float32Array(width);
    for (let x = 0; x < width; x++) {
      const at = ((crop.x + x + 0.5) / sheet.width) * field.width - 0.5;
      const held = Math.min(Math.max(at, 0), field.width - 1);
      this.left[x] = Math.floor(held);
      this.share[x] = held - this.left[x];
    }
  }

  /** Neighbouring rows of a large sheet share one reading: the field changes over many of them. */
  moveTo(y: number): void {
    const { field, outside: mask, sheet, crop } = this.place;
    if (y % this.rowsShared !== 0) return;
    const at = ((crop.y + y + 0.5) / sheet.height) * field.height - 0.5;
    const held = Math.min(Math.max(at, 0), field.height - 1);
    const top = Math.floor(held);
    const below = Math.min(top + 1, field.height - 1);
    const share = held - top;
    const { inverse, factors, left, share: across, red, green, blue, outside } = this;
    const rowLength = field.width * LINEAR_CHANNELS;
    for (let index = 0; index < rowLength; index++) {
      const upper = field.data[top * rowLength + index];
      const lower = field.data[below * rowLength + index];
      const paper = Math.max(DARKEST_PAPER, upper + (lower - upper) * share);
      inverse[index] = factors[index % LINEAR_CHANNELS] / paper;
    }
    inverse.copyWithin(rowLength, rowLength - LINEAR_CHANNELS, rowLength);
    const maskRow = (share < 0.5 ? top : below) * field.width;
    this.hasOutside = mask.subarray(maskRow, maskRow + field.width).includes(1);
    for (let x = 0; x < red.length; x++) {
      const from = left[x] * LINEAR_CHANNELS;
      const part = across[x];
      red[x] = inverse[from] + (inverse[from + 3] - inverse[from]) * part;
      green[x] = inverse[from + 1] + (inverse[from + 4] - inverse[from + 1]) * part;
      blue[x] = inverse[from + 2] + (inverse[from + 5] - inverse[from + 2]) * part;
      outside[x] = this.hasOutside ? mask[maskRow + left[x] + (part < 0.5 ? 0 : 1)] : 0;
    }
  }
}
