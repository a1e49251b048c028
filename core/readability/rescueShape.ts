import type { RescueKind } from '../contract/preset.ts';
import type { Bleed, RasterSpec } from '../compose/rasterPlan.ts';
import { blurredPlane, grownPlane } from '../design/soft/softPlane.ts';
import { FULL, type Coverage } from '../ink/plane.ts';
import { clamp, radians, type Size } from '../placement/geometry.ts';

/**
 * The shape of a rescue. All lengths are shares of the longer side of the ink box, so that it looks
 * the same at every size; they reach a little farther than the ground that readability looks at,
 * 4 % of the box.
 */

/** The halo is whole this far from the ink, and fades from there. */
const HALO_WHOLE = 0.04;
const HALO_SIGMA = 0.02;
/** Three standard deviations of a blur hold all that is seen of it. */
const SIGMAS = 3;

const PLATE_MARGIN = 0.055;
const PLATE_CORNER = 0.035;

/** What a rescue needs round the ink box, as shares of the longer side. */
const REACH: Readonly<Record<RescueKind, number>> = Object.freeze({
  halo: HALO_WHOLE + SIGMAS * HALO_SIGMA,
  plate: PLATE_MARGIN,
});

/** Room round the ink box that a rescue needs; at least what the mark itself has. */
export function rescueBleed(kind: RescueKind, size: Size, mark: Bleed): Bleed {
  const reach = REACH[kind] * Math.max(size.width, size.height);
  return {
    x: Math.max(mark.x, reach / size.width),
    y: Math.max(mark.y, reach / size.height),
  };
}

/**
 * Coverage of a rescue at full strength, on the canvas of `spec`.
 *
 * @param core coverage of the mark without its finishes, on the same canvas
 */
export function rescueCoverage(kind: RescueKind, core: Coverage, spec: RasterSpec): Coverage {
  return kind === 'halo' ? halo(core, spec) : plate(spec);
}

/** A halo is soft: more pixels than this show nothing more, and take seconds. */
const HALO_PIXELS = 1_000_000;

function halo(core: Coverage, { markWidth, markHeight }: RasterSpec): Coverage {
  const scale = Math.min(1, Math.sqrt(HALO_PIXELS / (core.width * core.height)));
  const longer = Math.max(markWidth, markHeight) * scale;
  if (scale === 1) return haloAt(core, longer);
  const width = Math.max(1, Math.round(core.width * scale));
  const height = Math.max(1, Math.round(core.height * scale));
  return enlarged(haloAt(reduced(core, { width, height }), longer), core);
}

function haloAt(core: Coverage, longer: number): Coverage {
  const sigma = HALO_SIGMA * longer;
  // A blurred edge is half as strong where it was, so the ring is grown by a deviation more.
  const grown = grownPlane(core, HALO_WHOLE * longer + sigma);
  const soft = blurredPlane(grown, sigma);
  const data = Uint8Array.from(soft, (value) => Math.round(value));
  return { data, width: core.width, height: core.height };
}

/** Each pixel the mean of those it stands for. */
function reduced({ data, width, height }: Coverage, to: Size): Coverage {
  const sums = new Float64Array(to.width * to.height);
  const counts = new Uint32Array(sums.length);
  for (let y = 0; y < height; y++) {
    const row = Math.floor((y * to.height) / height) * to.width;
    for (let x = 0; x < width; x++) {
      const at = row + Math.floor((x * to.width) / width);
      sums[at] += data[y * width + x];
      counts[at]++;
    }
  }
  return { ...to, data: Uint8Array.from(sums, (sum, at) => Math.round(sum / counts[at])) };
}

/** By linear interpolation between the middles of pixels. */
function enlarged({ data, width, height }: Coverage, to: Size): Coverage {
  const large = new Uint8Array(to.width * to.height);
  for (let y = 0; y < to.height; y++) {
    const fromY = clamp(((y + 0.5) * height) / to.height - 0.5, 0, height - 1);
    const top = Math.floor(fromY) * width;
    const below = Math.min(height - 1, Math.floor(fromY) + 1) * width;
    const shareY = fromY % 1;
    for (let x = 0; x < to.width; x++) {
      const fromX = clamp(((x + 0.5) * width) / to.width - 0.5, 0, width - 1);
      const left = Math.floor(fromX);
      const right = Math.min(width - 1, left + 1);
      const shareX = fromX % 1;
      const upper = data[top + left] * (1 - shareX) + data[top + right] * shareX;
      const lower = data[below + left] * (1 - shareX) + data[below + right] * shareX;
      large[y * to.width + x] = Math.round(upper * (1 - shareY) + lower * shareY);
    }
  }
  return { data: large, width: to.width, height: to.height };
}

/** A rectangle with round corners, turned with the mark; exact to a pixel by its distance. */
function plate(spec: RasterSpec): Coverage {
  const { width, height, centreX, centreY, markWidth, markHeight, rotation } = spec;
  const longer = Math.max(markWidth, markHeight);
  const corner = PLATE_CORNER * longer;
  const halfX = markWidth / 2 + PLATE_MARGIN * longer - corner;
  const halfY = markHeight / 2 + PLATE_MARGIN * longer - corner;
  const cos = Math.cos(radians(-rotation));
  const sin = Math.sin(radians(-rotation));
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const fromX = x + 0.5 - centreX;
      const fromY = y + 0.5 - centreY;
      const beyondX = Math.abs(fromX * cos - fromY * sin) - halfX;
      const beyondY = Math.abs(fromX * sin + fromY * cos) - halfY;
      const outside = Math.hypot(Math.max(beyondX, 0), Math.max(beyondY, 0));
      const distance = outside + Math.min(Math.max(beyondX, beyondY), 0) - corner;
      data[y * width + x] = Math.round(clamp(0.5 - distance, 0, 1) * FULL);
    }
  }
  return { data, width, height };
}
