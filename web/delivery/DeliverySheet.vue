<script lang="ts">
/** The phrases of a delivery's sentence. */
export type Phrase =
  'type' | 'size' | 'preset' | 'name' | 'folder' | 'existing' | 'metadata' | 'dates';
</script>

<script setup lang="ts">
import { computed, ref } from 'vue';
import type { DeliveryView, DeliveryWish } from '#core/contract/http';
import {
  CHROMAS,
  DATE_RULES,
  EXISTING_RULES,
  FILE_TYPES,
  LEAST_MAX_BYTES,
  type DeliveryRule,
  type FileRule,
} from '#core/contract/delivery';
import { datesText, existingText, TYPE_NAMES } from './deliveryText.ts';
import { useLibrary } from '../app/library.ts';
import FolderPicker from '../settings/FolderPicker.vue';
import MetadataPhrase from './MetadataPhrase.vue';
import NamePhrase from './NamePhrase.vue';
import SizePhrase from './SizePhrase.vue';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import ToggleField from '../ui/ToggleField.vue';

/** The controls of one phrase. What is set is saved at once. */
const props = defineProps<{ phrase: Phrase; delivery: DeliveryView }>();
const emit = defineEmits<{
  change: [part: Partial<DeliveryWish>];
  rule: [part: Partial<DeliveryRule>];
  close: [];
}>();

const TYPES = FILE_TYPES.map((value) => ({ value, label: TYPE_NAMES[value] }));
const EXISTING = EXISTING_RULES.map((value) => ({ value, label: existingText(value) }));
const DATES = DATE_RULES.map((value) => ({ value, label: datesText(value) }));

const BYTES_PER_KB = 1_000;
const USUAL_MAX_BYTES = 500 * BYTES_PER_KB;
const MOST_MAX_KB = 100_000;

const library = useLibrary();
const isPicking = ref(false);
const rule = computed(() => props.delivery.rule);
const hasQuality = computed(() => !['png', 'tiff'].includes(rule.value.file.type));
const hasLimit = computed(() => ['jpeg', 'webp'].includes(rule.value.file.type));
const hasChroma = computed(() => ['jpeg', 'avif'].includes(rule.value.file.type));

function setFile(part: Partial<FileRule>): void {
  emit('rule', { file: { ...rule.value.file, ...part } });
}

const NO_MARK = 'none';
function setPreset(value: string): void {
  const mark = value !== NO_MARK;
  emit('change', {
    presetId: Number(value) || null,
    rule: { ...rule.value, mark },
  });
}

const valueOf = (event: Event): string => (event.target as HTMLInputElement).value;
</script>

<template>
  <div class="sheet">
    <template v-if="phrase === 'type'">
      <PickOne
        label="Type of file"
        :options="TYPES"
        :model-value="rule.file.type"
        @update:model-value="setFile({ type: $event })"
      />
      <ToggleField
        v-if="hasLimit"
        label="as good as fits into"
        :model-value="rule.file.max_bytes !== null"
        @update:model-value="setFile({ max_bytes: $event ? USUAL_MAX_BYTES : null })"
      />
      <NumberField
        v-if="hasLimit && rule.file.max_bytes !== null"
        class="wide"
        label="At most"
        unit="KB"
        :model-value="rule.file.max_bytes / BYTES_PER_KB"
        :min="LEAST_MAX_BYTES / BYTES_PER_KB"
        :max="MOST_MAX_KB"
        :decimals="0"
        @update:model-value="setFile({ max_bytes: Math.round($event) * BYTES_PER_KB })"
      />
      <label v-else-if="hasQuality" class="align-items-center d-flex gap-2">
        quality
        <NumberField
          label="Quality"
          :model-value="rule.file.quality"
          :min="1"
          :max="100"
          :decimals="0"
          @update:model-value="setFile({ quality: Math.round($event) })"
        />
      </label>
      <label v-if="hasChroma" class="align-items-center d-flex gap-2">
        colour detail
        <select
          class="form-select"
          :value="rule.file.chroma"
          @change="
            setFile({ chroma: CHROMAS.find((chroma) => chroma === valueOf($event)) ?? '4:4:4' })
          "
        >
          <option value="4:4:4">full (4:4:4)</option>
          <option value="4:2:0">halved, smaller files (4:2:0)</option>
        </select>
      </label>
    </template>

    <SizePhrase
      v-else-if="phrase === 'size'"
      :model-value="rule"
      @update:model-value="({ resize, sharpen, dpi }) => emit('rule', { resize, sharpen, dpi })"
    />

    <template v-else-if="phrase === 'preset'">
      <select
        class="form-select"
        aria-label="Preset"
        :value="rule.mark ? (delivery.presetId ?? '') : NO_MARK"
        @change="setPreset(valueOf($event))"
      >
        <option value="">any preset</option>
        <option :value="NO_MARK">without a mark</option>
        <option v-for="preset in library.presets" :key="preset.id" :value="preset.id">
          {{ preset.name }}
        </option>
      </select>
      <span class="quiet"
        >what a batch gets that is dropped on this ticket, and what its photos get here where they
        go out by another delivery as well</span
      >
    </template>

    <NamePhrase
      v-else-if="phrase === 'name'"
      :model-value="rule.name_pattern"
      @update:model-value="emit('rule', { name_pattern: $event })"
    />

    <template v-else-if="phrase === 'folder'">
      <button class="btn btn-outline-secondary" type="button" @click="isPicking = true">
        Choose a folder
      </button>
      <button
        class="btn btn-link"
        type="button"
        :disabled="delivery.folder === null"
        @click="emit('change', { folder: null })"
      >
        A folder of the batch’s name, inside Light Crest’s exports
      </button>
      <FolderPicker
        v-model="isPicking"
        title="Where the files go"
        action="Write here"
        may-make
        @done="emit('change', { folder: $event })"
      />
    </template>

    <template v-else-if="phrase === 'existing'">
      <PickOne
        label="Where a file of that name exists"
        :options="EXISTING"
        :model-value="rule.existing"
        @update:model-value="emit('rule', { existing: $event })"
      />
    </template>

    <MetadataPhrase
      v-else-if="phrase === 'metadata'"
      :model-value="rule.metadata"
      @update:model-value="emit('rule', { metadata: $event })"
    />

    <template v-else>
      <PickOne
        label="Dates"
        :options="DATES"
        :model-value="rule.dates"
        @update:model-value="emit('rule', { dates: $event })"
      />
    </template>
    <button class="btn btn-link end" type="button" @click="emit('close')">Done</button>
  </div>
</template>

<style scoped>
.sheet {
  align-items: center;
  background: var(--lc-paper-deep);
  border-radius: var(--lc-radius);
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  min-height: 46px;
  padding: 8px 14px;
}

.form-select {
  width: auto;
}

.end {
  margin-left: auto;
}
</style>
