/**
 * Fills the unknown parts of a plane smoothly from the known ones, over any distance, by pulling
 * averages up a pyramid and pushing them back down: Gortler et al., "The Lumigraph" (1996), section
 * 3.4.
 */

interface Level {
  readonly values: Float32Array;
  readonly weights: Float32Array;
  readonly width: number;
  readonly height: number;
}

/** @param weights 1 where the plane is known, 0 where it is not, or between */
export function filledGaps(
  plane: Float32Array,
  weights: Float32Array,
  width: number,
): Float32Array {
  const levels: Level[] = [{ values: plane, weights, width, height: plane.length / width }];
  for (let top = levels[0]; top.width > 1 || top.height > 1; top = levels[levels.length - 1]) {
    levels.push(halved(top));
  }
  let filled = levels[levels.length - 1].values;
  for (let index = levels.length - 2; index >= 0; index--) {
    filled = pushed(levels[index], levels[index + 1], filled);
  }
  return filled;
}

function halved({ values, weights, width, height }: Level): Level {
  const half = { width: Math.ceil(width / 2), height: Math.ceil(height / 2) };
  const sums = new Float32Array(half.width * half.height);
  const totals = new Float32Array(sums.length);
  for (let y = 0, from = 0; y < height; y++) {
    const row = (y >> 1) * half.width;
    for (let x = 0; x < width; x++, from++) {
      const to = row + (x >> 1);
      sums[to] += values[from] * weights[from];
      totals[to] += weights[from];
    }
  }
  for (let at = 0; at < sums.length; at++) {
    if (totals[at] > 0) sums[at] /= totals[at];
    totals[at] = Math.min(1, totals[at]);
  }
  return { values: sums, weights: totals, ...half };
}

/** Known values stay; the rest is what the coarser level says there, read between its pixels. */
function pushed(fine: Level, coarse: Level, coarseFilled: Float32Array): Float32Array {
  const { values, weights, width, height } = fine;
  const out = new Float32Array(values.length);
  for (let y = 0, at = 0; y < height; y++) {
    const coarseY = Math.min(Math.max((y + 0.5) / 2 - 0.5, 0), coarse.height - 1);
    const top = Math.floor(coarseY);
    const shareY = coarseY - top;
    const below = top + 1 < coarse.height ? coarse.width : 0;
    for (let x = 0; x < width; x++, at++) {
      const weight = weights[at];
      if (weight >= 1) {
        out[at] = values[at];
        continue;
      }
      const coarseX = Math.min(Math.max((x + 0.5) / 2 - 0.5, 0), coarse.width - 1);
      const left = Math.floor(coarseX);
      const shareX = coarseX - left;
      const right = left + 1 < coarse.width ? 1 : 0;
      const p = top * coarse.width + left;
      const upper = coarseFilled[p] + (coarseFilled[p + right] - coarseFilled[p]) * shareX;
      const lower =
        coarseFilled[p + below] +
        (coarseFilled[p + below + right] - coarseFilled[p + below]) * shareX;
      const guess = upper + (lower - upper) * shareY;
      out[at] = values[at] * weight + guess * (1 - weight);
    }
  }
  return out;
}
