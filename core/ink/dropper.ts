import { LINEAR_OF_BYTE } from '../colour/linearLight.ts';
import type { Point } from '../placement/geometry.ts';
import { channelWeights, type Triple } from './inkColour.ts';
import type { PreparedSheet } from './lift.ts';
import { LINEAR_CHANNELS } from './linearImage.ts';

/** What a dropper finds: reflectance in all and in each channel. */
export interface Picked {
  readonly level: number;
  readonly colour: Triple;
}

/** A dropper looks at this many px to each side, since one pixel is grain. */
const REACH_PX = 2;

/** @param place as shares of the straightened sheet; null where it is outside of the crop */
export function pickedAt(sheet: PreparedSheet, place: Point): Picked | null {
  const { view, pixels, field } = sheet;
  const x = Math.floor(place.x * view.sheet.width) - view.crop.x;
  const y = Math.floor(place.y * view.sheet.height) - view.crop.y;
  if (x < 0 || y < 0 || x >= pixels.width || y >= pixels.height) return null;
  const sums = [0, 0, 0];
  let count = 0;
  for (let row = y - REACH_PX; row <= y + REACH_PX; row++) {
    for (let column = x - REACH_PX; column <= x + REACH_PX; column++) {
      if (row < 0 || column < 0 || row >= pixels.height || column >= pixels.width) continue;
      const at = (row * pixels.width + column) * pixels.channels;
      for (let channel = 0; channel < LINEAR_CHANNELS; channel++) {
        sums[channel] += LINEAR_OF_BYTE[pixels.data[at + channel]];
      }
      count++;
    }
  }
  const fieldX = Math.min(field.width - 1, Math.floor(place.x * field.width));
  const fieldY = Math.min(field.height - 1, Math.floor(place.y * field.height));
  const at = (fieldY * field.width + fieldX) * LINEAR_CHANNELS;
  const colour = sums.map((sum, channel) =>
    Math.min(2, sum / count / Math.max(1e-3, field.data[at + channel])),
  ) as unknown as Triple;
  return { level: levelOf(colour, sheet.weights), colour };
}

/** The level of an ink of this colour, read by the channels that show it best. */
export function inkLevelOf(colour: Triple): number {
  return levelOf(colour, channelWeights(colour));
}

function levelOf(colour: Triple, weights: Triple): number {
  return colour[0] * weights[0] + colour[1] * weights[1] + colour[2] * weights[2];
}
