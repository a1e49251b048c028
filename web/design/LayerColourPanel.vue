<script setup lang="ts">
import { computed } from 'vue';
import type { Layer } from '#core/contract/design';
import { PLAIN_INK } from '#core/design/colours';
import { useDesk } from './useDesk.ts';
import { useLibrary } from '../app/library.ts';
import BenchPanel from '../ui/BenchPanel.vue';
import RangeField from '../ui/RangeField.vue';
import ColourRow from './ColourRow.vue';

/** The colour of the chosen layers, whether they take part in tones, and their opacity. */
const desk = useDesk();
const library = useLibrary();

const first = computed(() => desk.chosenLayers.value[0] ?? null);
const hasOwnColours = computed(() => {
  const layer = first.value;
  return layer?.kind === 'artwork' && desk.parts.get(layer.part)?.kind !== 'outline';
});
const options = computed(() => [
  hasOwnColours.value
    ? { value: 'own', label: 'Its own colours', swatch: OWN }
    : { value: PLAIN_INK, label: 'Black', swatch: PLAIN_INK },
  { value: '#ffffff', label: 'White', swatch: '#ffffff' },
  ...library.settings.palette.map(({ name, colour }) => ({
    ...{ value: colour, label: name, swatch: colour },
  })),
]);
const OWN = 'conic-gradient(#17364a 0 33%, #b07d2b 0 66%, #e9e2d0 0)';
const colour = computed(() => first.value?.colour ?? (hasOwnColours.value ? 'own' : PLAIN_INK));

function set(name: string, part: Partial<Pick<Layer, 'colour' | 'toned' | 'opacity'>>): void {
  desk.changeLayers(name, (layer) => ({ ...layer, ...part }));
}
</script>

<template>
  <BenchPanel title="Colour">
    <template v-if="first">
      <ColourRow
        label="Colour of the layer"
        :options="options"
        :model-value="colour"
        @update:model-value="set('Colour', { colour: $event === 'own' ? null : $event })"
      />
      <label class="toggle">
        <input
          class="form-check-input"
          type="checkbox"
          :checked="first.toned"
          @change="set('Tones', { toned: !first.toned })"
        />
        takes part in tones
      </label>
      <label class="opacity">
        <span class="quiet">opacity</span>
        <RangeField
          label="Opacity of the layer"
          :model-value="first.opacity * 100"
          unit="%"
          :from="0"
          :to="100"
          :decimals="0"
          @update:model-value="set('Opacity', { opacity: $event / 100 })"
        />
      </label>
    </template>
    <p v-else class="quiet">Choose a layer to colour it.</p>
  </BenchPanel>
</template>

<style scoped>
.toggle {
  align-items: center;
  display: flex;
  gap: 8px;
}

.toggle .form-check-input {
  flex: none;
  margin: 0;
}

.opacity {
  display: grid;
  font-size: 0.8125rem;
  margin-top: auto;
}
</style>
