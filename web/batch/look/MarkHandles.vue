<script setup lang="ts">
import { computed, ref } from 'vue';
import { degrees, type Point } from '#core/placement/geometry';
import { dragPointer } from '../../ui/dragPointer.ts';

/**
 * A frame round one copy of the mark, with a handle that sizes it and one that turns it. What is
 * told counts from where the hand took hold. Lengths are CSS pixels of the photo.
 */
const props = defineProps<{
  centre: Point;
  width: number;
  height: number;
  /** Degrees clockwise. */
  rotation: number;
  /** The point that stays while it grows. */
  pivot: Point;
  label: string;
}>();
const emit = defineEmits<{ begin: []; scale: [factor: number]; turn: [deg: number] }>();

const KEY_FACTOR = 1.04;
const SNAP_DEG = 15;
const root = ref<HTMLElement | null>(null);
const style = computed(() => ({
  width: `${props.width}px`,
  height: `${props.height}px`,
  transform:
    `translate(${props.centre.x - props.width / 2}px, ${props.centre.y - props.height / 2}px) ` +
    `rotate(${props.rotation}deg)`,
}));

/** The pointer in CSS pixels of the photo that the frame lies on. */
function at(event: PointerEvent): Point {
  const photo = (root.value?.offsetParent as HTMLElement).getBoundingClientRect();
  return { x: event.clientX - photo.left, y: event.clientY - photo.top };
}

function drag(event: PointerEvent, moved: (now: Point, event: PointerEvent) => void): void {
  if (dragPointer(event, (next) => moved(at(next), next))) emit('begin');
}

function startScale(event: PointerEvent): void {
  const pivot = { ...props.pivot };
  const far = ({ x, y }: Point): number => Math.hypot(x - pivot.x, y - pivot.y);
  const from = Math.max(far(at(event)), 1);
  drag(event, (now) => emit('scale', far(now) / from));
}

function startTurn(event: PointerEvent): void {
  const centre = { ...props.centre };
  const own = props.rotation;
  const angle = ({ x, y }: Point): number => degrees(Math.atan2(y - centre.y, x - centre.x));
  const from = angle(at(event));
  drag(event, (now, { shiftKey }) => {
    const turned = angle(now) - from;
    const snapped = Math.round((own + turned) / SNAP_DEG) * SNAP_DEG - own;
    emit('turn', shiftKey ? snapped : turned);
  });
}

function keyScale(event: KeyboardEvent): void {
  const grows = event.key === 'ArrowUp' || event.key === 'ArrowRight';
  if (!grows && event.key !== 'ArrowDown' && event.key !== 'ArrowLeft') return;
  handled(event);
  emit('scale', grows ? KEY_FACTOR : 1 / KEY_FACTOR);
}

function keyTurn(event: KeyboardEvent): void {
  const right = event.key === 'ArrowRight' || event.key === 'ArrowDown';
  if (!right && event.key !== 'ArrowLeft' && event.key !== 'ArrowUp') return;
  handled(event);
  emit('turn', (right ? 1 : -1) * (event.shiftKey ? SNAP_DEG : 1));
}

function handled(event: KeyboardEvent): void {
  event.preventDefault();
  event.stopPropagation();
  emit('begin');
}
</script>

<template>
  <div ref="root" class="frame" :style="style">
    <button
      class="handle size"
      type="button"
      :aria-label="`Size of ${label}; arrow keys change it`"
      :title="`Size of ${label}`"
      @pointerdown.stop.prevent="startScale"
      @keydown="keyScale"
    />
    <button
      class="handle turn"
      type="button"
      :aria-label="`Angle of ${label}; arrow keys turn it`"
      :title="`Angle of ${label}; with Shift in steps`"
      @pointerdown.stop.prevent="startTurn"
      @keydown="keyTurn"
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

.size {
  cursor: nwse-resize;
  left: -13px;
  top: -13px;
}

.turn {
  cursor: grab;
  left: calc(50% - 13px);
  top: -37px;
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
