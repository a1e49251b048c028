<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { nextTick, ref } from 'vue';
import IconClose from '~icons/tabler/x';
import type { RunItemView } from '#core/contract/http';
import { centreOf } from '#core/placement/geometry';
import { bytesText } from '../ui/format.ts';

/** A finished output at 100 %, opened where the mark is. */
const props = defineProps<{ item: RunItemView }>();
const emit = defineEmits<{ close: [] }>();

const scroller = ref<HTMLElement | null>(null);
const isWhole = ref(false);

/** One pixel of the file is one pixel of the screen, whatever the screen's density. */
const density = window.devicePixelRatio || 1;

async function showMark(): Promise<void> {
  await nextTick();
  const box = props.item.placement?.copies[0]?.box;
  const area = scroller.value;
  if (!box || !area || isWhole.value) return;
  const centre = centreOf(box);
  area.scrollTo(
    centre.x / density - area.clientWidth / 2,
    centre.y / density - area.clientHeight / 2,
  );
}

function toggle(): void {
  isWhole.value = !isWhole.value;
  void showMark();
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.key === 'Escape') emit('close');
});
</script>

<template>
  <div class="look" data-testid="output-look">
    <header class="number align-items-center d-flex">
      <b class="text-truncate">{{ item.outputName }}</b>
      <span class="facts">
        {{ item.frame?.width }} × {{ item.frame?.height }} px,
        {{ bytesText(item.bytesBefore ?? 0) }} →
        {{ bytesText(item.bytesAfter ?? 0) }}
      </span>
      <span class="end">
        <button class="btn btn-outline-secondary" type="button" @click="toggle">
          {{ isWhole ? 'At 100 %' : 'The whole photo' }}
        </button>
        <a class="btn btn-outline-secondary" :href="`/api/outputs/${item.id}/file`" download
          >Download</a
        >
        <button
          class="btn btn-outline-secondary close"
          type="button"
          aria-label="Back to the wall"
          @click="$emit('close')"
        >
          <IconClose />
        </button>
      </span>
    </header>
    <div
      ref="scroller"
      class="scroller"
      :class="{ whole: isWhole }"
      tabindex="0"
      aria-label="The output"
    >
      <img
        :src="`/api/outputs/${item.id}/view`"
        :alt="item.outputName ?? ''"
        :style="isWhole ? {} : { width: `${(item.frame?.width ?? 0) / density}px` }"
        @load="showMark"
      />
    </div>
  </div>
</template>

<style scoped>
.look {
  display: grid;
  gap: 10px;
  grid-template-rows: auto minmax(0, 1fr);
  padding-right: 12px;
}

header {
  gap: 14px;
  min-width: 0;
}

.facts {
  color: var(--lc-on-surround-quiet);
  white-space: nowrap;
}

.end {
  display: flex;
  flex: none;
  gap: 8px;
  margin-left: auto;
}

.close {
  display: flex;
  font-size: 1.1rem;
  padding: 6px;
}

.scroller {
  margin-bottom: 14px;
  overflow: auto;
}

.scroller img {
  display: block;
  margin: auto;
  max-width: none;
}

.scroller.whole {
  align-items: center;
  display: flex;
  justify-content: center;
  overflow: hidden;
}

.scroller.whole img {
  max-height: 100%;
  max-width: 100%;
}
</style>
