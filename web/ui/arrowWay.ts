/** Which way an arrow key points, x to the right and y downwards, or null for another key. */
export function arrowWay(key: string): readonly [number, number] | null {
  return WAYS[key] ?? null;
}

const WAYS: Readonly<Record<string, readonly [number, number]>> = Object.freeze({
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
});
