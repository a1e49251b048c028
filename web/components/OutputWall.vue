<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual';
import { useElementSize } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import type { RunItemView } from '#core/contract/http';
import { bytesText } from '../composables/format.ts';
import { useJustifiedRows, WALL_GAP_PX } from '../composables/useJustifiedRows.ts';

/** Finished outputs, as they are on disk, with their bytes before and after. */
const props = defineProps<{ items: readonly RunItemView[] }>();
defineEmits<{ look: [item: RunItemView] }>();

const ROW_HEIGHT_PX = 190;
const ROWS_BESIDE = 2;
const scroller = ref<HTMLElement | null>(null);
const { width } = useElementSize(scroller);
const shaped = computed(() =>
  props.items.map((item) => ({ item, ...(item.frame ?? { width: 3, height: 2 }) })),
);
const rows = useJustifiedRows(shaped, width, ref(ROW_HEIGHT_PX));
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
</script>

<template>
  <div ref="scroller" class="scroller" data-testid="outputs">
    <div class="inside" :style="{ height: `${virtual.getTotalSize()}px` }">
      <template v-for="line in virtual.getVirtualItems()" :key="line.index">
        <button
          v-for="box in rows[line.index]?.boxes ?? []"
          :key="box.item.item.id"
          type="button"
          class="output"
          :title="`${box.item.item.outputName}: open at 100 %`"
          :style="{
            transform: `translate(${box.left}px, ${line.start}px)`,
            width: `${box.width}px`,
            height: `${box.height}px`,
          }"
          @click="$emit('look', box.item.item)"
        >
          <img :src="`/api/outputs/${box.item.item.id}/tile`" :alt="box.item.item.outputName ?? ''" />
          <span class="bytes number">
            {{ bytesText(box.item.item.bytesBefore ?? 0) }} → {{ bytesText(box.item.item.bytesAfter ?? 0) }}
          </span>
        </button>
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

.output {
  background: rgb(0 0 0 / 8%);
  border: 0;
  left: 0;
  overflow: hidden;
  padding: 0;
  position: absolute;
  top: 0;
}

.output:focus-visible {
  z-index: 1;
}

img {
  display: block;
  height: 100%;
  width: 100%;
}

.bytes {
  background: rgb(20 36 44 / 78%);
  border-radius: 3px;
  bottom: 6px;
  color: #f6f3ec;
  font-size: 0.72rem;
  left: 6px;
  padding: 1px 6px;
  position: absolute;
}
</style>
