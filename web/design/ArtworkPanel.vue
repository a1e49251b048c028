<script setup lang="ts">
import { computed } from 'vue';
import { useDesk } from './useDesk.ts';
import BenchPanel from '../ui/BenchPanel.vue';

/** Artwork, pen strokes, several layers or none: what is chosen, in words. */
const desk = useDesk();

const layer = computed(() => desk.layer.value);
const part = computed(() =>
  layer.value?.kind === 'artwork' ? (desk.parts.get(layer.value.part) ?? null) : null,
);
const title = computed(() => {
  if (desk.isWhole.value) return 'The whole mark';
  if (desk.chosen.value.size > 1) return `${desk.chosen.value.size} layers`;
  if (layer.value?.kind === 'pen') return 'Pen strokes';
  return layer.value ? 'Artwork' : 'Nothing chosen';
});
const about = computed(() => {
  if (desk.isWhole.value) return 'Finishes set here go round all layers as if they were one.';
  if (desk.chosen.value.size > 1) return 'They move, turn and are sized together.';
  if (part.value?.kind === 'png') {
    const { width, height } = part.value.ink;
    return `Pixels, ${Math.round(width)} × ${Math.round(height)}.`;
  }
  if (part.value || layer.value) return 'Outlines, sharp at any size.';
  return 'Click a layer on the wall or in the stack.';
});

function rename(event: Event): void {
  const name = (event.target as HTMLInputElement).value.trim();
  if (layer.value && name) desk.changeLayer('Rename', { ...layer.value, name });
}
</script>

<template>
  <BenchPanel :title="title">
    <input
      v-if="layer"
      class="form-control"
      aria-label="Name of the layer"
      maxlength="120"
      :value="layer.name"
      @change="rename"
    />
    <p class="quiet">{{ about }}</p>
  </BenchPanel>
</template>
