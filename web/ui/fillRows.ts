import type { Size } from '#core/placement/geometry';
import { WALL_GAP_PX } from './useJustifiedRows.ts';

/** A few photos in one or two rows, as large as an area allows. */
export interface FilledRow<T> {
  readonly height: number;
  readonly items: readonly T[];
}

export function fillRows<T extends Size>(items: readonly T[], area: Size): FilledRow<T>[] {
  let best: FilledRow<T>[] = [];
  for (let split = 1; split <= items.length; split++) {
    const rows = [items.slice(0, split), items.slice(split)].filter((row) => row.length > 0);
    const natural = rows.map((row) => rowHeight(row, area.width));
    const gaps = WALL_GAP_PX * (rows.length - 1);
    const shrink = Math.min(1, (area.height - gaps) / sum(natural));
    const filled = rows.map((row, index) => ({ items: row, height: natural[index] * shrink }));
    if (covered(filled) > covered(best)) best = filled;
  }
  return best;
}

function rowHeight(row: readonly Size[], width: number): number {
  const gaps = WALL_GAP_PX * (row.length - 1);
  return (width - gaps) / sum(row.map((item) => item.width / item.height));
}

function covered<T extends Size>(rows: readonly FilledRow<T>[]): number {
  return sum(
    rows.flatMap((row) => row.items.map((item) => (row.height ** 2 * item.width) / item.height)),
  );
}

function sum(values: readonly number[]): number {
  return values.reduce((total, value) => total + value, 0);
}
