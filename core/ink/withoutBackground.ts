import type { Rgb } from '../colour/hex.ts';
import type { Pixels, Raster } from '../pixels.ts';
import { grown } from './mask.ts';
import { dilated } from './slidingExtreme.ts';

export interface Background {
  readonly colour: Rgb;
  /** Share of the picture's rim that has it. */
  readonly rimShare: number;
  /** Whether anything in the picture differs from it. */
  readonly isAll: boolean;
}

/** Distance, largest channel difference, up to which a pixel is background: JPEG noise stays below. */
const SAME_COLOUR = 14;
/** A rim that is this alike is a box; a photo's is not. */
const BOX_RIM_SHARE = 0.96;
/** Alpha below this is a transparent picture, which has no box. */
const NEARLY_OPAQUE = 250;

/** Noise of a JPEG stays in its blocks, px, and below this share of the contrast near by. */
const NOISE_REACH_PX = 8;
const NOISE_SHARE = 0.2;

/** How far an edge may reach from full ink to bare background, px each way. */
const EDGE_REACH_PX = 2;
/** An edge pixel this near to the fullest one in reach, as a share, is full itself. */
const NEARLY_FULL = 0.985;

/** The colour of the box round a logo, or null where the rim is transparent or not of one colour. */
export function findBackground(pixels: Pixels): Background | null {
  const { data, width, height, channels } = pixels;
  const rim: number[] = [];
  for (let x = 0; x < width; x++) rim.push(x, (height - 1) * width + x);
  for (let y = 1; y < height - 1; y++) rim.push(y * width, y * width + width - 1);
  const isOpaque = (index: number): boolean =>
    channels === 3 || data[index * 4 + 3] >= NEARLY_OPAQUE;
  if (rim.filter(isOpaque).length < rim.length * BOX_RIM_SHARE) return null;
  const colour = [0, 1, 2].map((channel) => {
    const values = rim.map((index) => data[index * channels + channel]).sort((a, b) => a - b);
    return values[values.length >> 1];
  }) as unknown as Rgb;
  const isAlike = (index: number): boolean =>
    distance(data, index * channels, colour) <= SAME_COLOUR;
  const alike = rim.filter(isAlike).length / rim.length;
  if (alike < BOX_RIM_SHARE) return null;
  let isAll = true;
  for (let index = 0; index < width * height && isAll; index++) isAll = isAlike(index);
  return { colour, rimShare: alike, isAll };
}

function distance(data: Uint8ClampedArray, at: number, [red, green, blue]: Rgb): number {
  return Math.max(
    Math.abs(data[at] - red),
    Math.abs(data[at + 1] - green),
    Math.abs(data[at + 2] - blue),
  );
}

/**
 * The picture without its background. Edge pixels are mixtures of the two: their alpha is how much
 * of the way from the background to the nearest full colour they are, and the background's part is
 * taken out of their colour, so that no fringe of it is left on another ground. Mixing is on encoded
 * values, as drawing programs smooth their edges.
 *
 * @param from `outside` takes only what hangs together with the rim; `everywhere` also what is enclosed
 */
export function withoutBackground(
  pixels: Pixels,
  colour: Rgb,
  from: 'outside' | 'everywhere',
): Raster {
  const { data, width, height, channels } = pixels;
  const count = width * height;
  const apart = new Uint8Array(count);
  for (let index = 0; index < count; index++) {
    apart[index] = distance(data, index * channels, colour);
  }
  const bare = bareOf(apart, width);
  const isEdge = grown(bare, width, EDGE_REACH_PX);
  const bordersInk = grown(
    bare.map((flag) => 1 - flag),
    width,
    1,
  );
  const mayGo = from === 'everywhere' ? null : reachedFromRim(bare, width);
  const out = new Uint8ClampedArray(count * 4);
  for (let index = 0, to = 0; index < count; index++, to += 4) {
    const at = index * channels;
    const own = channels === 4 ? data[at + 3] / 255 : 1;
    const stays = mayGo !== null && !mayGo[index];
    // Noise of the background, with no ink beside it that it could be the edge of.
    if (bare[index] && !bordersInk[index] && !stays) continue;
    const full = isEdge[index] && !stays ? fullestFrom(apart, width, index) : index;
    if (stays || (!bare[index] && apart[full] * NEARLY_FULL <= apart[index])) {
      out[to] = data[at];
      out[to + 1] = data[at + 1];
      out[to + 2] = data[at + 2];
      out[to + 3] = 255 * own;
      continue;
    }
    const alpha = mixed(data, at, full * channels, colour);
    const held = alpha < FAINTEST ? 0 : alpha;
    for (let channel = 0; channel < 3; channel++) {
      const ground = colour[channel];
      const unmixed = ground + (data[at + channel] - ground) / Math.max(alpha, LEAST_UNMIXED);
      // A faint pixel says little of its colour; its full neighbour says it better.
      const trust = Math.min(1, alpha * 2);
      out[to + channel] = unmixed * trust + data[full * channels + channel] * (1 - trust);
    }
    out[to + 3] = 255 * held * own;
  }
  return { data: out, width, height, channels: 4 };
}

/** 1 for background, with what a JPEG's blocks strew over it round strong edges. */
function bareOf(apart: Uint8Array, width: number): Uint8Array {
  const height = apart.length / width;
  const across = Math.ceil(width / NOISE_REACH_PX);
  const strongest = strongestNearBlocks(apart, width, across);
  const bare = new Uint8Array(apart.length);
  for (let y = 0, at = 0; y < height; y++) {
    const row = Math.floor(y / NOISE_REACH_PX) * across;
    for (let x = 0; x < width; x++, at++) {
      const noise = strongest[row + Math.floor(x / NOISE_REACH_PX)] * NOISE_SHARE;
      if (apart[at] <= SAME_COLOUR || apart[at] <= noise) bare[at] = 1;
    }
  }
  return bare;
}

/** For each block of pixels the strongest difference in it and the blocks round it. */
function strongestNearBlocks(apart: Uint8Array, width: number, across: number): Float32Array {
  const height = apart.length / width;
  const blocks = new Float32Array(across * Math.ceil(height / NOISE_REACH_PX));
  for (let y = 0, at = 0; y < height; y++) {
    const row = Math.floor(y / NOISE_REACH_PX) * across;
    for (let x = 0; x < width; x++, at++) {
      const block = row + Math.floor(x / NOISE_REACH_PX);
      if (apart[at] > blocks[block]) blocks[block] = apart[at];
    }
  }
  return dilated(blocks, across, 1);
}

const FAINTEST = 0.03;
const LEAST_UNMIXED = 0.1;

/** How much of the full colour is in a pixel: its projection on the way from background to full. */
function mixed(data: Uint8ClampedArray, at: number, full: number, ground: Rgb): number {
  let along = 0;
  let whole = 0;
  for (let channel = 0; channel < 3; channel++) {
    const way = data[full + channel] - ground[channel];
    along += (data[at + channel] - ground[channel]) * way;
    whole += way * way;
  }
  return whole === 0 ? 0 : Math.min(1, Math.max(0, along / whole));
}

/**
 * The pixel within reach that differs most from the background. What is found may be an edge itself:
 * the fullest from there is what the edge leads to.
 */
function fullestFrom(apart: Uint8Array, width: number, index: number): number {
  return fullestNear(apart, width, fullestNear(apart, width, index));
}

function fullestNear(apart: Uint8Array, width: number, index: number): number {
  const height = apart.length / width;
  const x = index % width;
  const y = (index - x) / width;
  const right = Math.min(width - 1, x + EDGE_REACH_PX);
  const bottom = Math.min(height - 1, y + EDGE_REACH_PX);
  let best = index;
  for (let row = Math.max(0, y - EDGE_REACH_PX); row <= bottom; row++) {
    for (let column = Math.max(0, x - EDGE_REACH_PX); column <= right; column++) {
      const at = row * width + column;
      if (apart[at] > apart[best]) best = at;
    }
  }
  return best;
}

/** 1 for background that hangs together with the rim, and for the edge it borders on. */
function reachedFromRim(bare: Uint8Array, width: number): Uint8Array {
  const height = bare.length / width;
  const reached = new Uint8Array(bare.length);
  const stack: number[] = [];
  const visit = (index: number): void => {
    if (reached[index] || !bare[index]) return;
    reached[index] = 1;
    stack.push(index);
  };
  for (let x = 0; x < width; x++) {
    visit(x);
    visit((height - 1) * width + x);
  }
  for (let y = 0; y < height; y++) {
    visit(y * width);
    visit(y * width + width - 1);
  }
  for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
    const x = at % width;
    if (x > 0) visit(at - 1);
    if (x + 1 < width) visit(at + 1);
    if (at >= width) visit(at - width);
    if (at + width < bare.length) visit(at + width);
  }
  return grown(reached, width, EDGE_REACH_PX);
}
