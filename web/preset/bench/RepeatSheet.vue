<script setup lang="ts">
import { computed } from 'vue';
import {
  ANGLE_MAX_DEG,
  DEFAULT_REPEAT,
  GAP_MAX_PERCENT,
  type RepeatRule,
} from '#core/contract/preset';
import BenchSheet from '../../ui/BenchSheet.vue';
import FieldRows from '../../ui/FieldRows.vue';
import type { FieldSpec } from '../../ui/fields.ts';
import ToggleField from '../../ui/ToggleField.vue';
import { useDraft } from '../draft.ts';

/** Rarely used, so it opens above the bench: the mark all over the photo. */
defineEmits<{ close: [] }>();
const draft = useDraft();
const repeat = computed(() => draft.rule.repeat);

const GAP = { kind: 'range', unit: '%', from: 0, max: GAP_MAX_PERCENT, decimals: 1 } as const;
const TURN = { from: -90, to: 90, min: -ANGLE_MAX_DEG, max: ANGLE_MAX_DEG, decimals: 1 } as const;
const FIELDS: readonly FieldSpec[] = [
  { ...GAP, key: 'gapX', word: 'gap sideways', label: 'Gap sideways', to: 300 },
  { ...GAP, key: 'gapY', word: 'gap downwards', label: 'Gap downwards', to: 400 },
  {
    ...{ ...TURN, kind: 'range', key: 'angle', unit: '°' },
    ...{ word: 'angle of the rows', label: 'Angle of the rows' },
  },
  { kind: 'toggle', key: 'stagger', word: 'every other row shifted' },
];

function set(part: Partial<RepeatRule>): void {
  if (repeat.value) draft.change({ repeat: { ...repeat.value, ...part } });
}
</script>

<template>
  <BenchSheet label="Repeat" @close="$emit('close')">
    <ToggleField
      label="Repeat over the whole frame"
      :model-value="repeat !== null"
      @update:model-value="draft.change({ repeat: $event ? DEFAULT_REPEAT : null })"
    />
    <FieldRows
      v-if="repeat"
      :fields="FIELDS"
      :values="{ ...repeat }"
      @change="(key, value) => set({ [key]: value })"
    />
  </BenchSheet>
</template>
