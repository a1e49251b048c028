<script setup lang="ts">
import type { LiftSettings } from '#core/contract/lift';
import { clamp, type Size } from '#core/placement/geometry';
import DragHandle from '../ui/DragHandle.vue';

/** The part of the sheet that is lifted; the rest is veiled. Places are shares of the sheet. */
type Crop = NonNullable<LiftSettings['crop']>;
const props = defineProps<{ crop: Crop; shown: Size; isMovable: boolean }>();
const emit = defineEmits<{ change: [crop: Crop] }>();

const LEAST = 0.01;

/** Where each handle sits, and which sides it takes along. */
const HANDLES = [
  { name: 'Left edge', shape: 'edge-x', x: 0, y: 0.5, sides: ['left'] },
  { name: 'Right edge', shape: 'edge-x', x: 1, y: 0.5, sides: ['right'] },
  { name: 'Top edge', shape: 'edge-y', x: 0.5, y: 0, sides: ['top'] },
  { name: 'Bottom edge', shape: 'edge-y', x: 0.5, y: 1, sides: ['bottom'] },
  { name: 'Top left corner', shape: 'corner', x: 0, y: 0, sides: ['left', 'top'] },
  { name: 'Top right corner', shape: 'corner', x: 1, y: 0, sides: ['right', 'top'] },
  { name: 'Bottom left corner', shape: 'corner', x: 0, y: 1, sides: ['left', 'bottom'] },
  { name: 'Bottom right corner', shape: 'corner', x: 1, y: 1, sides: ['right', 'bottom'] },
] as const;

function move(sides: readonly string[], dxPx: number, dyPx: number): void {
  const dx = dxPx / props.shown.width;
  const dy = dyPx / props.shown.height;
  const { crop } = props;
  const by = (side: string, way: number): number => (sides.includes(side) ? way : 0);
  const right = crop.x + crop.width;
  const bottom = crop.y + crop.height;
  const x = clamp(crop.x + by('left', dx), 0, right - LEAST);
  const y = clamp(crop.y + by('top', dy), 0, bottom - LEAST);
  emit('change', {
    x,
    y,
    width: clamp(right + by('right', dx), x + LEAST, 1) - x,
    height: clamp(bottom + by('bottom', dy), y + LEAST, 1) - y,
  });
}
</script>

<template>
  <div
    class="crop"
    :style="{
      left: `${crop.x * 100}%`,
      top: `${crop.y * 100}%`,
      width: `${crop.width * 100}%`,
      height: `${crop.height * 100}%`,
    }"
  >
    <template v-if="isMovable">
      <DragHandle
        v-for="{ name, shape, x, y, sides } in HANDLES"
        :key="name"
        :label="name"
        :shape="shape"
        :style="{ left: `${x * 100}%`, top: `${y * 100}%` }"
        @move="(dx, dy) => move(sides, dx, dy)"
      />
    </template>
  </div>
</template>

<style scoped>
.crop {
  box-shadow: 0 0 0 4000px rgb(20 36 44 / 42%);
  outline: 1.5px solid var(--lc-card);
  position: absolute;
}
</style>
