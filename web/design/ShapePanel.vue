<script setup lang="ts">
import type { LayerOf, Shape } from '#core/contract/design';
import { useDesk } from './useDesk.ts';
import BenchPanel from '../ui/BenchPanel.vue';
import PickOne from '../ui/PickOne.vue';
import RangeField from '../ui/RangeField.vue';

/** A simple shape: which, and the weight of its stroke or the roundness of its corners. */
const props = defineProps<{ layer: LayerOf<'shape'> }>();
const desk = useDesk();

const FORMS = [
  { value: 'line', label: 'line' },
  { value: 'circle', label: 'circle' },
  { value: 'ring', label: 'ring' },
  { value: 'box', label: 'box' },
] as const;
const MOST_WEIGHT = 60;
const MOST_CORNER = 200;

function set(name: string, part: Partial<Shape>): void {
  desk.changeLayer(name, { ...props.layer, shape: { ...props.layer.shape, ...part } });
}
</script>

<template>
  <BenchPanel title="Shape">
    <PickOne
      class="forms"
      label="Shape"
      :options="FORMS"
      :model-value="layer.shape.form"
      @update:model-value="set('Shape', { form: $event })"
    />
    <label v-if="layer.shape.form === 'ring'" class="measure">
      <span class="quiet">weight</span>
      <RangeField
        label="Weight of the ring"
        :model-value="layer.shape.weight"
        :from="1"
        :to="MOST_WEIGHT"
        :max="1000"
        :step="0.5"
        @update:model-value="set('Weight', { weight: $event })"
      />
    </label>
    <label v-if="layer.shape.form === 'line'" class="measure">
      <span class="quiet">weight</span>
      <RangeField
        label="Weight of the line"
        :model-value="layer.shape.height"
        :from="1"
        :to="MOST_WEIGHT"
        :max="1000"
        :step="0.5"
        @update:model-value="set('Weight', { height: $event })"
      />
    </label>
    <label v-if="layer.shape.form === 'box'" class="measure">
      <span class="quiet">round corners</span>
      <RangeField
        label="Round corners"
        :model-value="layer.shape.corner"
        :from="0"
        :to="MOST_CORNER"
        :max="1000"
        @update:model-value="set('Corners', { corner: $event })"
      />
    </label>
  </BenchPanel>
</template>

<style scoped>
.forms {
  margin-left: -7px;
}

.measure {
  display: grid;
  font-size: 0.8125rem;
  max-width: 260px;
}
</style>
