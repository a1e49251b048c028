<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual';
import { useElementSize } from '@vueuse/core';
import { computed, nextTick, ref, toRef, watch } from 'vue';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import { useJustifiedRows, WALL_GAP_PX } from '../ui/useJustifiedRows.ts';
import { useReadings } from '../readability/readings.ts';
import WallTile from './WallTile.vue';

/** The batch in justified rows. Only the rows in sight are there, so thousands scroll smoothly. */
const props = defineProps<{
  photos: readonly PhotoView[];
  selected: ReadonlySet<number>;
  /** The photo that keys speak to. */
  currentId: number | null;
  resize: ResizeRule | null;
  hideMark: boolean;
}>();
defineEmits<{ choose: [photo: PhotoView, event: MouseEvent]; look: [photo: PhotoView] }>();

/** Rows are this high on a usual screen, and grow with large ones. */
const ROW_SHARE_OF_WIDTH = 0.14;
const ROW_MIN_PX = 140;
const ROW_MAX_PX = 280;
const ROWS_BESIDE = 3;
/** What opens from a tile is this wide. */
const CARD_PX = 300;

const scroller = ref<HTMLElement | null>(null);
const { width } = useElementSize(scroller);
const rowHeight = computed(() =>
  Math.min(ROW_MAX_PX, Math.max(ROW_MIN_PX, width.value * ROW_SHARE_OF_WIDTH)),
);
const rows = useJustifiedRows(toRef(props, 'photos'), width, rowHeight);
const virtual = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: (index: number) => rows.value[index].height,
    gap: WALL_GAP_PX,
    overscan: ROWS_BESIDE,
    paddingEnd: 18,
  })),
);
watch(rows, () => virtual.value.measure());

/** The last row has no room below it. */
function opensUp(row: number): boolean {
  return row > 0 && row === rows.value.length - 1;
}

const readings = useReadings();
watch(
  () => virtual.value.getVirtualItems().flatMap(({ index }) => rows.value[index]?.boxes ?? []),
  (boxes) => readings.setVisible(boxes.map(({ item }) => item.id)),
);

watch(
  () => props.currentId,
  async (id) => {
    const index = rows.value.findIndex((row) => row.boxes.some(({ item }) => item.id === id));
    if (id === null || index < 0) return;
    virtual.value.scrollToIndex(index, { align: 'auto' });
    await nextTick();
    scroller.value
      ?.querySelector<HTMLElement>(`[data-photo="${id}"]`)
      ?.focus({ preventScroll: true });
  },
);
</script>

<template>
  <div ref="scroller" class="scroller" data-testid="wall">
    <div class="inside" :style="{ height: `${virtual.getTotalSize()}px` }">
      <template v-for="line in virtual.getVirtualItems()" :key="line.index">
        <WallTile
          v-for="box in rows[line.index]?.boxes ?? []"
          :key="box.item.id"
          class="tile"
          :style="{ transform: `translate(${box.left}px, ${line.start}px)` }"
          :photo="box.item"
          :width="box.width"
          :height="box.height"
          :opens="{ right: box.left + box.width < CARD_PX, up: opensUp(line.index) }"
          :resize="resize"
          :hide-mark="hideMark"
          :is-selected="selected.has(box.item.id)"
          :is-current="currentId === box.item.id"
          @choose="$emit('choose', box.item, $event)"
          @look="$emit('look', box.item)"
        />
      </template>
    </div>
  </div>
</template>

<style scoped>
.scroller {
  height: 100%;
  overflow: hidden auto;
  scrollbar-color: rgb(20 48 61 / 35%) transparent;
  scrollbar-gutter: stable;
}

.inside {
  position: relative;
}

.tile {
  left: 0;
  position: absolute;
  top: 0;
}
</style>
