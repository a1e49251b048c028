import { describe, expect, it } from 'vitest';
import { ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { fillRows } from './fillRows.ts';
import { useJustifiedRows } from './useJustifiedRows.ts';

function photo(id: number, width: number, height: number, lightness = 50): PhotoView {
  return { id, width, height, lightness, name: `${id}.jpg` } as PhotoView;
}

describe('layout', () => {
  it('fills the width with each row, in the order of the photos', () => {
    const some = Array.from({ length: 40 }, (_, id) => photo(id, 300 + 150 * (id % 4), 300));
    const rows = useJustifiedRows(ref(some), ref(1000), ref(180)).value;
    expect(rows.flatMap((row) => row.boxes.map(({ item }) => item.id))).toEqual(
      some.map(({ id }) => id),
    );
    for (const row of rows.slice(0, -1)) {
      const last = row.boxes[row.boxes.length - 1];
      expect(Math.abs(last.left + last.width - 1000)).toBeLessThan(2);
    }
  });

  it('lays a few photos as large as an area allows', () => {
    const rows = fillRows([photo(1, 3, 1), photo(2, 2, 3), photo(3, 1, 1)], {
      width: 900,
      height: 500,
    });
    expect(rows.flatMap((row) => row.items.map(({ id }) => id))).toEqual([1, 2, 3]);
    expect(rows.reduce((sum, row) => sum + row.height, 0)).toBeLessThanOrEqual(500);
    expect(fillRows([], { width: 9, height: 9 })).toEqual([]);
  });
});
