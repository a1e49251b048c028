import { LUMINANCE_WEIGHTS } from '../colour/linearLight.ts';
import { LINEAR_CHANNELS, type LinearImage } from './linearImage.ts';

/** Red, green and blue, in linear light. */
export type Triple = readonly [number, number, number];

/** Paper this dark in relation to the empty sheet has ink on it. */
const INK_BELOW = 0.75;
/** Of the ink pixels, the darkest share shows its colour best. */
const DARKEST_SHARE = 0.25;

/** Reflectance of the ink in each channel, or null where there is none to be seen. */
export function inkColour(
  sheet: LinearImage,
  field: LinearImage,
  outside: Uint8Array,
): Triple | null {
  const found: { readonly light: number; readonly at: number }[] = [];
  for (let index = 0, at = 0; index < outside.length; index++, at += LINEAR_CHANNELS) {
    if (outside[index]) continue;
    let light = 0;
    for (let channel = 0; channel < LINEAR_CHANNELS; channel++) {
      light += (LUMINANCE_WEIGHTS[channel] * sheet.data[at + channel]) / field.data[at + channel];
    }
    if (light < INK_BELOW) found.push({ light, at });
  }
  if (found.length === 0) return null;
  found.sort((a, b) => a.light - b.light);
  const darkest = found.slice(0, Math.max(1, Math.round(found.length * DARKEST_SHARE)));
  const mean = (channel: number): number =>
    darkest.reduce((sum, { at }) => sum + sheet.data[at + channel] / field.data[at + channel], 0) /
    darkest.length;
  return [mean(0), mean(1), mean(2)];
}

/**
 * How much each channel says about coverage. A pixel is `1 − coverage · (1 − ink)` in each channel,
 * so by least squares the channels count in the measure in which the ink darkens them: a blue pen is
 * read in red, where it is dark, and not in blue, where it hardly differs from paper.
 */
export function channelWeights(ink: Triple | null): Triple {
  if (!ink) return LUMINANCE_WEIGHTS;
  const depths = ink.map((value) => Math.max(0, 1 - value));
  const total = depths[0] + depths[1] + depths[2];
  if (total <= 0) return LUMINANCE_WEIGHTS;
  return [depths[0] / total, depths[1] / total, depths[2] / total];
}
