<script setup lang="ts">
import { computed } from 'vue';
import type { LayerOf, Shape } from '#core/contract/design';
import { useDesk } from './useDesk.ts';
import BenchPanel from '../ui/BenchPanel.vue';
import FieldRows from '../ui/FieldRows.vue';
import type { FieldSpec } from '../ui/fields.ts';

/** A simple shape: which, and the weight of its stroke or the roundness of its corners. */
const props = defineProps<{ layer: LayerOf<'shape'> }>();
const desk = useDesk();

const FORM: FieldSpec = {
  ...{ kind: 'choice', key: 'form', word: '', label: 'Shape' },
  options: ['line', 'circle', 'ring', 'box'].map((value) => ({ value, label: value })),
};
const STROKE = { kind: 'range', word: 'weight', from: 1, to: 60, max: 1_000, step: 0.5 } as const;
const MEASURES: Readonly<Record<Shape['form'], readonly FieldSpec[]>> = {
  line: [{ ...STROKE, key: 'height', label: 'Weight of the line' }],
  ring: [{ ...STROKE, key: 'weight', label: 'Weight of the ring' }],
  box: [
    {
      ...{ kind: 'range', key: 'corner', word: 'round corners', label: 'Round corners' },
      ...{ from: 0, to: 200, max: 1_000, decimals: 1 },
    },
  ],
  circle: [],
};
const fields = computed(() => [FORM, ...MEASURES[props.layer.shape.form]]);

function set(name: string, part: Partial<Shape>): void {
  desk.changeLayer(name, { ...props.layer, shape: { ...props.layer.shape, ...part } });
}
</script>

<template>
  <BenchPanel title="Shape">
    <FieldRows
      layout="bench"
      :fields="fields"
      :values="{ ...layer.shape }"
      @change="(key, value, { label, word }) => set(label ?? word, { [key]: value })"
    />
  </BenchPanel>
</template>
