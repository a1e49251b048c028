/** Grey morphology on small planes: the largest or smallest value within a square window. */

type Better = (challenger: number, holder: number) => boolean;

const larger: Better = (challenger, holder) => challenger >= holder;
const smaller: Better = (challenger, holder) => challenger <= holder;

/** The largest value within the window round each pixel. */
export function dilated(plane: Float32Array, width: number, radius: number): Float32Array {
  return filtered(plane, width, radius, larger);
}

/**
 * Closing: fills whatever is darker than its surroundings and narrower than the window, and leaves
 * slopes as they are.
 *
 * @param radius of the window, px; its side is 2 · radius + 1
 */
export function closed(plane: Float32Array, width: number, radius: number): Float32Array {
  return filtered(filtered(plane, width, radius, larger), width, radius, smaller);
}

/**
 * Closing as if the picture went on beyond its edges as it ends there: what is dark along an edge stays,
 * however narrow the strip is that can be seen of it.
 */
export function closedPadded(plane: Float32Array, width: number, radius: number): Float32Array {
  const height = plane.length / width;
  const pad = 2 * radius + 1;
  const wide = width + 2 * pad;
  const padded = new Float32Array(wide * (height + 2 * pad));
  for (let y = 0; y < height + 2 * pad; y++) {
    const row = Math.min(Math.max(y - pad, 0), height - 1) * width;
    const to = y * wide;
    padded.fill(plane[row], to, to + pad);
    padded.set(plane.subarray(row, row + width), to + pad);
    padded.fill(plane[row + width - 1], to + pad + width, to + wide);
  }
  const whole = closed(padded, wide, radius);
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    const from = (y + pad) * wide + pad;
    out.set(whole.subarray(from, from + width), y * width);
  }
  return out;
}

function filtered(
  plane: Float32Array,
  width: number,
  radius: number,
  better: Better,
): Float32Array {
  const height = plane.length / width;
  const across = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) slide(plane, across, y * width, 1, width, radius, better);
  const out = new Float32Array(plane.length);
  for (let x = 0; x < width; x++) slide(across, out, x, width, height, radius, better);
  return out;
}

/** One line with a monotone queue: each value enters and leaves once, whatever the radius. */
function slide(
  from: Float32Array,
  to: Float32Array,
  start: number,
  stride: number,
  count: number,
  radius: number,
  better: Better,
): void {
  const queue = new Int32Array(count);
  let head = 0;
  let tail = 0;
  for (let next = 0; next < count + radius; next++) {
    if (next < count) {
      const value = from[start + next * stride];
      while (tail > head && better(value, from[start + queue[tail - 1] * stride])) tail--;
      queue[tail++] = next;
    }
    const at = next - radius;
    if (at < 0) continue;
    if (queue[head] < at - radius) head++;
    to[start + at * stride] = from[start + queue[head] * stride];
  }
}
