<script setup lang="ts">
import { photoAddress } from '../api/photoAddress.ts';
import { computed } from 'vue';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import { useCropShown } from '../readability/useCropShown.ts';
import { useMarkDrag } from './useMarkDrag.ts';
import { placed } from './usePlacing.ts';
import { useDraft } from './draft.ts';
import { subjectRule } from './subject.ts';
import { usePhotoWords } from '../batch/photoWords.ts';
import { useReadings } from '../readability/readings.ts';
import { aspectOf } from '../mark/markPicture.ts';
import CropOverlay from '../readability/CropOverlay.vue';
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
const emit = defineEmits<{ grabStamp: [event: PointerEvent, index: number] }>();

const draft = useDraft();
const readings = useReadings();
const photoWords = usePhotoWords();
const isCropShown = useCropShown();
const subject = computed(() => draft.subjectOf(props.photo.id));
const subjects = computed(() => draft.subjectsOf(props.photo.id));
const words = computed(() => {
  const takesWords = subjects.value.some(({ mark }) => (mark?.tokens.length ?? 0) > 0);
  return takesWords ? photoWords.of(props.photo) : null;
});
const rule = computed(() => subjectRule(subject.value));
/** In the hand the mark stays where it is put, whatever would read better elsewhere. */
const choice = computed(() => {
  const found = readings.choiceFor(props.photo.id);
  return isDragging.value ? { ...found, anchor: rule.value.anchor } : found;
});
const placing = computed(() =>
  placed(props.photo, subject.value.mark, subject.value.rule, props.resize, {
    adjustment: subject.value.adjustment,
    choice: choice.value,
    words: words.value,
  }),
);
/** All marks of the bench, the lowest first. */
const allMarks = computed(() => {
  if (subjects.value.length === 1) {
    const { mark } = subject.value;
    const { placement } = placing.value;
    return mark && placement ? [{ index: 0, mark, placement, isInHand: true }] : [];
  }
  const choices = readings.choicesFor(props.photo.id);
  return subjects.value.flatMap(({ mark, rule: own, adjustment }, index) => {
    const isInHand = index === draft.handAt;
    const { placement } = isInHand
      ? placing.value
      : placed(props.photo, mark, own, props.resize, {
          ...{ adjustment, choice: choices[index], words: words.value },
        });
    return mark && placement ? [{ index, mark, placement, isInHand }] : [];
  });
});

/** @param index among all marks */
function takeInHand(index: number): void {
  draft.takeInHand(index < draft.handAt ? index : index - 1);
}

const scale = computed(() => props.width / placing.value.frame.width);
const aspect = computed(() => (subject.value.mark ? aspectOf(subject.value.mark, words.value) : 1));
const { isDragging, start } = useMarkDrag({
  frame: () => placing.value.frame,
  aspect: () => aspect.value,
  rule: () => ({ ...rule.value, anchor: choice.value.anchor }),
  framePxPerPx: () => 1 / scale.value,
  change: (part) => draft.changeOn(props.photo.id, part),
});
const source = computed(() => photoAddress(props.photo, props.picture));

function grab(event: PointerEvent, copy: number): void {
  const stamps = subject.value.adjustment.stamps?.length ?? 0;
  const own = (placing.value.placement?.copies.length ?? 0) - stamps;
  if (copy < own) start(event);
  else emit('grabStamp', event, copy - own);
}
</script>

<template>
  <div class="photo" :style="{ width: `${width}px`, height: `${height}px` }">
    <img
      class="picture d-block h-100 w-100"
      :src="source"
      :alt="photo.name"
      draggable="false"
      decoding="async"
    />
    <template v-if="!hideMark">
      <MarkOverlay
        v-for="laid in allMarks"
        :key="laid.index"
        :mark="laid.mark"
        :placement="laid.placement"
        :scale="scale"
        :width="width"
        :height="height"
        :words="words"
        :is-held="laid.isInHand && isDragging"
        @grab="(event, copy) => (laid.isInHand ? grab(event, copy) : takeInHand(laid.index))"
      />
    </template>
    <CropOverlay
      v-if="isCropShown && placing.placement"
      :frame="placing.frame"
      :copies="placing.placement.copies"
      :scale="scale"
    />
    <p v-if="placing.problem" class="problem">{{ placing.problem }}</p>
    <slot :placing="placing" :scale="scale" />
  </div>
</template>

<style scoped>
.photo {
  background: rgb(0 0 0 / 8%);
  isolation: isolate;
  overflow: hidden;
  position: relative;
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
