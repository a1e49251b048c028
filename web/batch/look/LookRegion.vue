<script setup lang="ts">
import { photoAddress } from '../../api/photoAddress.ts';
import { useDevicePixelRatio, useElementSize } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView } from '#core/contract/http';
import type { RegionWish } from '#core/contract/readability';
import { centreOf, clamp, type Box, type Point } from '#core/placement/geometry';
import { dragPointer } from '../../ui/dragPointer.ts';
import { placed } from '../../preset/usePlacing.ts';
import { useRegionPictures } from './useRegionPictures.ts';
import { usePhotoWords } from '../photoWords.ts';
import { useDraft } from '../../preset/draft.ts';
import { useReadings } from '../../readability/readings.ts';
import EdgeDistances from './EdgeDistances.vue';
import WipeHandle from './WipeHandle.vue';

/** Part of the output pixel by pixel, as the engine itself makes it; opened where the mark is. */
const props = defineProps<{
  photo: PhotoView;
  resize: ResizeRule | null;
  hideMark: boolean;
  isWiping: boolean;
  /** Device pixels a pixel of the output. */
  zoom: number;
}>();
const emit = defineEmits<{ wheel: [by: number] }>();
const wipe = defineModel<number>('wipe', { required: true });

/** The frame's edges can be pulled this far into the view, CSS px, to be looked at. */
const BEYOND_PX = 60;
/** More than is seen is asked for, so that a small pan shows it at once; px of the output. */
const MARGIN_PX = 160;
const KEY_PAN_PX = 60;

const draft = useDraft();
const readings = useReadings();
const { pixelRatio } = useDevicePixelRatio();
const view = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(view);
/** CSS pixels a pixel of the output. */
const scale = computed(() => props.zoom / pixelRatio.value);

const photoWords = usePhotoWords();
const subject = computed(() => draft.subjectOf(props.photo.id));
const choice = computed(() => readings.choiceFor(props.photo.id));
const placing = computed(() =>
  placed(props.photo, subject.value.mark, subject.value.rule, props.resize, {
    adjustment: subject.value.adjustment,
    choice: choice.value,
    words: photoWords.of(props.photo),
  }),
);
const frame = computed(() => placing.value.frame);
const markBox = computed(() => placing.value.placement?.copies[0]?.box ?? null);

/** The point of the output in the middle of the view. */
const centre = ref<Point>({ x: 0, y: 0 });
const seen = computed(() => ({
  width: width.value / scale.value,
  height: height.value / scale.value,
}));

function lookAt({ x, y }: Point): void {
  const along = (at: number, length: number, shown: number): number => {
    const beyond = BEYOND_PX / scale.value;
    const low = shown / 2 - beyond;
    const high = length - shown / 2 + beyond;
    return low > high ? length / 2 : clamp(at, low, high);
  };
  centre.value = {
    x: along(x, frame.value.width, seen.value.width),
    y: along(y, frame.value.height, seen.value.height),
  };
}

/** To the mark, on each photo anew; a change of zoom keeps what is in the middle. */
watch(
  () => [props.photo.id, width.value > 0, frame.value.width] as const,
  () => lookAt(markBox.value ? centreOf(markBox.value) : { x: 0, y: 0 }),
  { immediate: true },
);
watch(
  () => [props.zoom, width.value, height.value] as const,
  () => lookAt(centre.value),
);

/** Where the output begins in the view, CSS px. */
const origin = computed<Point>(() => ({
  x: width.value / 2 - centre.value.x * scale.value,
  y: height.value / 2 - centre.value.y * scale.value,
}));
const styleOf = ({ x, y, width: w, height: h }: Box) => ({
  left: `${origin.value.x + x * scale.value}px`,
  top: `${origin.value.y + y * scale.value}px`,
  width: `${w * scale.value}px`,
  height: `${h * scale.value}px`,
});
const wholeStyle = computed(() => styleOf({ x: 0, y: 0, ...frame.value }));

const wanted = computed<Box>(() => {
  const x = Math.max(0, Math.floor(centre.value.x - seen.value.width / 2 - MARGIN_PX));
  const y = Math.max(0, Math.floor(centre.value.y - seen.value.height / 2 - MARGIN_PX));
  return {
    ...{ x, y },
    width: Math.min(frame.value.width - x, Math.ceil(seen.value.width + 2 * MARGIN_PX)),
    height: Math.min(frame.value.height - y, Math.ceil(seen.value.height + 2 * MARGIN_PX)),
  };
});
const marks = computed<RegionWish['marks']>(() => {
  const choices = readings.choicesFor(props.photo.id);
  return draft.subjectsOf(props.photo.id).flatMap(({ mark, rule, adjustment }, index) => {
    return mark ? [{ markId: mark.id, rule, adjustment, choice: choices[index] }] : [];
  });
});

const { after, before, problem, isWaiting } = useRegionPictures({
  photoId: () => props.photo.id,
  number: () => photoWords.numberOf(props.photo.id),
  resize: () => props.resize,
  marks: () => marks.value,
  box: () => wanted.value,
  isShown: () => width.value > 0,
});

function pan(event: PointerEvent): void {
  const from = { ...centre.value };
  dragPointer(event, ({ clientX, clientY }) =>
    lookAt({
      x: from.x - (clientX - event.clientX) / scale.value,
      y: from.y - (clientY - event.clientY) / scale.value,
    }),
  );
}

function keyPan(event: KeyboardEvent): void {
  const ways: Readonly<Record<string, readonly [number, number]>> = {
    ...{ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] },
  };
  const way = ways[event.key];
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  const step = (KEY_PAN_PX / scale.value) * (event.shiftKey ? 5 : 1);
  lookAt({ x: centre.value.x + way[0] * step, y: centre.value.y + way[1] * step });
}

const isBare = computed(() => props.hideMark && before.value !== null);
</script>

<template>
  <div
    ref="view"
    class="view"
    tabindex="0"
    role="group"
    aria-label="Part of the photo; arrow keys move it"
    data-testid="region"
    :data-waiting="isWaiting"
    @pointerdown="pan"
    @keydown="keyPan"
    @wheel.prevent="emit('wheel', $event.deltaY)"
  >
    <img
      class="stand-in"
      :src="photoAddress(photo, 'proxy')"
      alt=""
      draggable="false"
      :style="wholeStyle"
    />
    <img
      v-if="after && !isBare"
      class="pixels"
      :class="{ sharp: zoom > 1 }"
      :src="after.address"
      :alt="photo.name"
      draggable="false"
      :style="styleOf(after.box)"
    />
    <span
      v-if="before && (isWiping || isBare)"
      class="before"
      :style="isBare ? {} : { clipPath: `inset(0 ${(1 - wipe) * 100}% 0 0)` }"
    >
      <img
        class="pixels"
        :class="{ sharp: zoom > 1 }"
        :src="before.address"
        alt=""
        draggable="false"
        :style="styleOf(before.box)"
      />
    </span>
    <EdgeDistances
      v-if="markBox && placing.placement && placing.placement.copies.length === 1"
      :frame="frame"
      :box="markBox"
      :scale="scale"
      :origin="origin"
    />
    <WipeHandle v-if="isWiping" v-model="wipe" />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.view {
  cursor: grab;
  isolation: isolate;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
  position: relative;
  touch-action: none;
}

.view:active {
  cursor: grabbing;
}

img {
  display: block;
  max-width: none;
  pointer-events: none;
  position: absolute;
}

.before {
  inset: 0;
  pointer-events: none;
  position: absolute;
}

.sharp {
  image-rendering: pixelated;
}

.problem {
  background: rgb(20 36 44 / 85%);
  color: #f6f3ec;
  inset: auto 0 0;
  margin: 0;
  padding: 8px 12px;
  position: absolute;
}
</style>
