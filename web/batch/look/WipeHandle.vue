<script setup lang="ts">
import { clamp } from '#core/placement/geometry';
import { dragPointer } from '../../ui/dragPointer.ts';

/** The line between before, at its left, and after; dragged or moved with the arrow keys. */
const share = defineModel<number>({ required: true });
const KEY_STEP = 0.02;

function down(event: PointerEvent): void {
  const area = (event.currentTarget as HTMLElement).parentElement?.getBoundingClientRect();
  if (!area) return;
  dragPointer(event, ({ clientX }) => {
    share.value = clamp((clientX - area.left) / area.width, 0, 1);
  });
}

function key(event: KeyboardEvent): void {
  const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
  if (by === 0) return;
  event.preventDefault();
  event.stopPropagation();
  share.value = clamp(share.value + by * KEY_STEP * (event.shiftKey ? 5 : 1), 0, 1);
}
</script>

<template>
  <button
    class="wipe"
    type="button"
    role="slider"
    aria-label="Wipe between before and after"
    aria-valuemin="0"
    aria-valuemax="100"
    :aria-valuenow="Math.round(share * 100)"
    :style="{ left: `${share * 100}%` }"
    @pointerdown.stop.prevent="down"
    @keydown="key"
  >
    <span class="word before pe-none position-absolute">before</span>
    <span class="word after pe-none position-absolute">after</span>
  </button>
</template>

<style scoped>
.wipe {
  background: none;
  border: 0;
  bottom: 0;
  cursor: ew-resize;
  margin-left: -14px;
  padding: 0;
  position: absolute;
  top: 0;
  touch-action: none;
  width: 28px;
}

.wipe::before {
  background: #fffdf8;
  box-shadow: 0 0 0 1px rgb(20 36 44 / 50%);
  content: '';
  inset: 0 13px;
  position: absolute;
}

.wipe::after {
  background: var(--lc-card);
  border: 2px solid var(--lc-brass);
  border-radius: 50%;
  content: '';
  height: 16px;
  left: 6px;
  position: absolute;
  top: calc(50% - 8px);
  width: 16px;
}

.word {
  background: rgb(var(--lc-veil) / 92%);
  border-radius: 3px;
  color: var(--lc-ink);
  font-size: 0.72rem;
  padding: 0 6px;
  top: 10px;
}

.before {
  right: 20px;
}

.after {
  left: 20px;
}
</style>
