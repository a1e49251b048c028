<script setup lang="ts">
import { computed } from 'vue';
import type { Layer } from '#core/contract/design';
import { PLAIN_INK } from '#core/design/colours';
import { useDesk } from './useDesk.ts';
import { useLibrary } from '../app/library.ts';
import BenchPanel from '../ui/BenchPanel.vue';
import FieldRows from '../ui/FieldRows.vue';
import { shareField } from '../ui/fields.ts';
import SwatchRow from '../ui/SwatchRow.vue';
import ToggleField from '../ui/ToggleField.vue';

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

const OPACITY = shareField('opacity', 'opacity', { label: 'Opacity of the layer' });

function set(name: string, part: Partial<Pick<Layer, 'colour' | 'toned' | 'opacity'>>): void {
  desk.changeLayers(name, (layer) => ({ ...layer, ...part }));
}
</script>

<template>
  <BenchPanel title="Colour">
    <template v-if="first">
      <SwatchRow
        label="Colour of the layer"
        :options="options"
        :chosen="[colour]"
        has-other
        @choose="set('Colour', { colour: $event === 'own' ? null : $event })"
        @other="set('Colour', { colour: $event })"
      />
      <ToggleField
        label="follows the tone"
        :model-value="first.toned"
        @update:model-value="set('Tones', { toned: $event })"
      />
      <FieldRows
        class="mt-auto"
        layout="stack"
        :fields="[OPACITY]"
        :values="{ opacity: first.opacity }"
        @change="(_, value) => set('Opacity', { opacity: Number(value) })"
      />
    </template>
    <p v-else class="quiet">Choose a layer to colour it.</p>
  </BenchPanel>
</template>
