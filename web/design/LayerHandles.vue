<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Layer } from '#core/contract/design';
import { changed } from '#core/design/edit';
import { frameBox, withFrame, type LayerFrame } from '#core/design/frame';
import {
  CORNERS,
  SIDES,
  caught,
  chosenFrame,
  following,
  movedFrame,
  sizedFrame,
  turnedFrame,
  type Grip,
  type Guides,
} from '#core/design/gesture';
import { degrees, turned, type Box, type Point } from '#core/placement/geometry';
import { dragPointer } from '../ui/dragPointer.ts';
import HandleFrame from '../ui/HandleFrame.vue';
import { useDesk } from './useDesk.ts';

/**
 * Handles round what is chosen: move with guides, size by the corners, turn. Proportions are kept
 * unless Shift is held; Alt sizes from the middle.
 */
const props = defineProps<{
  /** CSS pixels a unit. */
  scale: number;
  /** Units that the stage shows. */
  view: Box;
  stage: HTMLElement | null;
  frames: readonly { readonly id: string; readonly frame: LayerFrame }[];
}>();

const desk = useDesk();
const isShift = ref(false);
const guides = ref<Guides>({ x: [], y: [] });

/** Nearer than this, lines catch each other, CSS px. */
const CATCH_PX = 6;
/** Less is a trembling hand, not a drag, CSS px. */
const DRAG_FROM_PX = 3;
const chosen = computed(() => props.frames.filter(({ id }) => desk.chosen.value.has(id)));
const others = computed(() => props.frames.filter(({ id }) => !desk.chosen.value.has(id)));
const round = computed(() => chosenFrame(chosen.value.map(({ frame }) => frame)));
const isShape = computed(() => desk.layer.value?.kind === 'shape');
/** Sides are pulled where that is wished: a shape's, or with Shift. */
const grips = computed(() => {
  const withSides = chosen.value.length === 1 && (isShape.value || isShift.value);
  return withSides ? [...CORNERS, ...SIDES] : CORNERS;
});

/** The rectangle round what is chosen, CSS px of the stage. */
const shown = computed(() => {
  if (!round.value) return null;
  const { centre, width, height, turn: rotation } = round.value;
  const { scale } = props;
  return { centre: onStage(centre), width: width * scale, height: height * scale, rotation };
});
const label = computed(() => desk.layer.value?.name ?? 'what is chosen');

useEventListener(window, ['keydown', 'keyup'], (event: KeyboardEvent) => {
  isShift.value = event.shiftKey;
});

function onStage({ x, y }: Point): Point {
  return { x: (x - props.view.x) * props.scale, y: (y - props.view.y) * props.scale };
}

interface Start {
  readonly layers: ReadonlyMap<string, { readonly layer: Layer; readonly frame: LayerFrame }>;
  readonly round: LayerFrame;
}

/** What is chosen, as it is when the hand takes hold. */
function begin(): Start | null {
  if (!round.value) return null;
  const frames = new Map(chosen.value.map(({ id, frame }) => [id, frame]));
  const layers = new Map(
    desk.chosenLayers.value.flatMap((layer) => {
      const frame = frames.get(layer.id);
      return frame ? [[layer.id, { layer, frame }] as const] : [];
    }),
  );
  return { layers, round: round.value };
}

/** Everything chosen goes along with the rectangle round it. */
function apply(name: string, start: Start, to: LayerFrame): void {
  const ids = new Set(start.layers.keys());
  desk.change(
    name,
    changed(desk.design.value, ids, (layer) => {
      const held = start.layers.get(layer.id);
      if (!held) return layer;
      return withFrame(held.layer, following(held.frame, start.round, to), desk.context.value);
    }),
  );
}

/** Follows the pointer until it is let go; the whole drag is one step. */
function follow(event: PointerEvent, during: (by: Point, moved: PointerEvent) => void): void {
  const from = { x: event.clientX, y: event.clientY };
  const move = (moved: PointerEvent): void => {
    const by = { x: moved.clientX - from.x, y: moved.clientY - from.y };
    if (!desk.isHeld.value) {
      if (Math.hypot(by.x, by.y) < DRAG_FROM_PX) return;
      desk.settle();
      desk.isHeld.value = true;
    }
    during({ x: by.x / props.scale, y: by.y / props.scale }, moved);
  };
  dragPointer(event, move, () => {
    desk.isHeld.value = false;
    desk.settle();
    guides.value = { x: [], y: [] };
  });
}

/** A press on a layer moves all that is chosen. */
function drag(event: PointerEvent): void {
  const start = begin();
  if (!start) return;
  // The mark's own middle counts, too.
  const fields = [...others.value.map(({ frame }) => frameBox(frame)), MIDDLE];
  follow(event, (by, { ctrlKey, metaKey }) => {
    const to = movedFrame(start.round, by);
    const catches = caught(frameBox(to), fields, CATCH_PX / props.scale);
    const isFree = ctrlKey || metaKey;
    guides.value = isFree ? { x: [], y: [] } : catches.guides;
    apply('Move', start, isFree ? to : movedFrame(to, catches.by));
  });
}

const MIDDLE: Box = { x: 0, y: 0, width: 0, height: 0 };

function size(event: PointerEvent, grip: Grip): void {
  const start = begin();
  if (!start) return;
  const isOne = start.layers.size === 1;
  follow(event, (by, { shiftKey, altKey }) => {
    const isSide = grip.x === 0 || grip.y === 0;
    const isFree = isOne && (isSide || shiftKey !== isShape.value);
    const wish = { keepsRatio: !isFree, fromMiddle: altKey };
    apply('Size', start, sizedFrame(start.round, grip, by, wish));
  });
}

function turn(event: PointerEvent): void {
  const start = begin();
  const stage = props.stage?.getBoundingClientRect();
  if (!start || !stage) return;
  const middle = onStage(start.round.centre);
  const angleTo = ({ clientX, clientY }: PointerEvent): number =>
    degrees(Math.atan2(clientY - stage.top - middle.y, clientX - stage.left - middle.x));
  const first = angleTo(event);
  follow(event, (_, moved) => {
    const by = angleTo(moved) - first;
    apply('Turn', start, turnedFrame(start.round, by, moved.shiftKey));
  });
}

function sizeByKey(factor: number, grip: Grip): void {
  const start = begin();
  if (!start) return;
  const { width, height, turn: angle } = start.round;
  const by = turned({ x: width * (factor - 1) * grip.x, y: height * (factor - 1) * grip.y }, angle);
  apply('Size', start, sizedFrame(start.round, grip, by, { keepsRatio: true, fromMiddle: false }));
}

function turnByKey(deg: number): void {
  const start = begin();
  if (start) apply('Turn', start, { ...start.round, turn: start.round.turn + deg });
}

defineExpose({ drag });
</script>

<template>
  <span
    v-for="x in guides.x"
    :key="`x${x}`"
    class="guide upright"
    :style="{ left: `${onStage({ x, y: 0 }).x}px` }"
  />
  <span
    v-for="y in guides.y"
    :key="`y${y}`"
    class="guide level"
    :style="{ top: `${onStage({ x: 0, y }).y}px` }"
  />
  <HandleFrame
    v-if="shown"
    v-bind="shown"
    :grips="grips"
    :label="label"
    @size="size"
    @size-by-key="sizeByKey"
    @turn="turn"
    @turn-by-key="turnByKey"
  />
</template>

<style scoped>
.guide {
  background: var(--lc-clear);
  pointer-events: none;
  position: absolute;
}

.upright {
  inset-block: 0;
  width: 1px;
}

.level {
  height: 1px;
  inset-inline: 0;
}
</style>
