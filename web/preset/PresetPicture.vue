<script setup lang="ts">
import { photoAddress } from '../api/photoAddress.ts';
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { MarkView, PhotoView } from '#core/contract/http';
import type { PresetRule } from '#core/contract/preset';
import { usePlacing } from './usePlacing.ts';
import MarkOverlay from './MarkOverlay.vue';

/** A preset as a picture of itself: its mark on a photo, or on plain grey while there is none. */
const props = defineProps<{ mark: MarkView | null; rule: PresetRule; photo: PhotoView | null }>();

const STAND_IN = { width: 3000, height: 2000 };
const picture = ref<HTMLElement | null>(null);
const { width } = useElementSize(picture);
/** All pictures of a list have one shape; the photo is cut to it, as a frame of that shape is. */
const shape = STAND_IN;
const placing = usePlacing(
  () => shape,
  () => props.mark,
  () => props.rule,
  () => null,
);
const height = computed(() => (width.value * shape.height) / shape.width);
const source = computed(() => (props.photo ? photoAddress(props.photo, 'tile') : null));
</script>

<template>
  <div ref="picture" class="picture" :style="{ aspectRatio: `${shape.width} / ${shape.height}` }">
    <img v-if="source" :src="source" alt="" />
    <MarkOverlay
      v-if="mark && placing.placement && width > 0"
      class="pe-none"
      :mark="mark"
      :placement="placing.placement"
      :scale="width / placing.frame.width"
      :width="width"
      :height="height"
    />
  </div>
</template>

<style scoped>
.picture {
  background: #8d9090;
  isolation: isolate;
  overflow: hidden;
  position: relative;
}

img {
  display: block;
  height: 100%;
  object-fit: cover;
  width: 100%;
}
</style>
