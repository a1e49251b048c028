<script setup lang="ts">
import { computed, ref } from 'vue';
import IconLink from '~icons/tabler/link';
import IconUnlink from '~icons/tabler/link-off';
import { INSET_MAX_PERCENT, INSET_MAX_PX, OFFSET_MAX_PERCENT } from '#core/contract/preset';
import { insetInOtherUnit } from '#core/placement/convert';
import type { Size } from '#core/placement/geometry';
import NumberField from '../../ui/NumberField.vue';
import { useDraft } from '../draft.ts';

/** How far from the edges, and how far from the place, as numbers. */
const props = defineProps<{ frame: Size }>();
const draft = useDraft();

/** Beside the arrows there is no room for words: they come under the pointer, and are read out. */
const INSET_ALONG = { x: 'Inset sideways', y: 'Inset up and down' };
const OFFSET_ALONG = { x: 'Offset to the right', y: 'Offset downwards' };

const inset = computed(() => draft.rule.inset);
const unlinkedByHand = ref(false);
const isLinked = computed(() => !unlinkedByHand.value && inset.value.x === inset.value.y);
const insetMax = computed(() =>
  inset.value.unit === 'percent' ? INSET_MAX_PERCENT : INSET_MAX_PX,
);
const insetStep = computed(() => (inset.value.unit === 'percent' ? 0.1 : 1));

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
  draft.change({ inset: insetInOtherUnit(inset.value, props.frame) });
}

function setOffset(axis: 'x' | 'y', value: number): void {
  draft.change({ offset: { ...draft.rule.offset, [axis]: value } });
}
</script>

<template>
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
      :title="INSET_ALONG[axis]"
    >
      <span class="axis" aria-hidden="true">{{ axis === 'x' ? '↔' : '↕' }}</span>
      <NumberField
        :label="INSET_ALONG[axis]"
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
      :title="OFFSET_ALONG[axis]"
    >
      <span class="axis" aria-hidden="true">{{ axis === 'x' ? '↔' : '↕' }}</span>
      <NumberField
        :label="OFFSET_ALONG[axis]"
        :model-value="draft.rule.offset[axis]"
        :min="-OFFSET_MAX_PERCENT"
        :max="OFFSET_MAX_PERCENT"
        :step="0.1"
        @update:model-value="setOffset(axis, $event)"
      />
    </span>
  </div>
</template>

<style scoped>
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
