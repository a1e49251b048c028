<script setup lang="ts">
import { computed } from 'vue';
import type { Box } from '#core/placement/geometry';
import { useDesk } from './useDesk.ts';
import { useRestPicture } from './useRestPicture.ts';

/** The mark in a width, one picture pixel on one of the screen, drawn as an export would. */
const props = defineProps<{
  widthPx: number;
  ink: Box;
  /** CSS pixels there are for it; a wider mark is cut, not shrunk. */
  roomPx: number;
  pixelRatio: number;
}>();
const desk = useDesk();

const rest = useRestPicture(desk, () => props.widthPx / props.ink.width);
const isCut = computed(() => props.widthPx / props.pixelRatio > props.roomPx);
/** Light ink is shown on dark, dark on light. */
const ground = computed(() => (desk.tone.value === 'light' ? 'dark' : 'light'));
const style = computed(() => {
  if (!rest.value) return {};
  const scale = props.widthPx / props.ink.width / props.pixelRatio;
  return { width: `${rest.value.box.width * scale}px` };
});
const height = computed(() => {
  const tall = ((props.widthPx / props.ink.width) * props.ink.height) / props.pixelRatio;
  return `${Math.min(90, Math.max(26, tall + 14))}px`;
});
</script>

<template>
  <figure :class="ground">
    <span class="window" :class="{ cut: isCut }" :style="{ height }">
      <img v-if="rest" :src="rest.url" :style="style" alt="" draggable="false" />
    </span>
    <figcaption class="quiet number">
      {{ widthPx }} px wide{{ isCut ? ', the left of it' : '' }}
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  min-width: 0;
}

.window {
  align-items: center;
  border-radius: 2px;
  display: flex;
  justify-content: center;
  overflow: hidden;
  padding: 0 7px;
}

.light .window {
  background: #e4ddcd;
}

.dark .window {
  background: #2b3d46;
}

img {
  max-width: none;
}

.window.cut {
  justify-content: start;
  mask-image: linear-gradient(to right, #000 82%, transparent);
}

figcaption {
  font-size: 0.78rem;
}
</style>
