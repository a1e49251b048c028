<script setup lang="ts">
import { computed } from 'vue';
import type { Grip } from '#core/design/gesture';
import { degrees, type Point } from '#core/placement/geometry';
import { arrowWay } from './arrowWay.ts';

/**
 * A frame round something that lies on a sheet, with handles that size it and one that turns it.
 * Whoever shows it follows the hand; the arrow keys, on the first of the handles, are told as
 * steps. Lengths are CSS pixels of what it lies on.
 */
const props = defineProps<{
  centre: Point;
  width: number;
  height: number;
  /** Degrees clockwise. */
  rotation: number;
  /** Where a handle sizes it: −1 left or top, 0 in the middle, 1 right or bottom. */
  grips: readonly Grip[];
  label: string;
}>();
const emit = defineEmits<{
  size: [event: PointerEvent, grip: Grip];
  sizeByKey: [factor: number, grip: Grip];
  turn: [event: PointerEvent];
  turnByKey: [deg: number];
}>();

const KEY_FACTOR = 1.04;
const KEY_TURN_DEG = 1;
/** With Shift. */
const KEY_TURN_FAR_DEG = 15;

const style = computed(() => ({
  width: `${props.width}px`,
  height: `${props.height}px`,
  transform:
    `translate(${props.centre.x - props.width / 2}px, ${props.centre.y - props.height / 2}px) ` +
    `rotate(${props.rotation}deg)`,
}));

/** Where a handle lies, and the arrow that tells which way it pulls, as the frame is turned. */
function gripStyle({ x, y }: Point) {
  const angle = degrees(Math.atan2(y, x)) + props.rotation;
  const eighth = ((Math.round(angle / 45) % 4) + 4) % 4;
  const cursor = ['ew-resize', 'nwse-resize', 'ns-resize', 'nesw-resize'][eighth];
  return { left: `${50 + x * 50}%`, top: `${50 + y * 50}%`, cursor };
}

/** Right and down count as more. */
function keyed(event: KeyboardEvent, tell: (isMore: boolean) => void, isMore: -1 | 1): void {
  const way = arrowWay(event.key);
  if (!way) return;
  event.preventDefault();
  event.stopPropagation();
  tell(way[0] > 0 || way[1] * isMore > 0);
}

function sizeKey(event: KeyboardEvent, grip: Grip): void {
  keyed(event, (grows) => emit('sizeByKey', grows ? KEY_FACTOR : 1 / KEY_FACTOR, grip), -1);
}

function turnKey(event: KeyboardEvent): void {
  const by = event.shiftKey ? KEY_TURN_FAR_DEG : KEY_TURN_DEG;
  keyed(event, (isRight) => emit('turnByKey', isRight ? by : -by), 1);
}
</script>

<template>
  <div class="frame" :style="style" data-testid="handles">
    <button
      v-for="(grip, index) in grips"
      :key="`${grip.x},${grip.y}`"
      class="handle"
      type="button"
      :tabindex="index === 0 ? 0 : -1"
      :aria-hidden="index > 0"
      :data-grip="`${grip.x},${grip.y}`"
      :style="gripStyle(grip)"
      :aria-label="`Size of ${label}; arrow keys change it`"
      :title="`Size of ${label}`"
      @pointerdown.stop.prevent="emit('size', $event, grip)"
      @keydown="sizeKey($event, grip)"
    />
    <button
      class="handle turn"
      type="button"
      data-grip="turn"
      :aria-label="`Angle of ${label}; arrow keys turn it`"
      :title="`Angle of ${label}; with Shift in steps`"
      @pointerdown.stop.prevent="emit('turn', $event)"
      @keydown="turnKey"
    />
  </div>
</template>

<style scoped>
.frame {
  box-shadow:
    0 0 0 1px rgb(var(--lc-veil) / 85%),
    0 0 0 2px rgb(20 36 44 / 45%);
  left: 0;
  pointer-events: none;
  position: absolute;
  top: 0;
}

.handle {
  background: none;
  border: 0;
  height: 26px;
  margin: -13px;
  padding: 0;
  pointer-events: auto;
  position: absolute;
  touch-action: none;
  width: 26px;
}

.handle::after {
  background: var(--lc-card);
  border: 2px solid var(--lc-brass);
  box-shadow: 0 0 0 1px rgb(20 36 44 / 45%);
  content: '';
  height: 12px;
  left: 7px;
  position: absolute;
  top: 7px;
  width: 12px;
}

.turn {
  cursor: grab;
  left: 50%;
  top: -24px;
}

.turn::after {
  border-radius: 50%;
}

.turn::before {
  background: rgb(var(--lc-veil) / 85%);
  content: '';
  height: 12px;
  left: 12px;
  position: absolute;
  top: 22px;
  width: 2px;
}
</style>
