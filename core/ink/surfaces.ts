import type { Size } from '../placement/geometry.ts';

/** A plane of brightness cut into surfaces: neighbours whose brightness hardly differs hang together. */
export interface Surfaces extends Size {
  /** Number of the surface each pixel belongs to. */
  readonly labels: Int32Array;
  /** By number: pixels, and the light all of them send back. */
  readonly areas: readonly number[];
  readonly lights: readonly number[];
}

/** Darker than this says nothing any more. */
const DARKEST = 1e-4;
/** Neighbours whose ratios of channels differ by more are of two surfaces (natural logarithm). */
const SAME_HUE = 0.07;

/**
 * @param tolerance of one surface, as the natural logarithm of what neighbours differ by
 * @param hues logarithms of ratios of channels: paper in shadow may be as bright as the table
 */
export function surfacesOf(
  plane: Float32Array,
  width: number,
  tolerance: number,
  hues: readonly Float32Array[],
): Surfaces {
  const height = plane.length / width;
  const isOneHue = (a: number, b: number): boolean =>
    hues.every((hue) => Math.abs(hue[a] - hue[b]) <= SAME_HUE);
  const logs = plane.map((value) => Math.log(Math.max(value, DARKEST)));
  const labels = new Int32Array(plane.length).fill(-1);
  const areas: number[] = [];
  const lights: number[] = [];
  const stack: number[] = [];
  for (let start = 0; start < plane.length; start++) {
    if (labels[start] >= 0) continue;
    const label = areas.length;
    let area = 0;
    let light = 0;
    labels[start] = label;
    stack.push(start);
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      area++;
      light += plane[at];
      for (const next of around(at, width, plane.length)) {
        if (next < 0 || labels[next] >= 0 || Math.abs(logs[next] - logs[at]) > tolerance) continue;
        if (!isOneHue(next, at)) continue;
        labels[next] = label;
        stack.push(next);
      }
    }
    areas.push(area);
    lights.push(light);
  }
  return { labels, areas, lights, width, height };
}

/** 1 where the surface of a number is. */
export function maskOf({ labels }: Surfaces, label: number): Uint8Array {
  const mask = new Uint8Array(labels.length);
  for (let at = 0; at < mask.length; at++) if (labels[at] === label) mask[at] = 1;
  return mask;
}

/** The four neighbours of a pixel; −1 where the picture ends. */
export function around(
  at: number,
  width: number,
  length: number,
): [number, number, number, number] {
  const x = at % width;
  return [
    x > 0 ? at - 1 : -1,
    x + 1 < width ? at + 1 : -1,
    at - width,
    at + width < length ? at + width : -1,
  ];
}

/** What is marked, as a whole: for each row and column the first and the last pixel. */
export interface Region {
  readonly area: number;
  readonly rows: ReadonlyMap<number, readonly [number, number]>;
  readonly columns: ReadonlyMap<number, readonly [number, number]>;
}

export function regionOf(mask: Uint8Array, width: number): Region {
  let area = 0;
  const rows = new Map<number, [number, number]>();
  const columns = new Map<number, [number, number]>();
  for (let at = 0; at < mask.length; at++) {
    if (!mask[at]) continue;
    const x = at % width;
    const y = (at - x) / width;
    area++;
    widen(rows, y, x);
    widen(columns, x, y);
  }
  return { area, rows, columns };
}

function widen(spans: Map<number, [number, number]>, line: number, at: number): void {
  const span = spans.get(line);
  if (!span) spans.set(line, [at, at]);
  else if (at < span[0]) span[0] = at;
  else if (at > span[1]) span[1] = at;
}
