<script setup lang="ts">
import { useDevicePixelRatio } from '@vueuse/core';
import { computed } from 'vue';
import { naturalBoxes } from '#core/design/markToSvg';
import { placeMark } from '#core/placement/placeMark';
import { useDesk } from './useDesk.ts';
import { useLibrary } from '../app/library.ts';
import ScaleSample from './ScaleSample.vue';

/** The mark as large as its presets really make it: a hairline that dies there is seen here. */
const desk = useDesk();
const library = useLibrary();
const { pixelRatio } = useDevicePixelRatio();

/** A web gallery's photo, where no delivery tells another size. */
const USUAL_PHOTO = { width: 2_048, height: 1_365 };
/** Widths shown while no preset uses the mark, px. */
const USUAL_WIDTHS_PX = [300, 150];
const MOST = 3;
/** What the column has room for, CSS px. */
const ROOM_PX = 190;

const ink = computed(() => naturalBoxes(desk.design.value, desk.context.value)?.ink ?? null);
const used = computed(() => library.presets.filter(({ markId }) => markId === desk.markId.value));

const samples = computed(() => {
  if (!ink.value) return [];
  const aspect = ink.value.width / ink.value.height;
  const widths = used.value.flatMap(({ rule }) => {
    const placed = placeMark(USUAL_PHOTO, aspect, rule);
    return placed.ok ? [Math.round(placed.value.copies[0].size.width)] : [];
  });
  const wanted = widths.length > 0 ? widths : USUAL_WIDTHS_PX;
  return [...new Set(wanted)].sort((a, b) => b - a).slice(0, MOST);
});
const about = computed(() =>
  used.value.length > 0
    ? `On a photo of ${USUAL_PHOTO.width.toLocaleString('en')} px, pixel by pixel`
    : 'Pixel by pixel',
);
</script>

<template>
  <section v-if="ink" class="strip" aria-label="At real sizes">
    <h2 class="quiet">{{ about }}</h2>
    <ScaleSample
      v-for="width in samples"
      :key="width"
      :width-px="width"
      :ink="ink"
      :room-px="ROOM_PX"
      :pixel-ratio="pixelRatio"
    />
  </section>
</template>

<style scoped>
.strip {
  display: grid;
  flex: none;
  gap: 4px;
  grid-template-columns: minmax(0, 1fr);
}

h2 {
  font-family: var(--lc-sans);
  font-size: 0.78rem;
  font-weight: 400;
  line-height: 1.25;
}
</style>
