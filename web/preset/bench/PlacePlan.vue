<script setup lang="ts">
import { computed } from 'vue';
import { ANCHORS, type Anchor } from '#core/contract/preset';
import { ANCHOR_HOLDS } from '#core/placement/anchor';
import type { Size } from '#core/placement/geometry';
import { placeMark } from '#core/placement/placeMark';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import { aspectOf } from '../../mark/markPicture.ts';
import { vRadioKeys } from '../../ui/radioKeys.ts';
import { useCalmPlaces } from '../../readability/calmPlaces.ts';
import { useReadings } from '../../readability/readings.ts';
import { counted } from '../../ui/format.ts';
import { useDraft } from '../draft.ts';
import { useMarkDrag } from '../useMarkDrag.ts';

/** A small frame with the nine places and the inset to scale; the mark can be dragged in it. */
const props = defineProps<{ frame: Size }>();

const BOARD_WITHIN = { width: 118, height: 104 };
const draft = useDraft();
const readings = useReadings();
const calm = useCalmPlaces();

const scale = computed(() =>
  Math.min(BOARD_WITHIN.width / props.frame.width, BOARD_WITHIN.height / props.frame.height),
);
const board = computed(() => ({
  width: props.frame.width * scale.value,
  height: props.frame.height * scale.value,
}));
const aspect = computed(() => (draft.mark ? aspectOf(draft.mark) : 3));
const box = computed(() => {
  const placed = placeMark(props.frame, aspect.value, { ...draft.rule, repeat: null });
  return placed.ok ? placed.value.copies[0].box : null;
});
const boxStyle = computed(() => {
  if (!box.value) return { display: 'none' };
  const { x, y, width, height } = box.value;
  const px = (length: number): string => `${length * scale.value}px`;
  return { left: px(x), top: px(y), width: px(width), height: px(height) };
});
const { isDragging, start } = useMarkDrag({
  frame: () => props.frame,
  aspect: () => aspect.value,
  rule: () => draft.rule,
  framePxPerPx: () => 1 / scale.value,
  change: (part) => draft.change(part),
});

const SHARES = { start: 8, centre: 50, end: 92 } as const;
function dotStyle(anchor: Anchor): Record<string, string> {
  const { x, y } = ANCHOR_HOLDS[anchor];
  const share = calmShare(anchor) ?? 0;
  return {
    ...{ left: `${SHARES[x]}%`, top: `${SHARES[y]}%` },
    '--calm': `${DOT_PX + share * CALM_PX}px`,
  };
}

/** A dot is the larger the more photos are calm there. */
const DOT_PX = 5;
const CALM_PX = 11;
const counts = computed(() => (draft.batchId === null ? null : calm.counts));

function calmShare(anchor: Anchor): number | null {
  const count = counts.value?.[ANCHORS.indexOf(anchor)];
  return count === undefined ? null : count / Math.max(1, readings.photos.length);
}

function titleOf(anchor: Anchor): string {
  const count = counts.value?.[ANCHORS.indexOf(anchor)];
  if (count === undefined) return ANCHOR_WORDS[anchor];
  return `${ANCHOR_WORDS[anchor]}: calm on ${count} of ${counted(readings.photos.length, 'photo')}`;
}

function choose(anchor: Anchor): void {
  draft.change({ anchor, offset: { x: 0, y: 0 } });
}
</script>

<template>
  <div class="space" :style="{ width: `${BOARD_WITHIN.width}px` }">
    <div
      v-radio-keys="3"
      class="board"
      role="radiogroup"
      aria-label="Place"
      :style="{ width: `${board.width}px`, height: `${board.height}px` }"
    >
      <button
        v-for="anchor in ANCHORS"
        :key="anchor"
        type="button"
        role="radio"
        class="dot"
        :aria-checked="anchor === draft.rule.anchor"
        :aria-label="ANCHOR_WORDS[anchor]"
        :title="titleOf(anchor)"
        :style="dotStyle(anchor)"
        @click="choose(anchor)"
      />
      <span class="handle" :class="{ held: isDragging }" :style="boxStyle" @pointerdown="start" />
    </div>
  </div>
</template>

<style scoped>
.space {
  display: flex;
  flex: none;
  justify-content: center;
}

.board {
  background: var(--lc-frame);
  border: 1px solid var(--lc-line);
  box-sizing: content-box;
  overflow: hidden;
  position: relative;
}

.dot {
  background: none;
  border: 0;
  height: 22px;
  padding: 0;
  position: absolute;
  transform: translate(-50%, -50%);
  width: 22px;
}

.dot::after {
  background: #7b7668;
  border-radius: 50%;
  content: '';
  height: var(--calm);
  left: 50%;
  position: absolute;
  top: 50%;
  transform: translate(-50%, -50%);
  width: var(--calm);
}

.dot:hover::after {
  background: var(--lc-ink);
  height: max(9px, var(--calm));
  width: max(9px, var(--calm));
}

.dot[aria-checked='true']::after {
  background: var(--lc-brass);
}

.handle {
  background: var(--lc-ink);
  border-radius: 1px;
  cursor: grab;
  min-height: 4px;
  min-width: 4px;
  opacity: 0.92;
  position: absolute;
  touch-action: none;
}

.handle.held {
  cursor: grabbing;
}
</style>
