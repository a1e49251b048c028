<script setup lang="ts">
import { onMounted, ref, watch } from 'vue';

/** A picture from a worker. */
const props = defineProps<{ bitmap: ImageBitmap | null; label: string }>();
const canvas = ref<HTMLCanvasElement | null>(null);

function draw(): void {
  const { bitmap } = props;
  const context = canvas.value?.getContext('2d');
  // A bitmap that was replaced meanwhile is closed, and has no width any more.
  if (!canvas.value || !context || !bitmap || bitmap.width === 0) return;
  canvas.value.width = bitmap.width;
  canvas.value.height = bitmap.height;
  context.drawImage(bitmap, 0, 0);
}

onMounted(draw);
watch(() => props.bitmap, draw, { flush: 'post' });
</script>

<template>
  <canvas ref="canvas" role="img" :aria-label="label" />
</template>

<style scoped>
canvas {
  display: block;
  height: 100%;
  width: 100%;
}
</style>
