import justifiedLayout from 'justified-layout';
import { computed, type ComputedRef, type Ref } from 'vue';
import type { Size } from '#core/placement/geometry';

export interface WallBox<T> {
  readonly item: T;
  readonly left: number;
  readonly width: number;
  readonly height: number;
}

export interface WallRow<T> {
  readonly top: number;
  readonly height: number;
  readonly boxes: readonly WallBox<T>[];
}

export const WALL_GAP_PX = 8;

/** Photos in rows of one height that fill the width, each in its own proportions. */
export function useJustifiedRows<T extends Size>(
  items: Ref<readonly T[]>,
  widthPx: Ref<number>,
  rowHeightPx: Ref<number>,
): ComputedRef<WallRow<T>[]> {
  return computed(() => {
    if (widthPx.value <= 0) return [];
    const { boxes } = justifiedLayout(
      items.value.map((item) => item.width / item.height),
      {
        containerWidth: widthPx.value,
        containerPadding: 0,
        boxSpacing: WALL_GAP_PX,
        targetRowHeight: rowHeightPx.value,
      },
    );
    const rows: { top: number; height: number; boxes: WallBox<T>[] }[] = [];
    boxes.forEach(({ top, left, width, height }, index) => {
      let row = rows.at(-1);
      if (row?.top !== top) rows.push((row = { top, height, boxes: [] }));
      row.boxes.push({ item: items.value[index], left, width, height });
    });
    return rows;
  });
}
