<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue';
import type { DrawnLayer } from '#core/design/draw';
import type { Box } from '#core/placement/geometry';

/**
 * A design drawn in the page. While a hand moves layers, what lies below, what is held and what
 * lies above are sheets of their own: the browser only moves the held one and draws none of them
 * anew. The pieces are ours, made by the core of checked parts.
 */
const props = defineProps<{
  drawn: readonly DrawnLayer[];
  /** Units that are seen. */
  view: Box;
  /** CSS pixels a unit. */
  scale: number;
  isHeld: boolean;
}>();

interface Sheet {
  readonly key: string;
  readonly layers: readonly DrawnLayer[];
  readonly isHeld: boolean;
}

/** Held layers as they were when they were taken. */
const origins = shallowRef<ReadonlyMap<string, DrawnLayer>>(new Map());
watch(
  () => props.isHeld,
  () => {
    const taken = props.drawn.filter(({ held }) => held);
    origins.value = new Map(taken.map((layer) => [layer.id, layer]));
  },
  { immediate: true },
);

const viewBox = computed(() => {
  const { x, y, width, height } = props.view;
  return `${x} ${y} ${width} ${height}`;
});

/** Layers that follow each other and are held, or not held. */
const sheets = computed<Sheet[]>(() => {
  const runs: { key: string; layers: DrawnLayer[]; isHeld: boolean }[] = [];
  for (const layer of props.drawn) {
    const isHeld = layer.held;
    const last = runs[runs.length - 1];
    if (last?.isHeld === isHeld) last.layers.push(layer);
    else runs.push({ key: `${isHeld}${runs.length}`, layers: [layer], isHeld });
  }
  return runs;
});

/** How far a held sheet was moved, where all its layers were moved alike and nothing else. */
function shiftOf({ layers, isHeld }: Sheet): { x: number; y: number } | null {
  if (!isHeld) return null;
  const shifts = layers.map((layer) => {
    const origin = origins.value.get(layer.id);
    return origin?.svg === layer.svg ? { x: layer.x - origin.x, y: layer.y - origin.y } : null;
  });
  const [first] = shifts;
  const TOUCH = 1e-6;
  const isAlike = shifts.every(
    (shift) =>
      first && shift && Math.abs(shift.x - first.x) < TOUCH && Math.abs(shift.y - first.y) < TOUCH,
  );
  return isAlike ? first : null;
}

function sheetStyle(sheet: Sheet) {
  const shift = shiftOf(sheet);
  if (!shift) return {};
  return { transform: `translate(${shift.x * props.scale}px, ${shift.y * props.scale}px)` };
}

/** A moved sheet keeps its layers where they lay in it. */
function placeOf(sheet: Sheet, layer: DrawnLayer): string {
  const { x, y } = (shiftOf(sheet) && origins.value.get(layer.id)) ?? layer;
  return `translate(${x} ${y})`;
}
</script>

<template>
  <div class="sheets" :class="{ held: isHeld }" aria-hidden="true">
    <!-- eslint-disable vue/no-v-html -- the pieces are ours, made by the core of checked parts -->
    <svg v-for="sheet in sheets" :key="sheet.key" :viewBox="viewBox" :style="sheetStyle(sheet)">
      <g
        v-for="layer in sheet.layers"
        :key="layer.id"
        :transform="placeOf(sheet, layer)"
        v-html="layer.svg"
      />
    </svg>
    <!-- eslint-enable vue/no-v-html -->
  </div>
</template>

<style scoped>
.sheets {
  inset: 0;
  pointer-events: none;
  position: absolute;
}

svg {
  height: 100%;
  inset: 0;
  overflow: visible;
  position: absolute;
  width: 100%;
}

.held svg {
  will-change: transform;
}
</style>
