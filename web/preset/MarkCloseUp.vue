<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import type { MarkView, PhotoView } from '#core/contract/http';
import { resizeSchema } from '#core/contract/delivery';
import type { PresetRule } from '#core/contract/preset';
import { closeUp } from '#core/placement/closeUp';
import { mostOpacity, plainTone } from '#core/readability/choice';
import { photoWords } from '#core/lettering/photoWords';
import { useMarkShapes } from '../mark/markShapes.ts';
import { photoAddress } from '../api/photoAddress.ts';
import MarkOverlay from './MarkOverlay.vue';
import { placed } from './usePlacing.ts';

/** A mark close, on a photo as large as most deliveries make it. */
const props = defineProps<{ mark: MarkView; rule: PresetRule; photo: PhotoView }>();

const USUAL_DELIVERY = resizeSchema.parse({});
const picture = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(picture);
const words = computed(() => photoWords(props.photo, { number: 1, batch: '' }));
watch(words, (now) => useMarkShapes().want(props.mark, [now]), { immediate: true });
const placing = computed(() =>
  placed(props.photo, props.mark, props.rule, USUAL_DELIVERY, {
    choice: {
      tone: plainTone(props.rule, props.photo.lightness),
      anchor: props.rule.anchor,
      rescue: null,
      opacity: mostOpacity(props.rule),
    },
    words: words.value,
  }),
);
const seen = computed(() => {
  const box = placing.value.placement?.copies[0]?.box;
  if (!box || width.value === 0) return null;
  const part = closeUp(placing.value.frame, box, { width: width.value, height: height.value });
  return { part, scale: width.value / part.width };
});
const size = computed(() => {
  const scale = seen.value?.scale ?? 0;
  return { width: placing.value.frame.width * scale, height: placing.value.frame.height * scale };
});
</script>

<template>
  <div ref="picture" class="picture">
    <div
      v-if="seen && placing.placement"
      class="photo"
      :style="{
        width: `${size.width}px`,
        height: `${size.height}px`,
        transform: `translate(${-seen.part.x * seen.scale}px, ${-seen.part.y * seen.scale}px)`,
      }"
    >
      <img class="w-100 h-100" :src="photoAddress(photo, 'proxy')" alt="" loading="lazy" />
      <MarkOverlay
        :mark="mark"
        :placement="placing.placement"
        :scale="seen.scale"
        :width="size.width"
        :height="size.height"
        :words="words"
      />
    </div>
  </div>
</template>

<style scoped>
.picture {
  background: #8d9090;
  isolation: isolate;
  overflow: hidden;
  position: relative;
}

.photo {
  left: 0;
  pointer-events: none;
  position: absolute;
  top: 0;
  transform-origin: 0 0;
}
</style>
