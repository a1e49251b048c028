import type { Path, PathPart } from './path.ts';

/** Twice the area a path encloses, by its points; the sign tells which way round it runs. */
export function turningSense(path: Path): number {
  let twice = 0;
  let [x, y] = [0, 0];
  let start = [0, 0];
  const edge = (toX: number, toY: number): void => {
    twice += x * toY - toX * y;
    [x, y] = [toX, toY];
  };
  for (const { op, at } of path) {
    if (op === 'Z') edge(start[0], start[1]);
    else if (op === 'M') {
      [x, y] = [at[0], at[1]];
      start = [x, y];
    } else for (let index = 0; index < at.length; index += 2) edge(at[index], at[index + 1]);
  }
  return Math.sign(twice);
}

/** The same closed path run the other way round. */
export function reversedPath(path: Path): Path {
  const rings: PathPart[][] = [];
  for (const part of path) {
    if (part.op === 'M') rings.push([]);
    rings[rings.length - 1]?.push(part);
  }
  return rings.flatMap(reversedRing);
}

function reversedRing(ring: readonly PathPart[]): PathPart[] {
  const drawn = ring.filter(({ op }) => op !== 'Z');
  const last = drawn[drawn.length - 1].at.slice(-2);
  const reversed: PathPart[] = [{ op: 'M', at: last }];
  for (let index = drawn.length - 1; index > 0; index--) {
    const { op, at } = drawn[index];
    const before = drawn[index - 1].at.slice(-2);
    const points: number[] = [];
    for (let pair = at.length - 4; pair >= 0; pair -= 2) points.push(at[pair], at[pair + 1]);
    reversed.push({ op, at: [...points, ...before] });
  }
  reversed.push({ op: 'Z', at: [] });
  return reversed;
}

/** The path, run so that it agrees with another: together they fill without holes where they meet. */
export function agreeingWith(path: Path, other: Path): Path {
  const sense = turningSense(other);
  return sense !== 0 && turningSense(path) === -sense ? reversedPath(path) : path;
}
