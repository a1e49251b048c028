<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual';
import { useElementSize } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import type { RunItemView } from '#core/contract/http';
import { bytesText } from '../ui/format.ts';
import { useJustifiedRows, WALL_GAP_PX } from '../ui/useJustifiedRows.ts';

/** Finished outputs, as they are on disk, with their bytes before and after. */
const props = defineProps<{ items: readonly RunItemView[] }>();
defineEmits<{ look: [item: RunItemView] }>();

const ROW_HEIGHT_PX = 190;
const ROWS_BESIDE = 2;
/** The bytes stand below a photo: on it, they would hide a mark somewhere. */
const CAPTION_PX = 20;
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
    estimateSize: (index: number) => rows.value[index].height + CAPTION_PX,
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
            height: `${box.height + CAPTION_PX}px`,
          }"
          @click="$emit('look', box.item.item)"
        >
          <img
            :src="`/api/outputs/${box.item.item.id}/tile`"
            :alt="box.item.item.outputName ?? ''"
            :style="{ height: `${box.height}px` }"
          />
          <span class="bytes number">
            {{ bytesText(box.item.item.bytesBefore ?? 0) }} →
            {{ bytesText(box.item.item.bytesAfter ?? 0) }}
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
  background: none;
  border: 0;
  color: var(--lc-on-surround);
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
  background: rgb(0 0 0 / 8%);
  display: block;
  width: 100%;
}

.bytes {
  display: block;
  font-size: 0.75rem;
  line-height: 20px;
  text-align: left;
  white-space: nowrap;
}
</style>
