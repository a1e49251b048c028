<script setup lang="ts">
import { computed } from 'vue';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import { cleanCrop } from '#core/placement/cleanCrop';
import { placed } from '../preset/usePlacing.ts';
import {
  CLASS_WORDS,
  groundWords,
  opacitySentence,
  partSentence,
  percentText,
  placeSentence,
  rescueSentence,
  toneSentence,
} from './readingText.ts';
import { useTones } from '../mark/useTones.ts';
import { useDraft } from '../preset/draft.ts';
import { subjectRule } from '../preset/subject.ts';
import { usePhotoWords } from '../batch/photoWords.ts';
import { useReadings } from './readings.ts';
import ReadingSign from './ReadingSign.vue';

/** How the mark reads on one photo: figures, what was chosen and why; each choice can be fixed. */
const props = defineProps<{ photo: PhotoView; resize: ResizeRule | null }>();

const draft = useDraft();
const readings = useReadings();
const tones = useTones();
const photoWords = usePhotoWords();

const reading = computed(() => readings.of(props.photo.id));
const title = computed(() => {
  if (reading.value?.class) return CLASS_WORDS[reading.value.class];
  if (reading.value?.problem) return 'Not measured';
  return reading.value?.isEmpty ? 'Says nothing here' : 'Beside the photo';
});
const wordsNote = computed(() => readings.wordsNoteOf(props.photo.id));
const subject = computed(() => draft.subjectOf(props.photo.id));
const nameOf = (tone: string): string =>
  tones.value.find((option) => option.value === tone)?.label ?? tone;
const reasons = computed(() => {
  const { choice, isEmpty } = reading.value ?? {};
  if (!choice || !reading.value || isEmpty) return [];
  return [
    partSentence(reading.value, copyBox.value, props.photo),
    toneSentence(choice, subject.value, nameOf),
    opacitySentence(choice, subject.value),
    placeSentence(choice, subject.value),
    rescueSentence(choice),
  ].filter(Boolean);
});
const placing = computed(() => {
  const { mark, rule, adjustment } = subject.value;
  const choice = readings.choiceFor(props.photo.id);
  return placed(props.photo, mark, rule, props.resize, {
    ...{ adjustment, choice, words: photoWords.of(props.photo) },
  });
});
/** Shares of the frame. */
const copyBox = computed(() => {
  const { frame, placement } = placing.value;
  const box = placement?.copies[0]?.box;
  if (!box) return null;
  const { width, height } = frame;
  return {
    ...{ x: box.x / width, y: box.y / height },
    ...{ width: box.width / width, height: box.height / height },
  };
});
const crop = computed(() => {
  const { frame, placement } = placing.value;
  if (!placement) return null;
  return cleanCrop(
    frame,
    placement.copies.map((copy) => copy.box),
  ).share;
});
/** What is chosen for this photo and could be chosen otherwise. */
const fixable = computed(() => {
  const choice = reading.value?.isEmpty ? undefined : reading.value?.choice;
  const adjusted = subjectRule(subject.value);
  return {
    opacity: choice && typeof adjusted.opacity !== 'number' ? choice.opacity : null,
    tone: choice && adjusted.tone.rule === 'auto' ? choice.tone : null,
    anchor: choice && adjusted.fallbacks.length > 0 ? choice.anchor : null,
    rescue: choice?.rescue ?? null,
  };
});

function fix(part: Parameters<typeof draft.adjust>[1]): void {
  draft.adjust([props.photo.id], part);
}
</script>

<template>
  <div class="reading-card" data-testid="reading">
    <p v-if="!reading" class="quiet">Not looked at yet.</p>
    <template v-else>
      <p class="head align-items-center d-flex">
        <ReadingSign :kind="reading.class ?? 'lost'" />
        <b>{{ title }}</b>
        <span class="quiet">{{ reading.isMeasured ? 'measured' : 'estimated' }}</span>
      </p>
      <p v-if="reading.class" class="number">
        <b>{{ percentText(reading.share) }}</b> of the mark can be read, on
        {{ groundWords(reading.bustle) }} ground.
      </p>
      <details v-if="reading.class">
        <summary class="quiet">Figures</summary>
        <dl class="numbers number">
          <div>
            <dt>lighter or darker than the photo there</dt>
            <dd class="fw-semibold m-0 text-nowrap">{{ reading.contrast.toFixed(0) }} L*</dd>
          </div>
          <div>
            <dt>how much the photo varies there</dt>
            <dd class="fw-semibold m-0 text-nowrap">± {{ reading.bustle.toFixed(1) }} L*</dd>
          </div>
        </dl>
      </details>
      <p v-if="reading.problem">{{ reading.problem }}</p>
      <p v-for="other in readings.besideOf(photo.id)" :key="other.name">
        {{ other.name }}:
        {{ other.class ? CLASS_WORDS[other.class].toLowerCase() : 'says nothing here' }}.
      </p>
      <p v-if="wordsNote">{{ wordsNote }}</p>
      <p v-for="reason in reasons" :key="reason">{{ reason }}</p>
      <p v-if="crop !== null && !reading.isEmpty" class="quiet">
        {{ percentText(crop) }} of the frame can be cropped free of the mark.
      </p>
      <p v-if="Object.values(fixable).some((one) => one !== null)" class="fix d-flex flex-wrap">
        <button
          v-if="fixable.tone"
          type="button"
          class="btn btn-link"
          @click="fix({ tone: { rule: 'fixed', tone: fixable.tone } })"
        >
          Keep this tone
        </button>
        <button
          v-if="fixable.anchor"
          type="button"
          class="btn btn-link"
          @click="fix({ anchor: fixable.anchor })"
        >
          Keep this place
        </button>
        <button
          v-if="fixable.opacity !== null"
          type="button"
          class="btn btn-link"
          @click="fix({ opacity: fixable.opacity })"
        >
          Keep this strength
        </button>
        <button
          v-if="fixable.rescue"
          type="button"
          class="btn btn-link"
          @click="fix({ rescue: 'none' })"
        >
          No {{ fixable.rescue.kind }} here
        </button>
      </p>
    </template>
  </div>
</template>

<style scoped>
.reading-card {
  color: var(--lc-ink);
  display: grid;
  font-size: 0.8125rem;
  gap: 6px;
  line-height: 1.35;
}

p {
  margin: 0;
}

.head {
  font-size: 0.9375rem;
  gap: 7px;
}

.head .quiet {
  font-size: 0.75rem;
  margin-left: auto;
}

.numbers {
  display: grid;
  gap: 1px;
  margin: 0;
}

.numbers div {
  display: flex;
  gap: 10px;
  justify-content: space-between;
}

dt {
  color: var(--lc-ink-quiet);
  font-weight: 400;
}

.fix {
  border-top: 1px solid var(--lc-hairline);
  gap: 0 12px;
  padding-top: 5px;
}

.fix .btn {
  font-size: 0.8125rem;
  padding: 0;
}
</style>
