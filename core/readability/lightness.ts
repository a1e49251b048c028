import { LUMINANCE_WEIGHTS, linearLight } from '../colour/linearLight.ts';

/**
 * CIE L* (0 to 100) of sRGB pixels. Luminance is taken from linear light only, with the Rec. 709
 * weights; CIE 15 for L*.
 */

/** CIE constants in their exact form, (6/29)³ and (29/3)³. */
const EPSILON = 216 / 24_389;
const KAPPA = 24_389 / 27;

/** Steps of the table from luminance to L*; the steepest one, near black, spans 0.06 L*. */
const STEPS = 16_384;

/** Linear light of an 8-bit sRGB value, weighted for each channel, in steps of the table. */
const [RED, GREEN, BLUE] = LUMINANCE_WEIGHTS.map((weight) =>
  Float64Array.from({ length: 256 }, (_, value) => weight * linearLight(value / 255) * STEPS),
);

const LIGHTNESS = Float32Array.from({ length: STEPS + 1 }, (_, step) =>
  lightnessOfLuminance(step / STEPS),
);

/** L* of an 8-bit sRGB colour, within 0.03. */
export function lightness(red: number, green: number, blue: number): number {
  // Cutting off is rounding here, and several times faster: this runs for every pixel looked at.
  return LIGHTNESS[(RED[red] + GREEN[green] + BLUE[blue] + 0.5) | 0];
}

function lightnessOfLuminance(y: number): number {
  return y > EPSILON ? 116 * Math.cbrt(y) - 16 : KAPPA * y;
}
