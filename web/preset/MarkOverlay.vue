<script setup lang="ts">
import { useDevicePixelRatio } from '@vueuse/core';
import {
  computed,
  onBeforeUnmount,
  ref,
  shallowReactive,
  watchEffect,
  type CSSProperties,
} from 'vue';
import type { MarkView } from '#core/contract/http';
import type { PhotoWords } from '#core/lettering/words';
import { radians, type Size } from '#core/placement/geometry';
import type { Copy, Placement } from '#core/placement/placeMark';
import { rescueBleed } from '#core/readability/rescueShape';
import { giveUp, keepTrying } from '../app/failedPictures.ts';
import { markPicture, markShape, rescuePicture } from '../mark/markPicture.ts';

/** The mark over a photo: a picture for each copy, or for a repeat one canvas with all of them. */
const props = defineProps<{
  mark: MarkView;
  placement: Placement;
  /** Of the photo, for a mark that holds some. */
  words?: PhotoWords | null;
  /** CSS pixels an output pixel. */
  scale: number;
  /** Size of the photo on the page, CSS pixels. */
  width: number;
  height: number;
  isHeld?: boolean;
}>();
/** The copy that was grabbed: 0 is the one the rule placed, the others are stamps. */
const emit = defineEmits<{ grab: [event: PointerEvent, copy: number] }>();

/** More copies than this are a repeat, which one canvas draws faster. */
const MOST_PICTURES = 12;

const { pixelRatio } = useDevicePixelRatio();
const isCanvas = computed(() => props.placement.copies.length > MOST_PICTURES);
const widest = computed(() => Math.max(1, ...props.placement.copies.map(({ size }) => size.width)));
const widthPx = computed(() => widest.value * props.scale * pixelRatio.value);
const source = computed(() =>
  markPicture(props.mark, props.placement.tone, widthPx.value, props.words),
);
const rescueSource = computed(() => {
  const { rescue } = props.placement;
  return rescue && rescuePicture(props.mark, rescue, widthPx.value, props.words);
});
const bleed = computed(() => markShape(props.mark, props.words ?? null).bleed);

/** The picture holds what is soft round the ink box, too. */
function drawnSize(size: Size): Size {
  return grown(size, bleed.value);
}

function rescueSize(size: Size): Size {
  const { rescue } = props.placement;
  return rescue ? grown(size, rescueBleed(rescue.kind, size, bleed.value)) : size;
}

function grown({ width, height }: Size, by: { x: number; y: number }): Size {
  return { width: width * (1 + 2 * by.x), height: height * (1 + 2 * by.y) };
}

function styleOf({ box, rotation }: Copy, drawn: Size): CSSProperties {
  const x = (box.x + box.width / 2 - drawn.width / 2) * props.scale;
  const y = (box.y + box.height / 2 - drawn.height / 2) * props.scale;
  return {
    width: `${drawn.width * props.scale}px`,
    height: `${drawn.height * props.scale}px`,
    transform: `translate(${x}px, ${y}px) rotate(${rotation}deg)`,
  };
}

const markStyle = computed<CSSProperties>(() => ({
  opacity: props.placement.opacity,
  mixBlendMode: props.placement.blend,
}));
const canvasSize = computed(() => ({ width: `${props.width}px`, height: `${props.height}px` }));

const canvas = ref<HTMLCanvasElement | null>(null);
const rescueCanvas = ref<HTMLCanvasElement | null>(null);
const picture = loaded(() => (isCanvas.value ? source.value : null));
const rescue = loaded(() => (isCanvas.value ? rescueSource.value : null));

/** A picture that is there once it has loaded. */
function loaded(address: () => string | null) {
  const image = new Image();
  keepTrying(image);
  const state = shallowReactive({ image: null as HTMLImageElement | null });
  image.onload = () => {
    state.image = null;
    state.image = image;
  };
  watchEffect(() => {
    const wanted = address();
    if (wanted) image.src = wanted;
    else state.image = null;
  });
  onBeforeUnmount(() => {
    image.onload = null;
    giveUp(image);
  });
  return state;
}

function drawAll(
  target: HTMLCanvasElement | null,
  image: HTMLImageElement | null,
  sizeOf: (size: Size) => Size,
): void {
  const context = target?.getContext('2d');
  if (!target || !context || !image) return;
  target.width = Math.round(props.width * pixelRatio.value);
  target.height = Math.round(props.height * pixelRatio.value);
  const scale = props.scale * pixelRatio.value;
  for (const { box, size, rotation } of props.placement.copies) {
    context.setTransform(scale, 0, 0, scale, 0, 0);
    context.translate(box.x + box.width / 2, box.y + box.height / 2);
    context.rotate(radians(rotation));
    const { width, height } = sizeOf(size);
    context.drawImage(image, -width / 2, -height / 2, width, height);
  }
}
watchEffect(() => drawAll(canvas.value, picture.image, drawnSize), { flush: 'post' });
watchEffect(() => drawAll(rescueCanvas.value, rescue.image, rescueSize), { flush: 'post' });
</script>

<template>
  <template v-if="!isCanvas">
    <template v-if="rescueSource">
      <img
        v-for="(copy, index) in placement.copies"
        :key="`rescue-${index}`"
        class="overlay pe-none"
        :src="rescueSource"
        :style="{ ...styleOf(copy, rescueSize(copy.size)), opacity: placement.rescue?.strength }"
        alt=""
        draggable="false"
        data-testid="rescue"
      />
    </template>
    <img
      v-for="(copy, index) in placement.copies"
      :key="index"
      class="overlay"
      :class="{ held: isHeld }"
      :src="source"
      :style="{ ...styleOf(copy, drawnSize(copy.size)), ...markStyle }"
      alt=""
      draggable="false"
      :data-testid="index === 0 ? 'mark' : 'stamp'"
      @pointerdown="emit('grab', $event, index)"
    />
  </template>
  <template v-else>
    <canvas
      v-if="placement.rescue"
      ref="rescueCanvas"
      class="overlay pe-none"
      :style="{ ...canvasSize, opacity: placement.rescue.strength }"
    />
    <canvas
      ref="canvas"
      class="overlay"
      :class="{ held: isHeld }"
      :style="{ ...canvasSize, ...markStyle }"
      data-testid="mark"
      @pointerdown="emit('grab', $event, 0)"
    />
  </template>
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
