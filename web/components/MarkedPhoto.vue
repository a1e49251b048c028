<script setup lang="ts">
import { computed } from 'vue';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import { useMarkDrag } from '../composables/useMarkDrag.ts';
import { usePlacing } from '../composables/usePlacing.ts';
import { useDraft } from '../stores/draft.ts';
import { aspectOf } from './markPicture.ts';
import MarkOverlay from './MarkOverlay.vue';

/** A photo of the batch with the mark as the bench has it; the mark can be dragged on it. */
const props = defineProps<{
  photo: PhotoView;
  /** CSS pixels. */
  width: number;
  height: number;
  picture: 'tile' | 'proxy';
  resize: ResizeRule | null;
  hideMark?: boolean;
}>();

const draft = useDraft();
const placing = usePlacing(
  () => props.photo,
  () => draft.mark,
  () => draft.rule,
  () => props.resize,
);
const scale = computed(() => props.width / placing.value.frame.width);
const aspect = computed(() => (draft.mark ? aspectOf(draft.mark, props.photo) : 1));
const { isDragging, start } = useMarkDrag({
  frame: () => placing.value.frame,
  aspect: () => aspect.value,
  rule: () => draft.rule,
  framePxPerPx: () => 1 / scale.value,
  change: (part) => draft.change(part),
});
const source = computed(() => `/api/photos/${props.photo.id}/${props.picture}`);
</script>

<template>
  <div class="photo" :style="{ width: `${width}px`, height: `${height}px` }">
    <img class="picture" :src="source" :alt="photo.name" draggable="false" decoding="async" />
    <MarkOverlay
      v-if="draft.mark && placing.placement && !hideMark"
      :mark="draft.mark"
      :placement="placing.placement"
      :scale="scale"
      :width="width"
      :height="height"
      :year="photo.year"
      :is-held="isDragging"
      @grab="start"
    />
    <p v-if="placing.problem" class="problem">{{ placing.problem }}</p>
    <slot :placing="placing" />
  </div>
</template>

<style scoped>
.photo {
  background: rgb(0 0 0 / 8%);
  isolation: isolate;
  overflow: hidden;
  position: relative;
}

.picture {
  display: block;
  height: 100%;
  width: 100%;
}

.problem {
  background: rgb(20 36 44 / 85%);
  color: #f6f3ec;
  font-size: 0.78rem;
  inset: auto 0 0;
  padding: 6px 8px;
  position: absolute;
}
</style>
