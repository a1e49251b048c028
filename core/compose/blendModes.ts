import type { Blend } from '../contract/preset.ts';

/**
 * Blend functions B(Cb, Cs) of W3C Compositing and Blending Level 1, sections 9.1 and 9.2, on
 * encoded values from 0 to 1: `backdrop` is the photo, `source` the mark.
 */
export type Separable = (backdrop: number, source: number) => number;

export type SeparableBlend = Exclude<Blend, 'luminosity'>;

const multiply: Separable = (b, s) => b * s;
const screen: Separable = (b, s) => b + s - b * s;
const hardLight: Separable = (b, s) => (s <= 0.5 ? multiply(b, 2 * s) : screen(b, 2 * s - 1));

const SEPARABLE: Readonly<Record<SeparableBlend, Separable>> = Object.freeze({
  normal: (_b, s) => s,
  multiply,
  screen,
  overlay: (b, s) => hardLight(s, b),
  darken: (b, s) => Math.min(b, s),
  lighten: (b, s) => Math.max(b, s),
  'color-dodge': (b, s) => {
    if (b === 0) return 0;
    return s === 1 ? 1 : Math.min(1, b / (1 - s));
  },
  'color-burn': (b, s) => {
    if (b === 1) return 1;
    return s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s);
  },
  'hard-light': hardLight,
  'soft-light': (b, s) => {
    if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
    const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
    return b + (2 * s - 1) * (d - b);
  },
  difference: (b, s) => Math.abs(b - s),
  exclusion: (b, s) => b + s - 2 * b * s,
});

/** B(Cb, Cs) of a mode. */
export function blendFunction(blend: SeparableBlend): Separable {
  return SEPARABLE[blend];
}

const LEVELS = 256;
const TOP = LEVELS - 1;

const tables = new Map<SeparableBlend, Float32Array>();

/**
 * B for all pairs of 8-bit values, 0 to 255, at `backdrop * 256 + source`; made once a mode. A look
 * at a table costs the same for every mode, where the formulas differ tenfold.
 */
export function blendTable(blend: SeparableBlend): Float32Array {
  const known = tables.get(blend);
  if (known) return known;
  const mix = SEPARABLE[blend];
  const table = new Float32Array(LEVELS * LEVELS);
  for (let b = 0; b < LEVELS; b++) {
    for (let s = 0; s < LEVELS; s++) table[b * LEVELS + s] = mix(b / TOP, s / TOP) * TOP;
  }
  tables.set(blend, table);
  return table;
}

/** Lum of the specification, section 9.2, on any scale. */
export function lum(r: number, g: number, b: number): number {
  return 0.3 * r + 0.59 * g + 0.11 * b;
}

/**
 * SetLum followed by ClipColor of the specification, section 9.2, on 0 to `top`: the photo's hue
 * and saturation with the mark's luminosity. The result is written into `into`.
 */
export function luminosity(
  backdrop: readonly [number, number, number],
  sourceLum: number,
  into: [number, number, number],
  top: number = TOP,
): void {
  const shift = sourceLum - lum(backdrop[0], backdrop[1], backdrop[2]);
  for (let c = 0; c < 3; c++) into[c] = backdrop[c] + shift;
  const l = lum(into[0], into[1], into[2]);
  const low = Math.min(into[0], into[1], into[2]);
  const high = Math.max(into[0], into[1], into[2]);
  if (low < 0) for (let c = 0; c < 3; c++) into[c] = l + ((into[c] - l) * l) / (l - low);
  if (high > top) {
    for (let c = 0; c < 3; c++) into[c] = l + ((into[c] - l) * (top - l)) / (high - l);
  }
}
