<script setup lang="ts">
import { computed } from 'vue';
import { cleanCrop } from '#core/placement/cleanCrop';
import type { Size } from '#core/placement/geometry';
import type { Copy } from '#core/placement/placeMark';
import { percentText } from './readingText.ts';

/** The largest part of a photo that can be cropped free of the mark, as a thief would take it. */
const props = defineProps<{ frame: Size; copies: readonly Copy[]; scale: number }>();

const crop = computed(() =>
  cleanCrop(
    props.frame,
    props.copies.map((copy) => copy.box),
  ),
);
const style = computed(() => {
  const { x, y, width, height } = crop.value.box;
  const px = (length: number): string => `${length * props.scale}px`;
  return { left: px(x), top: px(y), width: px(width), height: px(height) };
});
</script>

<template>
  <span class="crop number" :style="style" data-testid="clean-crop">
    <b>{{ percentText(crop.share) }}</b>
  </span>
</template>

<style scoped>
.crop {
  border: 2px dashed #fffdf8;
  box-shadow:
    0 0 0 1px rgb(20 36 44 / 70%),
    0 0 0 4000px rgb(20 36 44 / 45%);
  pointer-events: none;
  position: absolute;
}

.crop b {
  background: rgb(var(--lc-veil) / 92%);
  border-radius: 0 0 3px;
  color: var(--lc-ink);
  font-size: 0.75rem;
  font-weight: 600;
  left: 0;
  padding: 1px 6px;
  position: absolute;
  top: 0;
}
</style>
