<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { FinishKind } from '#core/contract/finish';
import { useDesk } from './useDesk.ts';
import ArtworkPanel from './ArtworkPanel.vue';
import BenchFrame from '../ui/BenchFrame.vue';
import FinishPanel from './FinishPanel.vue';
import FinishSheet from './FinishSheet.vue';
import FontSheet from './FontSheet.vue';
import LayerColourPanel from './LayerColourPanel.vue';
import LayerPlacePanel from './LayerPlacePanel.vue';
import LetteringSheet from './LetteringSheet.vue';
import MarkKeepPanel from './MarkKeepPanel.vue';
import ShapePanel from './ShapePanel.vue';
import WordsPanel from './WordsPanel.vue';

/** What is set for the chosen layer: what, where and how large, colour, finishes, and the mark. */
const desk = useDesk();
const sheet = ref<'fonts' | 'setting' | FinishKind | null>(null);
const words = computed(() => (desk.layer.value?.kind === 'lettering' ? desk.layer.value : null));

function toggle(which: NonNullable<typeof sheet.value>): void {
  sheet.value = sheet.value === which ? null : which;
}

// A sheet belongs to what it was opened for.
watch([() => desk.layer.value?.id, desk.isWhole], () => (sheet.value = null));

const finishSheet = computed<FinishKind | null>(() =>
  sheet.value === null || sheet.value === 'fonts' || sheet.value === 'setting' ? null : sheet.value,
);
</script>

<template>
  <BenchFrame
    columns="minmax(0, 1.5fr) minmax(0, 1.08fr) minmax(0, 0.8fr) minmax(0, 1.12fr) minmax(0, 0.9fr)"
    columns-narrow="minmax(0, 1.45fr) minmax(0, 1.2fr) minmax(0, 0.8fr) minmax(0, 1.1fr) minmax(0, 0.9fr)"
  >
    <template #sheet>
      <FontSheet v-if="sheet === 'fonts' && words" :layer="words" @close="sheet = null" />
      <LetteringSheet v-if="sheet === 'setting' && words" :layer="words" @close="sheet = null" />
      <FinishSheet v-if="finishSheet" :kind="finishSheet" @close="sheet = null" />
    </template>

    <WordsPanel
      v-if="words"
      :key="words.id"
      :layer="words"
      :sheet="sheet"
      @fonts="toggle('fonts')"
      @setting="toggle('setting')"
    />
    <ShapePanel v-else-if="desk.layer.value?.kind === 'shape'" :layer="desk.layer.value" />
    <ArtworkPanel v-else />
    <LayerPlacePanel />
    <LayerColourPanel />
    <FinishPanel :open="finishSheet" @open="sheet = $event" />
    <MarkKeepPanel />
  </BenchFrame>
</template>
