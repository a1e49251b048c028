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
  OUTPUT_MAX_MEGAPIXELS,
  OUTPUT_SIDE_MAX_PX,
  RESIZE_RULES,
  resizeSchema,
  type DeliveryRule,
  type FileRule,
  type MetadataRule,
  type ResizeRule,
} from '#core/contract/delivery';
import { NAME_TOKENS, namePatternProblem } from '#core/delivery/namePattern';
import { datesText, existingText, metadataText, TYPE_NAMES } from './deliveryText.ts';
import { useLibrary } from '../app/library.ts';
import FolderPicker from '../settings/FolderPicker.vue';
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

const RULE_LABELS: Readonly<Record<ResizeRule['rule'], string>> = {
  'long-side': 'long side',
  'short-side': 'short side',
  width: 'width',
  height: 'height',
  within: 'within a box',
  megapixels: 'megapixels',
};
const TYPES = FILE_TYPES.map((value) => ({ value, label: TYPE_NAMES[value] }));
const EXISTING = EXISTING_RULES.map((value) => ({ value, label: existingText(value) }));
/** What is kept, in one choice: without metadata there is no place either. */
const METADATA_RULES: Readonly<Record<string, MetadataRule>> = {
  dropped: { keep: 'all', location: 'drop' },
  all: { keep: 'all', location: 'keep' },
  none: { keep: 'none', location: 'drop' },
};
const METADATA = Object.entries(METADATA_RULES).map(([value, rule]) => ({
  value,
  label: metadataText(rule),
}));
const DATES = DATE_RULES.map((value) => ({ value, label: datesText(value) }));
const USUAL_MEGAPIXELS = 4;

const library = useLibrary();
const isPicking = ref(false);
const rule = computed(() => props.delivery.rule);
const resize = computed(() => rule.value.resize);
const metadata = computed(() => {
  const { keep, location } = rule.value.metadata;
  return keep === 'none' ? 'none' : location === 'keep' ? 'all' : 'dropped';
});
const hasQuality = computed(() => !['png', 'tiff'].includes(rule.value.file.type));
const hasChroma = computed(() => ['jpeg', 'avif'].includes(rule.value.file.type));

function setFile(part: Partial<FileRule>): void {
  emit('rule', { file: { ...rule.value.file, ...part } });
}

function setRule(value: string): void {
  const rule = RESIZE_RULES.find((some) => some === value);
  if (!rule) return emit('rule', { resize: null });
  const now = resize.value ?? resizeSchema.parse({});
  // Pixels and megapixels are different sorts of number; a change of sort starts from a usual one.
  const isMegapixels = rule === 'megapixels';
  const wasMegapixels = now.rule === 'megapixels';
  const usual = isMegapixels ? USUAL_MEGAPIXELS : resizeSchema.parse({}).px;
  const px = isMegapixels === wasMegapixels ? now.px : usual;
  emit('rule', { resize: { ...now, rule, px, px2: rule === 'within' ? px : null } });
}

function setResize(part: Partial<ResizeRule>): void {
  if (resize.value) emit('rule', { resize: { ...resize.value, ...part } });
}

const pattern = ref(props.delivery.rule.name_pattern);
const patternProblem = computed(() => namePatternProblem(pattern.value));

function typePattern(next: string): void {
  pattern.value = next;
  if (!namePatternProblem(next)) emit('rule', { name_pattern: next });
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
      <label v-if="hasQuality" class="align-items-center d-flex gap-2">
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

    <template v-else-if="phrase === 'size'">
      <select
        class="form-select narrow"
        aria-label="Resize by"
        :value="resize?.rule ?? ''"
        @change="setRule(valueOf($event))"
      >
        <option value="">full size</option>
        <option v-for="by in RESIZE_RULES" :key="by" :value="by">
          {{ RULE_LABELS[by] }}
        </option>
      </select>
      <template v-if="resize">
        <NumberField
          class="wide"
          label="Size"
          :model-value="resize.px"
          :unit="resize.rule === 'megapixels' ? 'MP' : 'px'"
          :min="resize.rule === 'megapixels' ? 0.01 : 1"
          :max="resize.rule === 'megapixels' ? OUTPUT_MAX_MEGAPIXELS : OUTPUT_SIDE_MAX_PX"
          :decimals="resize.rule === 'megapixels' ? 2 : 0"
          @update:model-value="
            setResize({ px: resize.rule === 'megapixels' ? $event : Math.round($event) })
          "
        />
        <template v-if="resize.rule === 'within'">
          ×
          <NumberField
            class="wide"
            label="Height"
            unit="px"
            :model-value="resize.px2 ?? resize.px"
            :min="1"
            :max="OUTPUT_SIDE_MAX_PX"
            :decimals="0"
            @update:model-value="setResize({ px2: Math.round($event) })"
          />
        </template>
        <ToggleField
          label="enlarge smaller photos"
          :model-value="resize.enlarge"
          @update:model-value="setResize({ enlarge: $event })"
        />
      </template>
    </template>

    <template v-else-if="phrase === 'preset'">
      <select
        class="form-select"
        aria-label="Preset"
        :value="delivery.presetId ?? ''"
        @change="emit('change', { presetId: Number(valueOf($event)) || null })"
      >
        <option value="">any preset</option>
        <option v-for="preset in library.presets" :key="preset.id" :value="preset.id">
          {{ preset.name }}
        </option>
      </select>
      <span class="quiet"
        >what a batch gets that is dropped on this ticket; it can be changed on the wall</span
      >
    </template>

    <template v-else-if="phrase === 'name'">
      <input
        class="form-control pattern"
        aria-label="Name pattern"
        :aria-invalid="patternProblem !== null"
        :value="pattern"
        @input="typePattern(valueOf($event))"
      />
      <button
        v-for="token in NAME_TOKENS"
        :key="token"
        class="btn btn-outline-secondary token"
        type="button"
        @click="typePattern(`${pattern}{${token}}`)"
      >
        {{ token }}
      </button>
      <span v-if="patternProblem" class="problem" role="alert">Expected {{ patternProblem }}.</span>
    </template>

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

    <template v-else-if="phrase === 'metadata'">
      <PickOne
        label="Metadata"
        :options="METADATA"
        :model-value="metadata"
        @update:model-value="emit('rule', { metadata: METADATA_RULES[$event] })"
      />
    </template>

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

.wide {
  width: 96px;
}

.pattern {
  font-family: var(--lc-sans);
  max-width: 320px;
}

.pattern[aria-invalid='true'] {
  border-color: var(--lc-lost);
}

.token {
  --bs-btn-padding-x: 0.5rem;
  --bs-btn-padding-y: 0.1rem;
  margin-left: -12px;
}

.problem {
  color: var(--lc-lost-deep);
  flex-basis: 100%;
}

.end {
  margin-left: auto;
}
</style>
