<script setup lang="ts">
import { useDevicePixelRatio, useElementSize } from '@vueuse/core';
import { computed, ref, watchEffect } from 'vue';
import { moved } from '#core/design/edit';
import { frameBox, layerFrame, type LayerFrame } from '#core/design/frame';
import { naturalBoxes } from '#core/design/markToSvg';
import { grownBox, unionBox } from '#core/path/pathBox';
import { boxAround, type Box } from '#core/placement/geometry';
import { useDesk } from './useDesk.ts';
import { useRestPicture } from './useRestPicture.ts';
import InkSheets from './InkSheets.vue';
import LayerHandles from './LayerHandles.vue';
import { useKeys } from '../ui/useKeys.ts';

/** The mark, large: drawn in the page while a hand is on it, by the server when the hand rests. */
const desk = useDesk();
const { pixelRatio } = useDevicePixelRatio();
const stage = ref<HTMLElement | null>(null);
const handles = ref<InstanceType<typeof LayerHandles> | null>(null);
const { width, height } = useElementSize(stage);

/** Room round the mark, as a share of the stage. */
const ROOM = 0.14;
const EMPTY: Box = { x: -500, y: -200, width: 1_000, height: 400 };
const NUDGE_UNITS = 1;
const SHIFT_FACTOR = 10;

const { drawn } = desk;

/** What the stage shows; it holds still while a hand is on the mark. */
const shown = ref<Box>(EMPTY);
watchEffect(() => {
  const boxes = naturalBoxes(desk.design.value, desk.context.value);
  if (!desk.isHeld.value) shown.value = boxes?.natural ?? EMPTY;
});
const scale = computed(() => {
  const room = 1 - 2 * ROOM;
  const fits = Math.min(
    (width.value * room) / shown.value.width,
    (height.value * room) / shown.value.height,
  );
  // Before the page is laid out the stage has no size.
  return fits > 0 ? fits : 1;
});
const view = computed(() => {
  const middle = {
    x: shown.value.x + shown.value.width / 2,
    y: shown.value.y + shown.value.height / 2,
  };
  return boxAround(middle, {
    width: width.value / scale.value,
    height: height.value / scale.value,
  });
});
const rest = useRestPicture(desk, () => scale.value * pixelRatio.value);
const restStyle = computed(() => {
  if (!rest.value) return {};
  const { box } = rest.value;
  return {
    left: `${(box.x - view.value.x) * scale.value}px`,
    top: `${(box.y - view.value.y) * scale.value}px`,
    width: `${Math.ceil(box.width * scale.value * pixelRatio.value) / pixelRatio.value}px`,
  };
});

interface Held {
  readonly id: string;
  readonly name: string;
  readonly frame: LayerFrame;
}

/** Layers as a hand can take hold of them, from below. */
const frames = computed<Held[]>(() =>
  desk.layers.value
    .filter(({ hidden, locked }) => !hidden && !locked)
    .flatMap((layer) => {
      const frame = layerFrame(layer, desk.context.value);
      return frame ? [{ id: layer.id, name: layer.name, frame }] : [];
    }),
);

/** Thin strokes get something to take hold of. */
const LEAST_HOLD_PX = 24;

function holdStyle({ frame }: Held) {
  const wide = Math.max(frame.width * scale.value, LEAST_HOLD_PX);
  const tall = Math.max(frame.height * scale.value, LEAST_HOLD_PX);
  const x = (frame.centre.x - view.value.x) * scale.value - wide / 2;
  const y = (frame.centre.y - view.value.y) * scale.value - tall / 2;
  return {
    width: `${wide}px`,
    height: `${tall}px`,
    transform: `translate(${x}px, ${y}px) rotate(${frame.turn}deg)`,
  };
}

/** Where something new is best put: the middle of what is seen. */
const inkBox = computed(
  () => unionBox(frames.value.map(({ frame }) => frameBox(frame))) ?? grownBox(EMPTY, -100),
);

function takeHold(event: PointerEvent, id: string): void {
  if (event.button !== 0) return;
  const adds = event.shiftKey || event.ctrlKey || event.metaKey;
  if (adds || !desk.chosen.value.has(id)) desk.choose(id, adds);
  // What was just chosen is moved by the same press.
  if (desk.chosen.value.has(id)) handles.value?.drag(event);
}

const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

useKeys((event) => {
  const way = WAYS[event.key];
  if (!way || event.altKey || event.ctrlKey || event.metaKey) return false;
  if (desk.chosen.value.size === 0) return false;
  // Lists and choices move by arrows of their own.
  if ((event.target as Element | null)?.closest('[role=listbox], [role=radiogroup]')) return false;
  const by = NUDGE_UNITS * (event.shiftKey ? SHIFT_FACTOR : 1);
  const step = { x: way[0] * by, y: way[1] * by };
  desk.change('Nudge', moved(desk.design.value, desk.chosen.value, step));
  return true;
});

defineExpose({ inkBox });
</script>

<template>
  <div
    ref="stage"
    class="stage"
    :data-rest="rest !== null"
    @pointerdown.self="desk.chooseNothing()"
  >
    <InkSheets
      v-show="!rest"
      :drawn="drawn"
      :view="view"
      :scale="scale"
      :is-held="desk.isHeld.value"
    />
    <img v-if="rest" class="rest" :src="rest.url" :style="restStyle" alt="" draggable="false" />
    <button
      v-for="held in frames"
      :key="held.id"
      type="button"
      class="hold bg-transparent border-0"
      :class="{ chosen: desk.chosen.value.has(held.id) }"
      :data-layer="held.id"
      :aria-label="held.name"
      :aria-pressed="desk.chosen.value.has(held.id)"
      :style="holdStyle(held)"
      @pointerdown="takeHold($event, held.id)"
      @keydown.enter.prevent="desk.choose(held.id)"
    />
    <LayerHandles ref="handles" :scale="scale" :view="view" :stage="stage" :frames="frames" />
    <p v-if="drawn.length === 0" class="empty position-absolute text-center">
      Nothing to see yet. Add words, artwork, a pen stroke or a shape on the left.
    </p>
  </div>
</template>

<style scoped>
.stage {
  height: 100%;
  overflow: hidden;
  position: relative;
  user-select: none;
}

.rest {
  max-width: none;
  pointer-events: none;
  position: absolute;
}

.hold {
  cursor: move;
  left: 0;
  padding: 0;
  position: absolute;
  top: 0;
  touch-action: none;
}

.hold:hover {
  outline: 1px dashed color-mix(in srgb, var(--lc-on-surround) 45%, transparent);
}

.hold.chosen {
  outline: none;
}

.empty {
  color: var(--lc-on-surround-quiet);
  inset: 45% 10% auto;
}
</style>
