<script setup lang="ts" generic="T extends { width: number; height: number }">
import { useVirtualizer } from '@tanstack/vue-virtual';
import { useElementSize } from '@vueuse/core';
import { computed, ref, toRef, watch } from 'vue';
import { useJustifiedRows, WALL_GAP_PX, type WallBox } from './useJustifiedRows.ts';

/** Pictures in justified rows. Only the rows in sight are there, so thousands scroll smoothly. */
const props = withDefaults(
  defineProps<{
    items: readonly T[];
    /** What tells one from the other. */
    itemKey: (item: T) => number | string;
    /** Wished height of a row at a width of the wall, CSS pixels. */
    rowHeight: (width: number) => number;
    /** What stands below each picture, CSS pixels. */
    captionPx?: number;
    testid?: string;
  }>(),
  { captionPx: 0, testid: undefined },
);
const emit = defineEmits<{ visible: [items: T[]] }>();
defineSlots<{
  default(of: { box: WallBox<T>; top: number; isLastRow: boolean }): unknown;
}>();

const ROWS_BESIDE = 3;
const scroller = ref<HTMLElement | null>(null);
const { width } = useElementSize(scroller);
const height = computed(() => props.rowHeight(width.value));
const rows = useJustifiedRows(toRef(props, 'items'), width, height);
const virtual = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: (index: number) => rows.value[index].height + props.captionPx,
    gap: WALL_GAP_PX,
    overscan: ROWS_BESIDE,
    paddingEnd: 18,
  })),
);
watch(rows, () => virtual.value.measure());
watch(
  () => virtual.value.getVirtualItems().flatMap(({ index }) => rows.value[index]?.boxes ?? []),
  (boxes) => emit('visible', boxes.map(({ item }) => item) as T[]),
);

/** Brings one into sight. @returns the wall's element, or null where it is not there */
function show(key: number | string): HTMLElement | null {
  const index = rows.value.findIndex(({ boxes }) =>
    boxes.some(({ item }) => props.itemKey(item as T) === key),
  );
  if (index < 0) return null;
  virtual.value.scrollToIndex(index, { align: 'auto' });
  return scroller.value;
}
defineExpose({ show });
</script>

<template>
  <div ref="scroller" class="scroller" :data-testid="testid">
    <div class="position-relative" :style="{ height: `${virtual.getTotalSize()}px` }">
      <template v-for="line in virtual.getVirtualItems()" :key="line.index">
        <div
          v-for="box in rows[line.index]?.boxes ?? []"
          :key="itemKey(box.item as T)"
          class="place"
          :style="{ transform: `translate(${box.left}px, ${line.start}px)` }"
        >
          <slot
            :box="box as WallBox<T>"
            :top="line.start"
            :is-last-row="line.index > 0 && line.index === rows.length - 1"
          />
        </div>
      </template>
    </div>
  </div>
</template>

<style scoped>
.scroller {
  height: 100%;
  overflow: hidden auto;
  scrollbar-color: color-mix(in srgb, var(--lc-on-surround) 35%, transparent) transparent;
  scrollbar-gutter: stable;
}

.place {
  left: 0;
  position: absolute;
  top: 0;
}

/* What opens from a picture lies over those that come after it. */
.place:hover,
.place:focus-within {
  z-index: 2;
}
</style>
