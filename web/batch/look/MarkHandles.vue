<script setup lang="ts">
import { ref } from 'vue';
import { CORNERS } from '#core/design/gesture';
import { degrees, type Point } from '#core/placement/geometry';
import { dragPointer } from '../../ui/dragPointer.ts';
import HandleFrame from '../../ui/HandleFrame.vue';

/**
 * The handles of one copy of the mark on a photo. What is told counts from where the hand took
 * hold. Lengths are CSS pixels of the photo.
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

const SNAP_DEG = 15;
/** Nearer to the pivot a hand would take the mark by leaps, CSS px. */
const LEAST_REACH_PX = 12;
const frame = ref<InstanceType<typeof HandleFrame> | null>(null);

/** The pointer in CSS pixels of the photo that the frame lies on. */
function at(event: PointerEvent): Point {
  const element = frame.value?.$el as HTMLElement;
  const photo = (element.offsetParent as HTMLElement).getBoundingClientRect();
  return { x: event.clientX - photo.left, y: event.clientY - photo.top };
}

function drag(event: PointerEvent, moved: (now: Point, event: PointerEvent) => void): void {
  if (dragPointer(event, (next) => moved(at(next), next))) emit('begin');
}

/** By how far the hand is from the pivot, or, from the corner that is the pivot, from the middle. */
function startScale(event: PointerEvent): void {
  const distance = ({ x, y }: Point, to: Point): number => Math.hypot(x - to.x, y - to.y);
  const isAtPivot = distance(at(event), props.pivot) < LEAST_REACH_PX;
  const still = { ...(isAtPivot ? props.centre : props.pivot) };
  const from = Math.max(distance(at(event), still), 1);
  drag(event, (now) => emit('scale', distance(now, still) / from));
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

function byKey(tell: () => void): void {
  emit('begin');
  tell();
}
</script>

<template>
  <HandleFrame
    ref="frame"
    v-bind="{ centre, width, height, rotation, label }"
    :grips="CORNERS"
    @size="startScale"
    @size-by-key="(factor) => byKey(() => emit('scale', factor))"
    @turn="startTurn"
    @turn-by-key="(deg) => byKey(() => emit('turn', deg))"
  />
</template>
