<script setup lang="ts">
import { computed } from 'vue';
import type { Layer } from '#core/contract/design';
import { silhouetteOf } from '#core/design/silhouette';
import { pathText } from '#core/path/path';
import { grownBox } from '#core/path/pathBox';
import { useDesk } from './useDesk.ts';

/** What a layer looks like, as small as it can be known. */
const props = defineProps<{ layer: Layer }>();
const desk = useDesk();

const shape = computed(() => {
  const { path, ink } = silhouetteOf(props.layer, desk.context.value);
  if (!ink) return null;
  const side = Math.max(ink.width, ink.height);
  const { x, y, width, height } = grownBox(ink, side * 0.05);
  return { d: pathText(path), viewBox: `${x} ${y} ${width} ${height}` };
});
</script>

<template>
  <span class="thumb" aria-hidden="true">
    <svg v-if="shape" :viewBox="shape.viewBox"><path :d="shape.d" /></svg>
  </span>
</template>

<style scoped>
.thumb {
  align-items: center;
  display: flex;
  flex: none;
  height: 24px;
  justify-content: center;
  width: 40px;
}

svg {
  fill: currentcolor;
  max-height: 100%;
  max-width: 100%;
}
</style>
