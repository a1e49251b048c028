<script setup lang="ts">
import { computed, ref } from 'vue';
import type { HandStroke } from '#core/contract/lift';
import { clamp, type Size } from '#core/placement/geometry';
import { arrowWay } from '../ui/arrowWay.ts';

/**
 * A brush over the ink: rubs out, or brings back. With the keyboard the arrows move it and the space
 * bar works once. Strokes are given in CSS px of the picture.
 */
const props = defineProps<{ does: HandStroke['does']; shown: Size }>();
const emit = defineEmits<{ stroke: [points: readonly number[], radiusPx: number] }>();

const RADIUS_PX = 12;
const KEY_STEP_PX = 6;
const FAST = 5;
/** Points closer than this, CSS px, say nothing new. */
const APART_PX = 3;

const points = ref<readonly number[]>([]);
/** As shares of the picture. */
const cursor = ref({ x: 0.5, y: 0.5 });
const line = computed(() => {
  const pairs: string[] = [];
  for (let at = 0; at + 1 < points.value.length; at += 2) {
    pairs.push(`${points.value[at]},${points.value[at + 1]}`);
  }
  return pairs.join(' ');
});

function placeOf(event: PointerEvent): [number, number] {
  const frame = (event.currentTarget as Element).getBoundingClientRect();
  return [event.clientX - frame.left, event.clientY - frame.top];
}

function begin(event: PointerEvent): void {
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  points.value = placeOf(event);
}

function go(event: PointerEvent): void {
  if (points.value.length === 0) return;
  const [x, y] = placeOf(event);
  const [lastX, lastY] = points.value.slice(-2);
  if (Math.hypot(x - lastX, y - lastY) >= APART_PX) points.value = [...points.value, x, y];
}

function end(): void {
  if (points.value.length > 0) emit('stroke', points.value, RADIUS_PX);
  points.value = [];
}

function key(event: KeyboardEvent): void {
  const way = arrowWay(event.key);
  const { width, height } = props.shown;
  if (way) {
    const step = KEY_STEP_PX * (event.shiftKey ? FAST : 1);
    cursor.value = {
      x: clamp(cursor.value.x + (way[0] * step) / width, 0, 1),
      y: clamp(cursor.value.y + (way[1] * step) / height, 0, 1),
    };
  } else if (event.key === ' ') {
    emit('stroke', [cursor.value.x * width, cursor.value.y * height], RADIUS_PX);
  } else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <svg
    tabindex="0"
    role="application"
    :aria-label="`${does === 'rub' ? 'Rub out' : 'Bring back'}: arrow keys move the brush, the space bar works once`"
    @pointerdown="begin"
    @pointermove="go"
    @pointerup="end"
    @pointercancel="end"
    @keydown="key"
  >
    <polyline :points="line" :stroke-width="2 * RADIUS_PX" />
    <circle :cx="cursor.x * shown.width" :cy="cursor.y * shown.height" :r="RADIUS_PX" />
  </svg>
</template>

<style scoped>
svg {
  cursor: crosshair;
  height: 100%;
  inset: 0;
  position: absolute;
  touch-action: none;
  width: 100%;
}

polyline {
  fill: none;
  stroke: rgb(191 70 48 / 40%);
  stroke-linecap: round;
  stroke-linejoin: round;
}

circle {
  display: none;
  fill: none;
  stroke: var(--lc-lost);
  stroke-width: 1.5;
}

svg:focus-visible circle {
  display: block;
}
</style>
