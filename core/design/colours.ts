import { hexOf, rgbOf } from '../colour/hex.ts';
import type { Layer, Part } from '../contract/design.ts';
import type { ToneChoice } from '../contract/preset.ts';
import { toneColour } from '../mark/tone.ts';
import { lightness } from '../readability/lightness.ts';

/** What lettering, strokes and shapes are drawn in until a colour is chosen. */
export const PLAIN_INK = '#000000';

const DARK = '#000000';
const LIGHT = '#ffffff';
/** L* from which a colour counts as light. */
const MIDDLE_LIGHTNESS = 50;

/** The one colour a layer is drawn in, or null for artwork in colours of its own. */
export function layerColour(layer: Layer, part: Part | null, tone: ToneChoice): string | null {
  const toned = layer.toned ? toneColour(tone) : null;
  if (toned) return hexOf(toned);
  if (layer.colour) return layer.colour;
  const isPlain = layer.kind !== 'artwork' || part?.kind === 'outline';
  return isPlain ? PLAIN_INK : null;
}

/**
 * The colour of a finish.
 *
 * @param ink colour of what is finished; null where it has several
 */
export function finishColour(colour: string, ink: string | null, tone: ToneChoice): string {
  const own = ink ?? PLAIN_INK;
  if (colour === 'ink') return own;
  if (colour !== 'contrast') return colour;
  const shown = toneColour(tone);
  return isLight(shown ? hexOf(shown) : own) ? DARK : LIGHT;
}

function isLight(hex: string): boolean {
  return lightness(...rgbOf(hex)) > MIDDLE_LIGHTNESS;
}
