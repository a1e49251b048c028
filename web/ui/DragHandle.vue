<script setup lang="ts">
import { ref } from 'vue';
import { arrowWay } from './arrowWay.ts';

/** Something that is dragged over the sheet, or moved with the arrow keys. Steps are CSS px. */
defineProps<{ label: string; shape?: 'corner' | 'edge-x' | 'edge-y' | 'point' }>();
const emit = defineEmits<{ move: [dx: number, dy: number] }>();

const FAST = 10;
const last = ref<{ x: number; y: number } | null>(null);

function down(event: PointerEvent): void {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  last.value = { x: event.clientX, y: event.clientY };
}

function move(event: PointerEvent): void {
  if (!last.value) return;
  emit('move', event.clientX - last.value.x, event.clientY - last.value.y);
  last.value = { x: event.clientX, y: event.clientY };
}

function key(event: KeyboardEvent): void {
  const step = arrowWay(event.key);
  if (!step) return;
  event.preventDefault();
  event.stopPropagation();
  const times = event.shiftKey ? FAST : 1;
  emit('move', step[0] * times, step[1] * times);
}
</script>

<template>
  <button
    type="button"
    class="handle"
    :class="shape ?? 'point'"
    :aria-label="`${label}; arrow keys move it`"
    :title="label"
    @pointerdown.stop.prevent="down"
    @pointermove="move"
    @pointerup="last = null"
    @pointercancel="last = null"
    @keydown="key"
  />
</template>

<style scoped>
.handle {
  background: none;
  border: 0;
  cursor: move;
  height: 26px;
  margin: -13px 0 0 -13px;
  padding: 0;
  position: absolute;
  touch-action: none;
  width: 26px;
}

.handle::after {
  background: var(--lc-card);
  border: 2px solid var(--lc-brass);
  border-radius: 50%;
  box-shadow: 0 0 0 1px rgb(20 36 44 / 45%);
  content: '';
  height: 12px;
  left: 7px;
  position: absolute;
  top: 7px;
  width: 12px;
}

.corner::after {
  border-radius: 2px;
}

.edge-x {
  cursor: ew-resize;
}

.edge-y {
  cursor: ns-resize;
}

.edge-x::after {
  border-radius: 3px;
  height: 22px;
  left: 10px;
  top: 2px;
  width: 7px;
}

.edge-y::after {
  border-radius: 3px;
  height: 7px;
  left: 2px;
  top: 10px;
  width: 22px;
}

.handle:focus-visible::after {
  outline: 2px solid var(--lc-brass-light);
  outline-offset: 3px;
}

.handle:focus-visible {
  outline: none;
}
</style>
