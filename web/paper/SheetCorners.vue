<script setup lang="ts">
import { computed } from 'vue';
import type { LiftSettings } from '#core/contract/lift';
import { clamp, type Size } from '#core/placement/geometry';
import DragHandle from '../ui/DragHandle.vue';
import type { Lift } from './useLift.ts';

/** The four corners that the sheet is straightened by. */
const props = defineProps<{
  lift: Lift;
  /** The picture as it is shown, CSS px. */
  shown: Size;
}>();

const OUTER_CORNERS: NonNullable<LiftSettings['corners']> = [
  { x: 0.02, y: 0.02 },
  { x: 0.98, y: 0.02 },
  { x: 0.98, y: 0.98 },
  { x: 0.02, y: 0.98 },
];
/** A corner may lie a little beyond the picture, shares of its sides. */
const BEYOND = 0.05;
const CORNER_NAMES = ['Top left', 'Top right', 'Bottom right', 'Bottom left'] as const;

const corners = computed(() => props.lift.settings.value.corners ?? OUTER_CORNERS);
const line = computed(() => {
  const { width, height } = props.shown;
  return corners.value.map(({ x, y }) => `${x * width},${y * height}`).join(' ');
});

function move(index: number, dxPx: number, dyPx: number): void {
  const within = (value: number): number => clamp(value, -BEYOND, 1 + BEYOND);
  const moved = corners.value.map(({ x, y }, at) =>
    at === index
      ? { x: within(x + dxPx / props.shown.width), y: within(y + dyPx / props.shown.height) }
      : { x, y },
  ) as NonNullable<LiftSettings['corners']>;
  void props.lift.reframe({ corners: moved });
}
</script>

<template>
  <svg aria-hidden="true"><polygon :points="line" /></svg>
  <DragHandle
    v-for="(corner, index) in corners"
    :key="index"
    :label="`${CORNER_NAMES[index]} of the sheet`"
    :style="{ left: `${corner.x * 100}%`, top: `${corner.y * 100}%` }"
    @move="(dx, dy) => move(index, dx, dy)"
  />
</template>

<style scoped>
svg {
  height: 100%;
  inset: 0;
  pointer-events: none;
  position: absolute;
  width: 100%;
}

polygon {
  fill: none;
  stroke: var(--lc-card);
  stroke-width: 1.5;
}
</style>
