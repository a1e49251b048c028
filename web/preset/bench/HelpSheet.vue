<script setup lang="ts">
import { computed } from 'vue';
import { ANCHORS, FALLBACK_ORDERS, RESCUES, type Anchor } from '#core/contract/preset';
import { ANCHOR_HOLDS } from '#core/placement/anchor';
import { ANCHOR_WORDS } from '#core/placement/suggestName';
import { useDraft } from '../draft.ts';
import BenchSheet from '../../ui/BenchSheet.vue';
import PickOne from '../../ui/PickOne.vue';

/** Where the mark would not be clear: other places, in the order they are clicked, then help under it. */
defineEmits<{ close: [] }>();
const draft = useDraft();

const RESCUE_OPTIONS = RESCUES.map((value) => ({
  value,
  label: value === 'none' ? 'nothing' : value,
}));
const ORDER_OPTIONS = FALLBACK_ORDERS.map((value) => ({
  value,
  label: value === 'listed' ? 'in this order' : 'the calmest first',
}));
const isCalmest = computed(() => draft.rule.fallback_order === 'calmest');
const fallbacks = computed(() => draft.rule.fallbacks);
const SHARES = { start: 14, centre: 50, end: 86 } as const;

function placeStyle(anchor: Anchor): Record<string, string> {
  const { x, y } = ANCHOR_HOLDS[anchor];
  return { left: `${SHARES[x]}%`, top: `${SHARES[y]}%` };
}

function toggle(anchor: Anchor): void {
  const without = fallbacks.value.filter((some) => some !== anchor);
  const next = without.length < fallbacks.value.length ? without : [...without, anchor];
  draft.change({ fallbacks: next });
}

function orderOf(anchor: Anchor): number {
  return fallbacks.value.indexOf(anchor) + 1;
}

function label(anchor: Anchor): string {
  if (anchor === draft.rule.anchor) return `${ANCHOR_WORDS[anchor]}: its own place`;
  if (isCalmest.value && orderOf(anchor) > 0) return `${ANCHOR_WORDS[anchor]}: tried if calm`;
  const order = orderOf(anchor);
  return order > 0 ? `${ANCHOR_WORDS[anchor]}: tried as number ${order}` : ANCHOR_WORDS[anchor];
}
</script>

<template>
  <BenchSheet label="Where the mark would not be clear" @close="$emit('close')">
    <div class="part d-grid gap-2">
      <h2 class="minor">Where it would not be clear, it goes</h2>
      <div class="line align-items-center d-flex gap-3">
        <div class="frame" role="group" aria-label="Other places, in order">
          <button
            v-for="anchor in ANCHORS"
            :key="anchor"
            type="button"
            class="place number"
            :class="{ own: anchor === draft.rule.anchor, on: orderOf(anchor) > 0 }"
            :aria-pressed="orderOf(anchor) > 0"
            :aria-label="label(anchor)"
            :title="label(anchor)"
            :disabled="anchor === draft.rule.anchor || draft.target !== null"
            :style="placeStyle(anchor)"
            @click="toggle(anchor)"
          >
            {{ isCalmest && orderOf(anchor) > 0 ? '•' : orderOf(anchor) || '' }}
          </button>
        </div>
        <p class="quiet words">
          <template v-if="draft.target"
            >Other places belong to the preset, for all photos.</template
          >
          <template v-else-if="fallbacks.length === 0">
            nowhere else. Click places in the order they are to be tried.
          </template>
          <template v-else>
            {{
              fallbacks.map((anchor) => ANCHOR_WORDS[anchor]).join(isCalmest ? ', ' : ', then ')
            }}: to the {{ isCalmest ? 'calmest' : 'first' }} where it is clear, else where it reads
            best.
          </template>
        </p>
      </div>
      <PickOne
        v-if="fallbacks.length > 1 && !draft.target"
        label="Which of them first"
        :options="ORDER_OPTIONS"
        :model-value="draft.rule.fallback_order"
        @update:model-value="draft.change({ fallback_order: $event })"
      />
    </div>
    <div class="part d-grid gap-2">
      <h2 class="minor">and where no place is clear, it gets</h2>
      <PickOne
        label="Help under the mark"
        :options="RESCUE_OPTIONS"
        :model-value="draft.rule.rescue"
        @update:model-value="draft.change({ rescue: $event })"
      />
      <p class="quiet words">
        A halo darkens or brightens the ground round the ink, a plate lies under the whole mark;
        both only as strong as needed.
      </p>
    </div>
  </BenchSheet>
</template>

<style scoped>
.part {
  align-content: start;
  align-self: start;
  flex: 1 1 0;
  justify-items: start;
  max-width: 420px;
}

.frame {
  background: var(--lc-frame);
  border: 1px solid var(--lc-line);
  flex: none;
  height: 76px;
  position: relative;
  width: 112px;
}

.place {
  background: var(--lc-paper);
  border: 1px solid #7b7668;
  border-radius: 50%;
  color: var(--lc-card);
  font-size: 0.75rem;
  font-weight: 650;
  height: 20px;
  line-height: 1;
  padding: 0;
  position: absolute;
  transform: translate(-50%, -50%);
  width: 20px;
}

.place:hover:not(:disabled) {
  border-color: var(--lc-ink);
  box-shadow: 0 0 0 2px var(--lc-card);
}

.place.on {
  background: var(--lc-ink);
  border-color: var(--lc-ink);
}

.place.own {
  background: var(--lc-brass);
  border-color: var(--lc-brass);
}

.words {
  font-size: 0.8125rem;
  line-height: 1.4;
  margin: 0;
}
</style>
