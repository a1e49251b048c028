<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { nextTick, ref } from 'vue';
import IconClose from '~icons/tabler/x';
import type { RunItemView } from '#core/contract/http';
import { actionOf } from '../app/shortcuts.ts';
import OutputSigns from './OutputSigns.vue';
import { centreOf } from '#core/placement/geometry';
import { bytesText } from '../ui/format.ts';
import { useKeys } from '../ui/useKeys.ts';

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

/** The photo without its mark, as long as the button or its key is held. */
const isBefore = ref(false);
/** Loaded when it is first asked for; then it changes at once. */
const wasBefore = ref(false);
const beforeProblem = ref(false);

function showBefore(now: boolean): void {
  isBefore.value = now;
  if (now) wasBefore.value = true;
}

useKeys((event) => {
  if (event.key === 'Escape') emit('close');
  else if (actionOf(event) === 'hide-mark') showBefore(true);
  else return false;
  return true;
});
// The key or the button may be let go of elsewhere.
useEventListener(window, ['keyup', 'blur', 'pointerup', 'pointercancel'], () => showBefore(false));
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
        <OutputSigns :item="item" />
        <button
          class="btn btn-outline-secondary"
          type="button"
          :aria-pressed="isBefore"
          title="Hold to see the photo without the mark"
          @pointerdown="showBefore(true)"
          @keydown.space.prevent="showBefore(true)"
          @keydown.enter.prevent="showBefore(true)"
        >
          Hold: before
        </button>
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
      <span class="sheet">
        <img
          :src="`/api/outputs/${item.id}/view`"
          :alt="item.outputName ?? ''"
          :style="isWhole ? {} : { width: `${(item.frame?.width ?? 0) / density}px` }"
          @load="showMark"
        />
        <img
          v-if="wasBefore && !beforeProblem"
          v-show="isBefore"
          class="before"
          :src="`/api/outputs/${item.id}/before`"
          alt="The photo without the mark"
          data-testid="before"
          @error="beforeProblem = true"
        />
        <span v-if="isBefore && beforeProblem" class="problem" role="alert"
          >The photo is not there any more, or cannot be opened.</span
        >
      </span>
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

.sheet {
  display: block;
  margin: auto;
  position: relative;
  width: max-content;
}

.sheet img {
  display: block;
  max-width: none;
}

.sheet .before {
  height: 100%;
  inset: 0;
  position: absolute;
  width: 100%;
}

.problem {
  background: var(--lc-card);
  color: var(--lc-lost-deep);
  left: 0;
  padding: 6px 12px;
  position: absolute;
  top: 0;
}

.scroller.whole {
  align-items: center;
  display: flex;
  justify-content: center;
  overflow: hidden;
}

.scroller.whole .sheet {
  display: flex;
  height: 100%;
  width: auto;
}

.scroller.whole img:not(.before) {
  margin: auto;
  max-height: 100%;
  max-width: 100%;
}

.scroller.whole .before {
  object-fit: contain;
}
</style>
