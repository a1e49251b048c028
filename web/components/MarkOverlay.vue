<script setup lang="ts">
import { useDevicePixelRatio } from '@vueuse/core';
import { computed, watchEffect, ref } from 'vue';
import type { MarkView } from '#core/contract/http';
import { radians, type Size } from '#core/placement/geometry';
import type { Placement } from '#core/placement/placeMark';
import { markPicture, markShape } from './markPicture.ts';

/** The mark over a photo: one picture, or for a repeat one canvas with all copies. */
const props = defineProps<{
  mark: MarkView;
  placement: Placement;
  /** The photo's, for a mark that writes it. */
  year?: number;
  /** CSS pixels an output pixel. */
  scale: number;
  /** Size of the photo on the page, CSS pixels. */
  width: number;
  height: number;
  isHeld?: boolean;
}>();
const emit = defineEmits<{ grab: [event: PointerEvent] }>();

const { pixelRatio } = useDevicePixelRatio();
const single = computed(() =>
  props.placement.copies.length === 1 ? props.placement.copies[0] : null,
);
const source = computed(() => {
  const size = props.placement.copies[0]?.size ?? { width: 1, height: 1 };
  const widthPx = size.width * props.scale * pixelRatio.value;
  return markPicture(props.mark, props.placement.tone, widthPx, props.year);
});
const style = computed(() => {
  const copy = single.value;
  if (!copy) return {};
  const { box, size, rotation } = copy;
  const drawn = drawnSize(size);
  const x = (box.x + box.width / 2 - drawn.width / 2) * props.scale;
  const y = (box.y + box.height / 2 - drawn.height / 2) * props.scale;
  return {
    width: `${drawn.width * props.scale}px`,
    height: `${drawn.height * props.scale}px`,
    transform: `translate(${x}px, ${y}px) rotate(${rotation}deg)`,
    opacity: props.placement.opacity,
    mixBlendMode: props.placement.blend,
  };
});

/** The picture holds what is soft round the ink box, too. */
function drawnSize({ width, height }: Size): Size {
  const { bleed } = markShape(props.mark, { year: props.year });
  return { width: width * (1 + 2 * bleed.x), height: height * (1 + 2 * bleed.y) };
}

const canvas = ref<HTMLCanvasElement | null>(null);
const picture = new Image();
const loadedSource = ref('');
picture.onload = () => (loadedSource.value = picture.src);
watchEffect(() => {
  if (!single.value) picture.src = source.value;
});
watchEffect(
  () => {
    const target = canvas.value;
    const context = target?.getContext('2d');
    if (!target || !context || !loadedSource.value) return;
    target.width = Math.round(props.width * pixelRatio.value);
    target.height = Math.round(props.height * pixelRatio.value);
    const scale = props.scale * pixelRatio.value;
    for (const { box, size, rotation } of props.placement.copies) {
      context.setTransform(scale, 0, 0, scale, 0, 0);
      context.translate(box.x + box.width / 2, box.y + box.height / 2);
      context.rotate(radians(rotation));
      const { width, height } = drawnSize(size);
      context.drawImage(picture, -width / 2, -height / 2, width, height);
    }
  },
  { flush: 'post' },
);
</script>

<template>
  <img
    v-if="single"
    class="overlay"
    :class="{ held: isHeld }"
    :src="source"
    :style="style"
    alt=""
    draggable="false"
    data-testid="mark"
    @pointerdown="emit('grab', $event)"
  />
  <canvas
    v-else-if="placement.copies.length > 0"
    ref="canvas"
    class="overlay"
    :class="{ held: isHeld }"
    :style="{
      width: `${width}px`,
      height: `${height}px`,
      opacity: placement.opacity,
      mixBlendMode: placement.blend,
    }"
    data-testid="mark"
    @pointerdown="emit('grab', $event)"
  />
</template>

<style scoped>
.overlay {
  cursor: grab;
  left: 0;
  max-width: none;
  position: absolute;
  top: 0;
  touch-action: none;
  transform-origin: center;
}

.overlay.held {
  cursor: grabbing;
}
</style>
