<script setup lang="ts">
import { computed } from 'vue';
import {
  CHROMAS,
  FILE_TYPES,
  LEAST_MAX_BYTES,
  TIFF_COMPRESSIONS,
  UNTOUCHED,
  type FileRule,
} from '#core/contract/delivery';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import ToggleField from '../ui/ToggleField.vue';
import WordSelect from '../ui/WordSelect.vue';
import { TYPE_NAMES } from './deliveryText.ts';
import { useTools } from './useTools.ts';

/** The type of a delivery's files, and how they are encoded. */
const file = defineModel<FileRule>({ required: true });

const TYPES = FILE_TYPES.map((value) => ({ value, label: TYPE_NAMES[value] }));
const BYTES_PER_KB = 1_000;
const USUAL_MAX_BYTES = 500 * BYTES_PER_KB;
const MOST_MAX_KB = 100_000;
const USUAL_QUALITY = 88;

const { untouchedCommand } = useTools();
const hasQuality = computed(() => !['png', 'tiff'].includes(file.value.type));
const hasLimit = computed(() => ['jpeg', 'webp'].includes(file.value.type));
const isUntouched = computed(() => file.value.quality === UNTOUCHED);
const hasChroma = computed(() => ['jpeg', 'avif'].includes(file.value.type) && !isUntouched.value);

/** What the quality of a file is decided by. */
const ways = computed(() => [
  { value: 'quality', label: 'of a quality' },
  ...(hasLimit.value ? [{ value: 'bytes', label: 'as good as fits into' } as const] : []),
  ...(file.value.type === 'jpeg'
    ? ([
        {
          value: UNTOUCHED,
          label: 'untouched but for the mark',
          title:
            'Of a JPEG that keeps its size, only the blocks under the mark are encoded again; all else stays bit for bit',
        },
      ] as const)
    : []),
]);
const way = computed({
  get: () => {
    if (isUntouched.value) return UNTOUCHED;
    return file.value.max_bytes === null ? 'quality' : 'bytes';
  },
  set: (chosen: string) => {
    const { quality } = file.value;
    set({
      quality: chosen === UNTOUCHED ? UNTOUCHED : isUntouched.value ? USUAL_QUALITY : quality,
      max_bytes: chosen === 'bytes' ? USUAL_MAX_BYTES : null,
    });
  },
});

const CHROMA_WORDS = CHROMAS.map((value) => ({
  value,
  label: value === '4:4:4' ? 'full (4:4:4)' : 'halved, smaller files (4:2:0)',
}));
const COMPRESSION_TEXTS = { lzw: 'LZW', deflate: 'Deflate, smaller', none: 'none' } as const;
const COMPRESSIONS = TIFF_COMPRESSIONS.map((value) => ({ value, label: COMPRESSION_TEXTS[value] }));

function set(part: Partial<FileRule>): void {
  file.value = { ...file.value, ...part };
}
</script>

<template>
  <PickOne
    label="Type of file"
    :options="TYPES"
    :model-value="file.type"
    @update:model-value="set({ type: $event })"
  />
  <PickOne v-if="ways.length > 1" v-model="way" label="How good" :options="ways" />
  <NumberField
    v-if="way === 'bytes' && hasLimit && file.max_bytes !== null"
    class="wide"
    label="At most"
    unit="KB"
    :model-value="file.max_bytes / BYTES_PER_KB"
    :min="LEAST_MAX_BYTES / BYTES_PER_KB"
    :max="MOST_MAX_KB"
    :decimals="0"
    @update:model-value="set({ max_bytes: Math.round($event) * BYTES_PER_KB })"
  />
  <label v-else-if="hasQuality && file.quality !== UNTOUCHED" class="word-field">
    quality
    <NumberField
      label="Quality"
      :model-value="file.quality"
      :min="1"
      :max="100"
      :decimals="0"
      @update:model-value="set({ quality: Math.round($event) })"
    />
  </label>
  <WordSelect
    v-if="hasChroma"
    label="colour detail"
    :options="CHROMA_WORDS"
    :model-value="file.chroma"
    @update:model-value="set({ chroma: $event })"
  />
  <WordSelect
    v-if="file.type === 'tiff'"
    label="compression"
    :options="COMPRESSIONS"
    :model-value="file.compression"
    @update:model-value="set({ compression: $event })"
  />
  <ToggleField
    v-if="file.type === 'jpeg' && !isUntouched"
    label="progressive"
    title="Shown whole from the first bytes on, and a little smaller; slower to write"
    :model-value="file.progressive"
    @update:model-value="set({ progressive: $event })"
  />
  <p v-if="isUntouched" class="said quiet mb-0">
    The full size and the photo’s own colours stay, and photos that are no JPEG get quality 95.
    <strong v-if="untouchedCommand"
      >On this computer a tool is missing, so all of them do. It comes with
      <code>{{ untouchedCommand }}</code></strong
    >
  </p>
</template>

<style scoped>
.wide {
  width: 96px;
}

.word-field {
  align-items: center;
  display: flex;
  gap: 8px;
}

.said {
  flex-basis: 100%;
}
</style>
