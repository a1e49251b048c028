import { encode } from 'fast-png';
import { rgbOf } from '../../colour/hex.ts';
import { unitsOf, type FinishOf } from '../../contract/finish.ts';
import { FULL } from '../../ink/plane.ts';
import type { Path } from '../../path/path.ts';
import { grownBox } from '../../path/pathBox.ts';
import { radians, type Box } from '../../placement/geometry.ts';
import { base64Of } from './base64.ts';
import { blurredPlane, filledPlane, grownPlane, type Piece } from './softPlane.ts';

/**
 * Soft finishes as small pictures that are embedded in a mark's SVG. They are computed here, since
 * renderers do not agree on filters and are slow at them; what is blurred needs few pixels, and
 * every renderer enlarges those alike.
 */
export interface SoftPicture {
  /** Where it lies, units. */
  readonly box: Box;
  /** A data address. */
  readonly href: string;
}

/** Pixels for a standard deviation: with this many, straight lines between them are not seen. */
const PIXELS_PER_SIGMA = 1.8;
/** A bevel turns from light to shade within one, so it needs more. */
const BEVEL_PIXELS_PER_SIGMA = 1.9;
/** Pixels a unit at most: a mark is rarely drawn larger than two pixels a unit. */
const MOST_DENSITY = 2;
/** Room a blur takes, standard deviations. */
const REACH_SIGMAS = 3;
/** Softness as set is about what the eye takes for the width of the edge. */
const SIGMAS_OF_SOFTNESS = 0.5;
const SIGMAS_OF_GLOW = 0.42;
const SIGMAS_OF_BEVEL = 0.5;
/** A glow of full strength fills thin strokes' surroundings almost wholly. */
const LEAST_GLOW_GAIN = 1.2;
const MOST_GLOW_GAIN = 14;

export function shadowSigma({ softness }: FinishOf<'shadow'>): number {
  return unitsOf(softness) * SIGMAS_OF_SOFTNESS;
}

/** How far a shadow is moved, units. */
export function shadowShift({ distance, angle }: FinishOf<'shadow'>): [number, number] {
  const far = unitsOf(distance);
  return [far * Math.cos(radians(angle)), far * Math.sin(radians(angle))];
}

export function glowSigma({ radius }: FinishOf<'glow'>): number {
  return unitsOf(radius) * SIGMAS_OF_GLOW;
}

/** How far beyond the silhouette what is blurred still shows, units. */
export function softReach(sigma: number): number {
  return sigma * REACH_SIGMAS;
}

/** @param grown units by which an outline widens what casts the shadow */
export function shadowPicture(
  pieces: readonly Piece[],
  ink: Box,
  shadow: FinishOf<'shadow'>,
  grown: number,
  colour: string,
): SoftPicture {
  const sigma = shadowSigma(shadow);
  const blurred = softPlane(pieces, ink, sigma, grown);
  const [dx, dy] = shadowShift(shadow);
  const box = { ...blurred.box, x: blurred.box.x + dx, y: blurred.box.y + dy };
  return picture({ ...blurred, box }, colour, (share) => share * shadow.strength);
}

export function glowPicture(
  pieces: readonly Piece[],
  ink: Box,
  glow: FinishOf<'glow'>,
  grown: number,
  colour: string,
): SoftPicture {
  const blurred = softPlane(pieces, ink, glowSigma(glow), grown);
  const gain = LEAST_GLOW_GAIN + (MOST_GLOW_GAIN - LEAST_GLOW_GAIN) * glow.strength ** 2;
  const full = 1 - Math.exp(-gain);
  return picture(blurred, colour, (share) => ((1 - Math.exp(-gain * share)) / full) * glow.opacity);
}

/** A plate with soft edges. @param softness units */
export function cloudPicture(
  path: Path,
  box: Box,
  softness: number,
  strength: number,
  colour: string,
): SoftPicture {
  return picture(
    softPlane([{ path, x: 0, y: 0 }], box, softness, 0),
    colour,
    (share) => share * strength,
  );
}

/**
 * Light and shade on the slopes of the silhouette, seen as a relief whose edges are as wide as the
 * bevel: white where a slope faces the light, black where it turns away.
 */
export function bevelPicture(
  pieces: readonly Piece[],
  ink: Box,
  { size, depth, angle, form }: FinishOf<'bevel'>,
): SoftPicture {
  const sigma = unitsOf(size) * SIGMAS_OF_BEVEL;
  const soft = softPlane(pieces, ink, sigma, 0, BEVEL_PIXELS_PER_SIGMA);
  const { values, width, height, density } = soft;
  const facing = form === 'raised' ? 1 : -1;
  const towards = [Math.cos(radians(angle)) * facing, Math.sin(radians(angle)) * facing];
  // The steepest slope of a straight edge that is blurred with this deviation.
  const steepest = FULL / (Math.max(sigma * density, 1e-3) * Math.sqrt(2 * Math.PI));
  const data = new Uint8Array(width * height * 2);
  // Ground rises into the ink, so it faces the light where it falls towards it. There is room all
  // round, in which nothing rises.
  const [alongX, alongY] = towards.map((share) => (-share / steepest / 2) * depth * FULL);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const from = y * width + x;
      const light =
        (values[from + 1] - values[from - 1]) * alongX +
        (values[from + width] - values[from - width]) * alongY;
      if (light === 0) continue;
      data[from * 2] = light > 0 ? FULL : 0;
      data[from * 2 + 1] = Math.min(FULL, Math.abs(light));
    }
  }
  return encoded(data, width, height, 2, soft.box);
}

interface SoftPlane {
  readonly values: Float32Array;
  readonly width: number;
  readonly height: number;
  readonly density: number;
  readonly box: Box;
}

function softPlane(
  pieces: readonly Piece[],
  ink: Box,
  sigma: number,
  grown: number,
  pixelsPerSigma = PIXELS_PER_SIGMA,
): SoftPlane {
  const density = Math.min(MOST_DENSITY, pixelsPerSigma / Math.max(sigma, 1e-3));
  const room = grown + softReach(sigma) + 2 / density;
  const filled = filledPlane(pieces, grownBox(ink, room), density);
  const wide = grownPlane(filled.plane, grown * filled.density);
  return {
    values: blurredPlane(wide, sigma * filled.density),
    width: wide.width,
    height: wide.height,
    density: filled.density,
    box: filled.box,
  };
}

/** Steps of the table from blurred coverage to alpha; the steepest glow spans a level or two each. */
const ALPHA_STEPS = 4_096;

function picture(
  { values, width, height, box }: SoftPlane,
  colour: string,
  alphaOf: (share: number) => number,
): SoftPicture {
  const [red, green, blue] = rgbOf(colour);
  const isGrey = red === green && green === blue;
  const channels = isGrey ? 2 : 4;
  const data = new Uint8Array(width * height * channels);
  const alphas = Uint8Array.from({ length: ALPHA_STEPS + 1 }, (_, step) =>
    Math.round(alphaOf(step / ALPHA_STEPS) * FULL),
  );
  const perValue = ALPHA_STEPS / FULL;
  for (let from = 0, at = 0; from < values.length; from++, at += channels) {
    data[at] = red;
    if (!isGrey) {
      data[at + 1] = green;
      data[at + 2] = blue;
    }
    data[at + channels - 1] = alphas[Math.round(values[from] * perValue)];
  }
  return encoded(data, width, height, channels, box);
}

function encoded(
  data: Uint8Array,
  width: number,
  height: number,
  channels: 2 | 4,
  box: Box,
): SoftPicture {
  // Written anew at each step of a drag, so it is packed quickly rather than small.
  const png = encode({ data, width, height, channels, depth: 8 }, { zlib: { level: 1 } });
  return { box, href: `data:image/png;base64,${base64Of(png)}` };
}
