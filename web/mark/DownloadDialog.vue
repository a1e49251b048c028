<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, ref, watch } from 'vue';
import type { MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import { useTones } from './useTones.ts';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import SplitMark from './SplitMark.vue';
import VideoFrame from './VideoFrame.vue';

/** A mark to use elsewhere: as transparent PNG, or as SVG that can come back without loss. */
const props = defineProps<{ mark: MarkView; tone: ToneChoice }>();
const isOpen = defineModel<boolean>({ required: true });

const TYPES = [
  { value: 'png', label: 'PNG', title: 'Pixels with a transparent ground' },
  { value: 'svg', label: 'SVG', title: 'Opens anywhere, and can be brought in again without loss' },
  { value: 'frame', label: 'whole frame', title: 'A transparent PNG to be laid over a video' },
] as const;
const WIDTH = { least: 8, most: 8_192, usual: 2_000 } as const;

const tones = useTones();
const type = ref<'png' | 'svg' | 'frame'>('png');
const frameAddress = ref<string | null>(null);
/** In a select, which knows no null. */
const BY_PRESET = '';
const frameTone = ref<ToneChoice | null>(null);
const widthPx = ref<number>(WIDTH.usual);
const tone = ref<ToneChoice>(props.tone);
watch(isOpen, (open) => {
  if (open) tone.value = props.tone;
});

const shownTone = computed<ToneChoice | typeof BY_PRESET>({
  get: () => (type.value === 'frame' ? (frameTone.value ?? BY_PRESET) : tone.value),
  set: (chosen) => {
    if (type.value === 'frame') frameTone.value = chosen === BY_PRESET ? null : chosen;
    else if (chosen !== BY_PRESET) tone.value = chosen;
  },
});
const heightPx = computed(() =>
  Math.max(1, Math.round((widthPx.value * props.mark.ink.height) / props.mark.ink.width)),
);
const address = computed(() => {
  if (type.value === 'frame') return `${frameAddress.value ?? ''}&download=1`;
  const query = new URLSearchParams({ type: type.value, tone: tone.value.replace('#', '') });
  if (type.value === 'png') query.set('width', String(widthPx.value));
  return `/api/marks/${props.mark.id}/download?${query}`;
});
</script>

<template>
  <BModal v-model="isOpen" title-tag="h2" :title="`Download ${mark.name}`" centered no-footer>
    <div class="form">
      <div class="line align-items-center d-grid">
        <span class="quiet">as</span>
        <PickOne v-model="type" label="File type" :options="TYPES" />
      </div>
      <VideoFrame
        v-if="isOpen && type === 'frame'"
        v-model:address="frameAddress"
        :mark="mark"
        :tone="frameTone"
      />
      <SplitMark v-else-if="isOpen" class="picture" :mark="mark" :tone="tone" />
      <div class="line align-items-center d-grid">
        <label class="quiet" :for="`tone-of-${mark.id}`">tone</label>
        <select :id="`tone-of-${mark.id}`" v-model="shownTone" class="form-select">
          <option v-if="type === 'frame'" :value="BY_PRESET">as the preset says</option>
          <option v-for="option in tones" :key="option.value" :value="option.value">
            {{ option.label }}
          </option>
        </select>
      </div>
      <div v-if="type === 'png'" class="line align-items-center d-grid">
        <span class="quiet">wide</span>
        <NumberField
          v-model="widthPx"
          label="Width"
          unit="px"
          :min="WIDTH.least"
          :max="WIDTH.most"
          :decimals="0"
        />
        <span class="quiet number">and {{ heightPx }} px high, transparent</span>
      </div>
      <p v-else-if="type === 'svg'" class="quiet">
        Sharp at any size. It holds how the mark was made, so it can be brought in again.
      </p>
      <p v-else class="quiet">A transparent PNG to be laid over a video as it is.</p>
      <div class="actions">
        <button class="btn btn-outline-secondary" type="button" @click="isOpen = false">
          Cancel
        </button>
        <a class="btn btn-primary" :href="address" download @click="isOpen = false">Download</a>
      </div>
    </div>
  </BModal>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
}

.picture {
  height: 110px;
}

.line {
  gap: 12px;
  grid-template-columns: 44px auto 1fr;
  justify-items: start;
}

.line .form-select {
  width: auto;
}

.actions {
  display: flex;
  gap: 10px;
  justify-content: flex-end;
}
</style>
