<script setup lang="ts">
import { ref } from 'vue';
import type { Size } from '#core/placement/geometry';
import { useBenchKeys } from '../../composables/useBenchKeys.ts';
import { useTones } from '../../composables/useTones.ts';
import MarkPanel from './MarkPanel.vue';
import PlacePanel from './PlacePanel.vue';
import PresetBar from './PresetBar.vue';
import RepeatSheet from './RepeatSheet.vue';
import SizePanel from './SizePanel.vue';
import StrengthPanel from './StrengthPanel.vue';

/** The bench: what, where, how big, how strong, and in its slot what it is all for. */
defineProps<{ frame: Size }>();
defineEmits<{ choose: [id: number | null]; saved: [id: number] }>();

const isRepeatOpen = ref(false);
const tones = useTones();
useBenchKeys(() => tones.value.map((option) => option.tone));
</script>

<template>
  <div class="work-bench" aria-label="Bench">
    <RepeatSheet v-if="isRepeatOpen" @close="isRepeatOpen = false" />
    <PresetBar @choose="$emit('choose', $event)" @saved="$emit('saved', $event)">
      <slot name="bar" />
    </PresetBar>
    <div class="panels">
      <MarkPanel />
      <PlacePanel :frame="frame" />
      <SizePanel :frame="frame" />
      <StrengthPanel
        :frame="frame"
        :is-repeat-open="isRepeatOpen"
        @repeat="isRepeatOpen = !isRepeatOpen"
      />
      <slot />
    </div>
  </div>
</template>

<style scoped>
.panels {
  display: grid;
  grid-template-columns:
    minmax(0, 0.92fr) minmax(294px, 1.25fr) minmax(0, 1.02fr) minmax(0, 1.05fr)
    minmax(0, 1.2fr);
  min-height: 166px;
}

@media (max-width: 1160px) {
  .panels {
    grid-template-columns:
      minmax(0, 0.8fr) 284px minmax(0, 0.92fr) minmax(0, 1.1fr)
      minmax(0, 1.15fr);
  }
}

@media (min-width: 1700px) {
  .panels {
    grid-template-columns:
      minmax(0, 1fr) minmax(294px, 1fr) minmax(0, 1.1fr) minmax(0, 1.1fr)
      minmax(0, 1fr);
  }
}
</style>
