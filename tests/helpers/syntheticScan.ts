import { byteOfLinear } from '#core/colour/linearLight';
import type { Coverage } from '#core/ink/plane';
import type { Pixels } from '#core/pixels';

/**
 * Scans of a made-up hand whose true coverage is known: strokes drawn exactly, mixed with paper in
 * linear light, then spoilt as scanners, phones and paper spoil them.
 */

export interface ScanKind {
  readonly name: string;
  /** Light the empty sheet sends back, linear, at a place given as shares of the picture. */
  readonly paper: (x: number, y: number) => readonly [number, number, number];
  /** Ink, as a share of the paper's light. */
  readonly ink: readonly [number, number, number];
  /** Standard deviation of the grain, 8-bit levels. */
  readonly grain?: number;
  readonly blurPx?: number;
  readonly jpegQuality?: number;
  readonly onlyHairlines?: boolean;
  /** Whether light on the sheet differs so much that one threshold cannot serve all of it. */
  readonly isUneven?: boolean;
}

export interface SyntheticScan {
  readonly pixels: Pixels;
  readonly truth: Coverage;
  /** 1 where a hairline of 1.5 to 3 px runs. */
  readonly hairlines: Uint8Array;
}

const BLACK = [0.03, 0.03, 0.03] as const;

function grey(value: number): readonly [number, number, number] {
  return [value, value, value];
}

function smoothStep(from: number, to: number, at: number): number {
  const share = Math.min(1, Math.max(0, (at - from) / (to - from)));
  return share * share * (3 - 2 * share);
}

function withShadow(x: number, y: number): number {
  const falling = 0.9 - 0.55 * x - 0.1 * y;
  const shadow = 1 - 0.45 * smoothStep(0.02, 0.16, 0.3 - Math.hypot(x - 0.62, (y - 0.75) * 0.7));
  return falling * shadow;
}

export const SCAN_KINDS: readonly ScanKind[] = [
  { name: 'flat', paper: () => grey(0.92), ink: BLACK, grain: 1 },
  { name: 'grey', paper: () => grey(0.42), ink: BLACK, grain: 1.5 },
  {
    name: 'gradient and shadow',
    paper: (x, y) => grey(withShadow(x, y)),
    ink: BLACK,
    grain: 1.5,
    isUneven: true,
  },
  {
    name: 'warm',
    paper: (x, y) => [0.95 - 0.5 * x, 0.78 - 0.45 * x, 0.5 - 0.3 * x - 0.05 * y],
    ink: BLACK,
    grain: 1.5,
    isUneven: true,
  },
  {
    name: 'grain and JPEG',
    paper: (x) => grey(0.8 - 0.15 * x),
    ink: BLACK,
    grain: 5,
    jpegQuality: 80,
  },
  {
    name: 'blue pen',
    paper: (x) => [0.9 - 0.2 * x, 0.9 - 0.2 * x, 0.86 - 0.2 * x],
    ink: [0.05, 0.09, 0.4],
    grain: 1.5,
  },
  {
    name: 'hairlines',
    paper: (x, y) => grey(0.85 - 0.3 * x - 0.1 * y),
    ink: BLACK,
    grain: 1.5,
    onlyHairlines: true,
    isUneven: true,
  },
  {
    name: 'fold',
    paper: (x, y) => {
      const crease = 0.22 * Math.exp(-(((x - 0.52 - 0.01 * y) * 500) ** 2) / 2);
      return grey((x < 0.52 ? 0.88 : 0.74) * (1 - crease));
    },
    ink: BLACK,
    grain: 1.5,
  },
  { name: 'blur', paper: (x) => grey(0.85 - 0.25 * x), ink: BLACK, grain: 1.5, blurPx: 1.3 },
];

/** x, y as shares of the picture, width in px. */
interface Stroke {
  readonly points: readonly (readonly [number, number])[];
  readonly widthPx: number;
}

/** Loops like a hand's: a running wave whose height and slant change. */
function wave(from: number, to: number, base: number, height: number, loops: number) {
  return Array.from({ length: loops * 24 + 1 }, (_, step): [number, number] => {
    const share = step / (loops * 24);
    const angle = share * loops * 2 * Math.PI;
    const x = from + (to - from) * share + 0.018 * Math.sin(angle);
    return [x, base - height * Math.cos(angle) * (0.6 + 0.4 * Math.sin(3 * share))];
  });
}

const STROKES: readonly Stroke[] = [
  { points: wave(0.12, 0.48, 0.4, 0.16, 5), widthPx: 15 },
  { points: wave(0.52, 0.88, 0.42, 0.1, 6), widthPx: 9 },
  { points: wave(0.15, 0.85, 0.66, 0.012, 1), widthPx: 20 },
  {
    points: [
      [0.3, 0.2],
      [0.305, 0.205],
    ],
    widthPx: 14,
  },
];

const HAIRLINES: readonly Stroke[] = [
  { points: wave(0.14, 0.84, 0.76, 0.03, 4), widthPx: 3 },
  { points: wave(0.16, 0.82, 0.84, 0.025, 3), widthPx: 2 },
  { points: wave(0.18, 0.8, 0.91, 0.02, 2), widthPx: 1.5 },
];

export function syntheticScan(kind: ScanKind, width = 1_500, height = 1_000): SyntheticScan {
  const random = seededNormal(kind.name.length * 7_919 + width);
  const sharp = new Float32Array(width * height);
  if (!kind.onlyHairlines) for (const stroke of STROKES) draw(sharp, width, height, stroke);
  const thin = new Float32Array(width * height);
  for (const stroke of HAIRLINES) draw(thin, width, height, stroke);
  for (let at = 0; at < sharp.length; at++) sharp[at] = Math.max(sharp[at], thin[at]);
  const seen = kind.blurPx ? blurred(sharp, width, kind.blurPx) : sharp;
  const data = new Uint8ClampedArray(width * height * 3);
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at++) {
      const paper = kind.paper(x / width, y / height);
      const noise = random() * (kind.grain ?? 0);
      for (let channel = 0; channel < 3; channel++) {
        const light = paper[channel] * (1 - seen[at] * (1 - kind.ink[channel]));
        data[at * 3 + channel] = byteOfLinear(light) + noise;
      }
    }
  }
  return {
    pixels: { data, width, height, channels: 3 },
    truth: { data: Uint8Array.from(seen, (value) => Math.round(value * 255)), width, height },
    hairlines: Uint8Array.from(thin, (value) => (value > 0 ? 1 : 0)),
  };
}

/** Coverage of a round pen: exact to a few hundredths from the distance to its middle line. */
function draw(plane: Float32Array, width: number, height: number, { points, widthPx }: Stroke) {
  const half = widthPx / 2;
  for (let index = 1; index < points.length; index++) {
    const [ax, ay] = [points[index - 1][0] * width, points[index - 1][1] * height];
    const [bx, by] = [points[index][0] * width, points[index][1] * height];
    const left = Math.max(0, Math.floor(Math.min(ax, bx) - half - 1));
    const right = Math.min(width - 1, Math.ceil(Math.max(ax, bx) + half + 1));
    const top = Math.max(0, Math.floor(Math.min(ay, by) - half - 1));
    const bottom = Math.min(height - 1, Math.ceil(Math.max(ay, by) + half + 1));
    const length2 = (bx - ax) ** 2 + (by - ay) ** 2 || 1;
    for (let y = top; y <= bottom; y++) {
      for (let x = left; x <= right; x++) {
        const along = ((x + 0.5 - ax) * (bx - ax) + (y + 0.5 - ay) * (by - ay)) / length2;
        const t = Math.min(1, Math.max(0, along));
        const away = Math.hypot(x + 0.5 - ax - t * (bx - ax), y + 0.5 - ay - t * (by - ay));
        const covered = Math.min(1, Math.max(0, 0.5 + half - away));
        const at = y * width + x;
        if (covered > plane[at]) plane[at] = covered;
      }
    }
  }
}

function blurred(plane: Float32Array, width: number, sigma: number): Float32Array {
  const reach = Math.ceil(3 * sigma);
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, at) =>
    Math.exp(-((at - reach) ** 2) / (2 * sigma * sigma)),
  );
  const total = kernel.reduce((sum, weight) => sum + weight, 0);
  const along = (from: Float32Array, stride: number): Float32Array =>
    from.map((_, at) => {
      let sum = 0;
      for (let step = -reach; step <= reach; step++) {
        sum += (from[at + step * stride] ?? 0) * kernel[step + reach];
      }
      return sum / total;
    });
  return along(along(plane, 1), width);
}

/** Normal noise (Box–Muller) from a small repeatable generator. */
function seededNormal(seed: number): () => number {
  let state = seed >>> 0 || 1;
  const uniform = (): number => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return (state + 1) / 4_294_967_297;
  };
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}

export interface LiftQuality {
  /** Mean difference of coverage, 0 to 1, over the pixels that have ink in the truth or the lift. */
  readonly meanError: number;
  /** Share of hairline pixels that kept at least half of their coverage. */
  readonly hairlinesKept: number;
  /** Coverage found away from all ink, as a share of the true ink. */
  readonly falseInk: number;
}

/** @param lifted coverage over the whole picture */
export function liftQuality(lifted: Uint8Array, scan: SyntheticScan): LiftQuality {
  const { truth, hairlines } = scan;
  const CLOSE_PX = 3;
  let [error, compared, kept, thin, stray, ink] = [0, 0, 0, 0, 0, 0];
  for (let y = 0, at = 0; y < truth.height; y++) {
    for (let x = 0; x < truth.width; x++, at++) {
      const [is, was] = [lifted[at] / 255, truth.data[at] / 255];
      ink += was;
      if (is > 0 || was > 0) {
        error += Math.abs(is - was);
        compared++;
      }
      if (hairlines[at] && was >= 0.25) {
        thin++;
        if (is >= was / 2) kept++;
      }
      if (is > 0 && was === 0 && isAway(truth, x, y, CLOSE_PX)) stray += is;
    }
  }
  return {
    meanError: compared > 0 ? error / compared : 0,
    hairlinesKept: thin > 0 ? kept / thin : 1,
    falseInk: ink > 0 ? stray / ink : 0,
  };
}

function isAway({ data, width, height }: Coverage, x: number, y: number, by: number): boolean {
  for (let row = Math.max(0, y - by); row <= Math.min(height - 1, y + by); row++) {
    for (let column = Math.max(0, x - by); column <= Math.min(width - 1, x + by); column++) {
      if (data[row * width + column] > 0) return false;
    }
  }
  return true;
}

/** The baseline: one threshold for the whole picture (Otsu 1979), ink below it. */
export function globalThreshold({ data, width, height, channels }: Pixels): Uint8Array {
  const luma = new Uint8Array(width * height);
  const histogram = new Float64Array(256);
  for (let at = 0; at < luma.length; at++) {
    const p = at * channels;
    luma[at] = Math.round(0.2126 * data[p] + 0.7152 * data[p + 1] + 0.0722 * data[p + 2]);
    histogram[luma[at]]++;
  }
  let [total, below, sumBelow, best, threshold] = [0, 0, 0, -1, 128];
  histogram.forEach((count, value) => (total += count * value));
  histogram.forEach((count, value) => {
    below += count;
    sumBelow += count * value;
    const above = luma.length - below;
    if (below === 0 || above === 0) return;
    const between = below * above * (sumBelow / below - (total - sumBelow) / above) ** 2;
    if (between > best) [best, threshold] = [between, value];
  });
  return luma.map((value) => (value <= threshold ? 255 : 0));
}
