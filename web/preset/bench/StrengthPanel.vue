<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from 'vue';
import { percentText } from '../../readability/readingText.ts';
import { useReadings } from '../../readability/readings.ts';
import { useCropShown } from '../../readability/useCropShown.ts';
import { BLENDS, OPACITY_STEP, type Blend, type QuietOpacity } from '#core/contract/preset';
import { cleanCrop } from '#core/placement/cleanCrop';
import type { Size } from '#core/placement/geometry';
import { placeMark } from '#core/placement/placeMark';
import { mostOpacity } from '#core/readability/choice';
import { useDraft } from '../draft.ts';
import NumberField from '../../ui/NumberField.vue';
import ToggleField from '../../ui/ToggleField.vue';
import RangeField from '../../ui/RangeField.vue';
import { aspectOf } from '../../mark/markPicture.ts';
import BenchPanel from '../../ui/BenchPanel.vue';

const props = defineProps<{ frame: Size; isRepeatOpen: boolean }>();
defineEmits<{ repeat: [] }>();
const draft = useDraft();
const readings = useReadings();
const isCropShown = useCropShown();
const isKept = ref(false);

/** Shown while it is touched, or until it is clicked again. */
function touch(isTouched: boolean): void {
  isCropShown.value = isTouched || isKept.value;
}

function keep(): void {
  isKept.value = !isKept.value;
  isCropShown.value = isKept.value;
}
onBeforeUnmount(() => (isCropShown.value = false));

/** What a quiet mark begins with. */
const QUIET_LEAST = 0.3;
const OPACITY_TICKS = [0, 25, 50, 75, 100] as const;
const cropShare = computed(() => readings.cleanCrops?.mean ?? shareOfFrame.value);
/** Of one frame, as long as nothing is known of the batch. */
const shareOfFrame = computed(() => {
  if (!draft.mark) return null;
  const placed = placeMark(props.frame, aspectOf(draft.mark), draft.rule);
  if (!placed.ok) return null;
  const boxes = placed.value.copies.map((copy) => copy.box);
  return cleanCrop(props.frame, boxes).share;
});

/** Null where all photos have one opacity. */
const quiet = computed<QuietOpacity | null>(() => {
  const { opacity } = draft.rule;
  return typeof opacity === 'number' ? null : opacity;
});
const summary = computed(() => {
  if (!quiet.value) return `${Math.round(mostOpacity(draft.rule) * 100)} %`;
  const { least, most } = quiet.value;
  return `quiet, ${Math.round(least * 100)} to ${Math.round(most * 100)} %`;
});

/** The opacity that was there becomes the most, so that nothing gets louder. */
function makeQuiet(isQuiet: boolean): void {
  const most = Math.max(OPACITY_STEP, mostOpacity(draft.rule));
  const least = Math.min(QUIET_LEAST, most);
  draft.change({ opacity: isQuiet ? { rule: 'quiet', least, most } : most });
}

function setQuiet(part: Partial<QuietOpacity>): void {
  if (quiet.value) draft.change({ opacity: { ...quiet.value, ...part } });
}

function setBlend(event: Event): void {
  draft.change({ blend: (event.target as HTMLSelectElement).value as Blend });
}
</script>

<template>
  <BenchPanel title="Strength" :summary="summary">
    <div v-if="quiet" class="quiet-fields align-items-center d-flex">
      <NumberField
        label="At least"
        :model-value="quiet.least * 100"
        unit="%"
        :min="OPACITY_STEP * 100"
        :max="quiet.most * 100"
        :step="5"
        :decimals="0"
        @update:model-value="setQuiet({ least: $event / 100 })"
      />
      <span>to</span>
      <NumberField
        label="At most"
        :model-value="quiet.most * 100"
        unit="%"
        :min="quiet.least * 100"
        :max="100"
        :step="5"
        :decimals="0"
        @update:model-value="setQuiet({ most: $event / 100 })"
      />
    </div>
    <RangeField
      v-else
      label="Opacity"
      :model-value="mostOpacity(draft.rule) * 100"
      unit="%"
      :from="0"
      :to="100"
      :decimals="0"
      :ticks="OPACITY_TICKS"
      @update:model-value="draft.change({ opacity: Math.round($event) / 100 })"
    />
    <ToggleField
      :model-value="quiet !== null"
      label="as quiet as it reads"
      title="On each photo the lowest opacity at which the mark is clear there"
      @update:model-value="makeQuiet"
    />
    <div class="line">
      <select class="form-select" aria-label="Blend" :value="draft.rule.blend" @change="setBlend">
        <option v-for="blend in BLENDS" :key="blend" :value="blend">
          {{ blend.replace('-', ' ') }}
        </option>
      </select>
      <button
        class="btn btn-outline-secondary repeat"
        type="button"
        :aria-expanded="isRepeatOpen"
        @click="$emit('repeat')"
      >
        {{ draft.rule.repeat ? 'repeated' : 'no repeat' }}
      </button>
    </div>
    <button
      v-if="cropShare !== null"
      class="crop quiet bg-transparent border-0 p-0 text-start"
      type="button"
      :aria-pressed="isKept"
      title="Show that part on the photos"
      @pointerenter="touch(true)"
      @pointerleave="touch(false)"
      @focus="touch(true)"
      @blur="touch(false)"
      @click="keep"
    >
      <b class="number">{{ percentText(cropShare) }}</b> of a photo can be cropped free of the
      mark<template v-if="readings.cleanCrops">, on average</template>
    </button>
  </BenchPanel>
</template>

<style scoped>
.quiet-fields {
  gap: 8px;
  font-size: 0.8125rem;
}

.line {
  display: grid;
  gap: 8px;
  grid-template-columns: minmax(0, 1fr) auto;
}

.repeat {
  --bs-btn-padding-y: 0.2rem;
  white-space: nowrap;
}

.crop {
  text-decoration: underline dotted 1px var(--lc-hairline);
  text-underline-offset: 3px;
  font-size: 0.8125rem;
  line-height: 1.35;
}

.crop b {
  color: var(--lc-ink);
  font-weight: 650;
}

@media (max-width: 1160px) {
  .line {
    gap: 5px;
  }

  .repeat {
    --bs-btn-padding-x: 0.4rem;
  }
}
</style>
