<script setup lang="ts">
import { computed } from 'vue';
import { useReadings } from '../../readability/readings.ts';

/** Outlines the part of the mark that keeps it from being clear on a photo. */
const props = defineProps<{ photoId: number }>();
const readings = useReadings();

const outline = computed(() => {
  const reading = readings.of(props.photoId);
  const box = reading?.class === 'faint' ? reading.weakestBox : null;
  if (!box) return null;
  const percent = (share: number): string => `${share * 100}%`;
  // Some room is left round it.
  return {
    left: `calc(${percent(box.x)} - 4px)`,
    top: `calc(${percent(box.y)} - 4px)`,
    width: `calc(${percent(box.width)} + 8px)`,
    height: `calc(${percent(box.height)} + 8px)`,
  };
});
</script>

<template>
  <span v-if="outline" class="weak" :style="outline" data-testid="weak-part" />
</template>

<style scoped>
.weak {
  border: 1px dashed #f6f3ec;
  outline: 1px dashed #14242c;
  pointer-events: none;
  position: absolute;
}
</style>
