import { useLocalStorage } from '@vueuse/core';
import type { Ref } from 'vue';

/** How large photos stand on the wall: 1 is usual. */
export const TILE_SIZES = { least: 0.5, most: 2.5, step: 0.25, usual: 1 } as const;

/** At the usual size rows are this high on a usual screen, and grow with large ones. */
const ROW_SHARE_OF_WIDTH = 0.14;
const ROW_MIN_PX = 140;
const ROW_MAX_PX = 280;

/** Height of a row on a wall of some width, CSS pixels. */
export function tileHeight(width: number, size: number): number {
  return size * Math.min(ROW_MAX_PX, Math.max(ROW_MIN_PX, width * ROW_SHARE_OF_WIDTH));
}

/** One size for all batches, kept in the browser. */
export function useTileSize(): { size: Ref<number>; step: (by: 1 | -1) => void } {
  const size = useLocalStorage<number>('light-crest-tile-size', TILE_SIZES.usual);
  const step = (by: 1 | -1): void => {
    const next = size.value + by * TILE_SIZES.step;
    size.value = Math.min(TILE_SIZES.most, Math.max(TILE_SIZES.least, next));
  };
  return { size, step };
}
