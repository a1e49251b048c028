/** Plain geometry shared by everything that places a mark. Lengths are pixels unless told. */

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** An upright rectangle; `x` grows to the right, `y` downwards. */
export interface Box extends Size {
  readonly x: number;
  readonly y: number;
}

export interface Point {
  readonly x: number;
  readonly y: number;
}

const DEGREES_IN_HALF_TURN = 180;

export function radians(angleDeg: number): number {
  return (angleDeg * Math.PI) / DEGREES_IN_HALF_TURN;
}

export function degrees(angle: number): number {
  return (angle * DEGREES_IN_HALF_TURN) / Math.PI;
}

/** Size of the upright box round a `size` turned by `angleDeg` clockwise about its centre. */
export function rotatedSize(size: Size, angleDeg: number): Size {
  const cos = Math.abs(Math.cos(radians(angleDeg)));
  const sin = Math.abs(Math.sin(radians(angleDeg)));
  return {
    width: size.width * cos + size.height * sin,
    height: size.width * sin + size.height * cos,
  };
}

/** `point` turned by `angleDeg` clockwise (as seen with y downwards) about the origin. */
export function turned(point: Point, angleDeg: number): Point {
  const cos = Math.cos(radians(angleDeg));
  const sin = Math.sin(radians(angleDeg));
  return { x: point.x * cos - point.y * sin, y: point.x * sin + point.y * cos };
}

/** The box that holds all; null where there are none. */
export function boxAroundAll(boxes: readonly Box[]): Box | null {
  if (boxes.length === 0) return null;
  const x = Math.min(...boxes.map((box) => box.x));
  const y = Math.min(...boxes.map((box) => box.y));
  const right = Math.max(...boxes.map((box) => box.x + box.width));
  const bottom = Math.max(...boxes.map((box) => box.y + box.height));
  return { x, y, width: right - x, height: bottom - y };
}

export function centreOf(box: Box): Point {
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

export function boxAround(centre: Point, size: Size): Box {
  return {
    x: centre.x - size.width / 2,
    y: centre.y - size.height / 2,
    width: size.width,
    height: size.height,
  };
}

export function scaled(size: Size, factor: number): Size {
  return { width: size.width * factor, height: size.height * factor };
}

export function clamp(value: number, low: number, high: number): number {
  return Math.min(Math.max(value, low), high);
}
