<script setup lang="ts">
import { computed } from 'vue';
import type { Box, Point, Size } from '#core/placement/geometry';

/** How far the mark is from the two edges it is nearest to, in exact pixels of the output. */
const props = defineProps<{
  frame: Size;
  box: Box;
  /** CSS pixels a pixel of the frame. */
  scale: number;
  /** Where the frame begins, CSS pixels. */
  origin?: Point;
}>();

interface Line {
  readonly from: Point;
  readonly to: Point;
  readonly px: number;
}

const lines = computed<Line[]>(() => {
  const { x, y, width, height } = props.box;
  const right = props.frame.width - x - width;
  const below = props.frame.height - y - height;
  const middleX = x + width / 2;
  const middleY = y + height / 2;
  const across =
    x <= right
      ? { from: { x: 0, y: middleY }, to: { x, y: middleY }, px: x }
      : { from: { x: x + width, y: middleY }, to: { x: props.frame.width, y: middleY }, px: right };
  const upright =
    y <= below
      ? { from: { x: middleX, y: 0 }, to: { x: middleX, y }, px: y }
      : {
          from: { x: middleX, y: y + height },
          to: { x: middleX, y: props.frame.height },
          px: below,
        };
  return [across, upright].filter(({ px }) => px > 0);
});

function placed({ from, to }: Line) {
  const { x, y } = props.origin ?? { x: 0, y: 0 };
  const at = (point: Point): Point => ({
    x: x + point.x * props.scale,
    y: y + point.y * props.scale,
  });
  const [start, end] = [at(from), at(to)];
  const isAcross = from.y === to.y;
  const isAtStart = isAcross ? from.x === 0 : from.y === 0;
  const edge = isAtStart ? start : end;
  return {
    line: {
      left: `${start.x}px`,
      top: `${start.y}px`,
      width: isAcross ? `${end.x - start.x}px` : '0',
      height: isAcross ? '0' : `${end.y - start.y}px`,
    },
    // Beside the line, where the two labels of a corner cannot meet.
    label: isAcross
      ? { left: `${edge.x}px`, top: `${edge.y}px` }
      : { left: `${start.x}px`, top: `${(start.y + end.y) / 2}px` },
    side: isAcross ? (isAtStart ? 'before' : 'behind') : 'beside',
    isAcross,
  };
}
const text = (px: number): string => `${px.toLocaleString('en', { maximumFractionDigits: 1 })} px`;
</script>

<template>
  <template v-for="(line, index) in lines" :key="index">
    <i class="line" :class="{ across: placed(line).isAcross }" :style="placed(line).line" />
    <b
      class="label number fw-semibold text-nowrap"
      :class="placed(line).side"
      :style="placed(line).label"
      data-testid="distance"
      >{{ text(line.px) }}</b
    >
  </template>
</template>

<style scoped>
.line {
  border-left: 1px solid #fffdf8;
  filter: drop-shadow(0 0 1px rgb(20 36 44 / 90%));
  pointer-events: none;
  position: absolute;
}

.line.across {
  border-left: 0;
  border-top: 1px solid #fffdf8;
}

.label {
  background: rgb(var(--lc-veil) / 92%);
  border-radius: 3px;
  color: var(--lc-ink);
  font-size: 0.72rem;
  padding: 0 5px;
  pointer-events: none;
  position: absolute;
}

.label.beside {
  transform: translate(calc(-100% - 6px), -50%);
}

.label.behind {
  transform: translate(6px, -50%);
}

.label.before {
  transform: translate(calc(-100% - 6px), -50%);
}
</style>
