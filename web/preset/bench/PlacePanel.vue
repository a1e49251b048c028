<script setup lang="ts">
import { vRadioKeys } from '../../ui/radioKeys.ts';
import { computed, ref } from 'vue';
import IconLink from '~icons/tabler/link';
import IconUnlink from '~icons/tabler/link-off';
import type { Anchor } from '#core/contract/preset';
import {
  ANCHORS,
  INSET_MAX_PERCENT,
  INSET_MAX_PX,
  OFFSET_MAX_PERCENT,
} from '#core/contract/preset';
import { ANCHOR_HOLDS } from '#core/placement/anchor';
import type { Size } from '#core/placement/geometry';
import { placeMark } from '#core/placement/placeMark';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import { useMarkDrag } from '../useMarkDrag.ts';
import { useDraft } from '../draft.ts';
import { counted } from '../../ui/format.ts';
import NumberField from '../../ui/NumberField.vue';
import { aspectOf } from '../../mark/markPicture.ts';
import BenchPanel from '../../ui/BenchPanel.vue';

/** A small frame with the nine places and the inset to scale; the mark can be dragged in it. */
const props = defineProps<{ frame: Size; isHelpOpen: boolean }>();
defineEmits<{ help: [] }>();

const BOARD_WITHIN = { width: 118, height: 104 };
const draft = useDraft();

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
  return { left: `${SHARES[x]}%`, top: `${SHARES[y]}%` };
}

const helpText = computed(() => {
  const { fallbacks, rescue } = draft.rule;
  const places = fallbacks.length > 0 ? [counted(fallbacks.length, 'place')] : [];
  const helps = rescue === 'none' ? places : [...places, rescue];
  return helps.length > 0 ? `else ${helps.join(', ')}` : 'if unclear: leave it';
});

const inset = computed(() => draft.rule.inset);
const unlinkedByHand = ref(false);
const isLinked = computed(() => !unlinkedByHand.value && inset.value.x === inset.value.y);
const insetMax = computed(() =>
  inset.value.unit === 'percent' ? INSET_MAX_PERCENT : INSET_MAX_PX,
);
const insetStep = computed(() => (inset.value.unit === 'percent' ? 0.1 : 1));

function choose(anchor: Anchor): void {
  draft.change({ anchor, offset: { x: 0, y: 0 } });
}

function setInset(axis: 'x' | 'y', value: number): void {
  const both = isLinked.value ? { x: value, y: value } : { [axis]: value };
  draft.change({ inset: { ...inset.value, ...both } });
}

function toggleLink(): void {
  if (isLinked.value) {
    unlinkedByHand.value = true;
    return;
  }
  unlinkedByHand.value = false;
  draft.change({ inset: { ...inset.value, y: inset.value.x } });
}

/** The gap stays where it is: the number is converted along with its unit. */
function toggleUnit(): void {
  const percent = Math.min(props.frame.width, props.frame.height) / 100;
  const toPixels = inset.value.unit === 'percent';
  const convert = (value: number): number =>
    toPixels ? Math.round(value * percent) : Math.min(100, Math.round((value / percent) * 10) / 10);
  draft.change({
    inset: {
      unit: toPixels ? 'pixels' : 'percent',
      x: convert(inset.value.x),
      y: convert(inset.value.y),
    },
  });
}

function setOffset(axis: 'x' | 'y', value: number): void {
  draft.change({ offset: { ...draft.rule.offset, [axis]: value } });
}
</script>

<template>
  <BenchPanel title="Place" :summary="ANCHOR_WORDS[draft.rule.anchor]">
    <template #end>
      <span>{{ ANCHOR_WORDS[draft.rule.anchor] }}</span>,
      <button
        class="btn btn-link help"
        type="button"
        :aria-expanded="isHelpOpen"
        title="What happens where the mark would not be clear"
        @click="$emit('help')"
      >
        {{ helpText }}
      </button>
    </template>
    <div class="line align-items-center d-flex">
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
            :title="ANCHOR_WORDS[anchor]"
            :style="dotStyle(anchor)"
            @click="choose(anchor)"
          />
          <span
            class="handle"
            :class="{ held: isDragging }"
            :style="boxStyle"
            @pointerdown="start"
          />
        </div>
      </div>
      <div class="fields">
        <span class="head align-items-center d-flex">
          inset
          <button
            class="mini align-items-center d-inline-flex"
            type="button"
            :aria-pressed="isLinked"
            :aria-label="isLinked ? 'Inset the same both ways' : 'Insets of their own'"
            :title="isLinked ? 'Inset the same both ways' : 'Insets of their own'"
            @click="toggleLink"
          >
            <IconLink v-if="isLinked" /><IconUnlink v-else />
          </button>
          <button
            class="mini align-items-center d-inline-flex"
            type="button"
            :title="
              inset.unit === 'percent'
                ? 'of the short side; change to pixels'
                : 'pixels; change to percent'
            "
            @click="toggleUnit"
          >
            {{ inset.unit === 'percent' ? '%' : 'px' }}
          </button>
        </span>
        <span
          v-for="axis in ['x', 'y'] as const"
          :key="axis"
          class="pair align-items-center d-flex"
        >
          <span class="axis" aria-hidden="true">{{ axis === 'x' ? '↔' : '↕' }}</span>
          <NumberField
            :label="axis === 'x' ? 'Inset sideways' : 'Inset up and down'"
            :model-value="inset[axis]"
            :min="0"
            :max="insetMax"
            :step="insetStep"
            @update:model-value="setInset(axis, $event)"
          />
        </span>
        <span class="head align-items-center d-flex">offset %</span>
        <span
          v-for="axis in ['x', 'y'] as const"
          :key="`offset-${axis}`"
          class="pair align-items-center d-flex"
        >
          <span class="axis" aria-hidden="true">{{ axis === 'x' ? '↔' : '↕' }}</span>
          <NumberField
            :label="axis === 'x' ? 'Offset to the right' : 'Offset downwards'"
            :model-value="draft.rule.offset[axis]"
            :min="-OFFSET_MAX_PERCENT"
            :max="OFFSET_MAX_PERCENT"
            :step="0.1"
            @update:model-value="setOffset(axis, $event)"
          />
        </span>
      </div>
    </div>
  </BenchPanel>
</template>

<style scoped>
.help {
  font-size: inherit;
  padding: 0;
  text-decoration: underline dotted 1px var(--lc-brass-light);
  text-underline-offset: 3px;
  vertical-align: baseline;
}

.line {
  gap: 14px;
}

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
  height: 5px;
  left: 50%;
  position: absolute;
  top: 50%;
  transform: translate(-50%, -50%);
  width: 5px;
}

.dot:hover::after {
  background: var(--lc-ink);
  height: 9px;
  width: 9px;
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

.fields {
  display: grid;
  gap: 5px 6px;
  grid-template-columns: auto auto;
}

.head {
  color: var(--lc-ink-quiet);
  font-size: 0.8125rem;
  gap: 5px;
  grid-column: 1 / -1;
  height: 20px;
}

.pair {
  gap: 2px;
}

.pair :deep(.field) {
  padding: 0 2px 0 0;
  width: 46px;
}

.axis {
  color: var(--lc-ink-quiet);
  width: 12px;
}

.mini {
  background: none;
  border: 1px solid transparent;
  border-radius: 3px;
  color: var(--lc-ink);
  font-size: 0.8125rem;
  height: 20px;
  padding: 0 4px;
}

.mini:hover {
  border-color: var(--lc-hairline);
  background: var(--lc-card);
}
</style>
