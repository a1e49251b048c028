import type { Outline } from '../ink/outline.ts';
import { failure, success, type Result } from '../result.ts';
import type { Matrix } from './matrix.ts';

/**
 * A path of straight lines and Bézier curves in absolute coordinates. `at` holds x, y pairs: one
 * for M and L, two for Q, three for C, none for Z.
 */
export interface PathPart {
  readonly op: 'M' | 'L' | 'Q' | 'C' | 'Z';
  readonly at: readonly number[];
}
export type Path = readonly PathPart[];

const NUMBERS: Readonly<Record<PathPart['op'], number>> = Object.freeze({
  M: 2,
  L: 2,
  Q: 4,
  C: 6,
  Z: 0,
});
const COMMAND = /([MLQCZHVmlqczhvSsTtAa])([^MLQCZHVmlqczhvSsTtAa]*)/g;
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/gi;

/**
 * Reads a `d` attribute of M, L, H, V, Q, C and Z in absolute coordinates, as HarfBuzz and our own
 * code write them; anything else is a failure that names the command.
 */
export function readPath(d: string): Result<Path> {
  const parts: PathPart[] = [];
  let [x, y] = [0, 0];
  for (const [, command, rest] of d.matchAll(COMMAND)) {
    const numbers = (rest.match(NUMBER) ?? []).map(Number);
    if (command === 'Z' || command === 'z') {
      parts.push({ op: 'Z', at: [] });
      continue;
    }
    const op = command === 'H' || command === 'V' ? 'L' : command;
    if (!isOp(op)) return failure(`expected M, L, H, V, Q, C or Z in a path, found ${command}`);
    const points =
      command === 'H'
        ? numbers.flatMap((value) => [value, y])
        : command === 'V'
          ? numbers.flatMap((value) => [x, value])
          : numbers;
    const count = NUMBERS[op];
    if (points.length === 0 || points.length % count !== 0) {
      return failure(`expected numbers by ${count} after ${command}, found ${points.length}`);
    }
    for (let from = 0; from < points.length; from += count) {
      const at = points.slice(from, from + count);
      parts.push({ op: op === 'M' && from > 0 ? 'L' : op, at });
      [x, y] = at.slice(-2);
    }
  }
  return success(parts);
}

function isOp(command: string): command is PathPart['op'] {
  return command in NUMBERS;
}

/** Decimals of a path: a hundredth of a unit. */
const DECIMALS = 2;

const texts = new WeakMap<Path, string>();

/** The `d` attribute, made once for a path: drawing a mark asks for it again and again. */
export function pathText(path: Path): string {
  let text = texts.get(path);
  if (text === undefined) texts.set(path, (text = pathTextWith(path, DECIMALS)));
  return text;
}

/** @param decimals of each number */
export function pathTextWith(path: Path, decimals: number): string {
  return path
    .map(({ op, at }) => op + at.map((value) => Number(value.toFixed(decimals))).join(' '))
    .join('');
}

export function transformedPath(path: Path, matrix: Matrix): Path {
  const [a, b, c, d, e, f] = matrix;
  return path.map(({ op, at }) => {
    // Thousands of points a mark: written out, since calls and small arrays would be felt.
    const points = new Array<number>(at.length);
    for (let index = 0; index < at.length; index += 2) {
      const x = at[index];
      const y = at[index + 1];
      points[index] = a * x + c * y + e;
      points[index + 1] = b * x + d * y + f;
    }
    return { op, at: points };
  });
}

/** Closed cubic outlines of the path, as the scan conversion takes them. */
export function outlinesOf(path: Path): Outline[] {
  const outlines: Outline[] = [];
  let curves: Outline['curves'][number][] = [];
  let start: [number, number] = [0, 0];
  let [x, y] = start;
  const line = (toX: number, toY: number): void => {
    const [dx, dy] = [(toX - x) / 3, (toY - y) / 3];
    curves.push([x + dx, y + dy, toX - dx, toY - dy, toX, toY]);
  };
  const close = (): void => {
    if (curves.length === 0) return;
    if (x !== start[0] || y !== start[1]) line(start[0], start[1]);
    outlines.push({ start, curves });
    curves = [];
    [x, y] = start;
  };
  for (const { op, at } of path) {
    if (op === 'Z') {
      close();
      continue;
    }
    if (op === 'M') {
      close();
      start = [at[0], at[1]];
    } else if (op === 'L') line(at[0], at[1]);
    else if (op === 'C') curves.push([at[0], at[1], at[2], at[3], at[4], at[5]]);
    else curves.push(cubicOf(x, y, at));
    [x, y] = at.slice(-2);
  }
  close();
  return outlines;
}

/** A quadratic curve as the cubic of the same shape. */
function cubicOf(x: number, y: number, at: readonly number[]): Outline['curves'][number] {
  const [cx, cy, endX, endY] = at;
  return [
    x + (2 / 3) * (cx - x),
    y + (2 / 3) * (cy - y),
    endX + (2 / 3) * (cx - endX),
    endY + (2 / 3) * (cy - endY),
    endX,
    endY,
  ];
}

/** A path of cubic outlines. */
export function pathOfOutlines(outlines: readonly Outline[]): Path {
  return outlines.flatMap(({ start, curves }): PathPart[] => [
    { op: 'M', at: start },
    ...curves.map((at): PathPart => ({ op: 'C', at })),
    { op: 'Z', at: [] },
  ]);
}
