<script setup lang="ts">
import { computed, ref } from 'vue';
import { SUBFOLDERS, type DeliveryView, type DeliveryWish } from '#core/contract/http';
import {
  DATE_RULES,
  EXISTING_RULES,
  OUTPUT_COLOURS,
  UNTOUCHED,
  type DeliveryRule,
} from '#core/contract/delivery';
import { COLOUR_TEXTS, datesText, existingText, SUBFOLDER_TEXTS } from './deliveryText.ts';
import MarksSelect, { marksOfValue, marksValue } from '../preset/MarksSelect.vue';
import FolderPicker from '../settings/FolderPicker.vue';
import type { Phrase } from './deliveryPhrases.ts';
import KindPhrase from './KindPhrase.vue';
import MetadataPhrase from './MetadataPhrase.vue';
import NamePhrase from './NamePhrase.vue';
import PaperPhrase from './PaperPhrase.vue';
import PlacesPhrase from './PlacesPhrase.vue';
import PrintPhrase from './PrintPhrase.vue';
import ShowMarkPhrase from './ShowMarkPhrase.vue';
import ShowPhrase from './ShowPhrase.vue';
import SheetMarkPhrase from './SheetMarkPhrase.vue';
import TypePhrase from './TypePhrase.vue';
import SizePhrase from './SizePhrase.vue';
import PickOne from '../ui/PickOne.vue';
import ToggleField from '../ui/ToggleField.vue';

/** The controls of one phrase. What is set is saved at once. */
const props = defineProps<{ phrase: Phrase; delivery: DeliveryView }>();
const emit = defineEmits<{
  change: [part: Partial<DeliveryWish>];
  rule: [part: Partial<DeliveryRule>];
  close: [];
}>();

const COLOURS = OUTPUT_COLOURS.map((value) => ({ value, label: COLOUR_TEXTS[value] }));
const EXISTING = computed(() =>
  EXISTING_RULES.filter(
    // A show is a folder, which takes the place of no other.
    (value) => rule.value.kind !== 'show' || value !== 'replace',
  ).map((value) => ({ value, label: existingText(value, rule.value.kind) })),
);
const SUBFOLDER_WORDS = SUBFOLDERS.map((value) => ({ value, label: SUBFOLDER_TEXTS[value] }));
const DATES = DATE_RULES.map((value) => ({ value, label: datesText(value) }));

/** Phrases of a delivery to paper. */
const PAPER_PHRASES = {
  paper: PaperPhrase,
  places: PlacesPhrase,
  marks: SheetMarkPhrase,
  print: PrintPhrase,
};

/** Phrases of a show. */
const SHOW_PHRASES = { playing: ShowPhrase, shown: ShowMarkPhrase };

const isPicking = ref(false);
const rule = computed(() => props.delivery.rule);
const paperPhrase = computed(() =>
  props.phrase in PAPER_PHRASES ? PAPER_PHRASES[props.phrase as keyof typeof PAPER_PHRASES] : null,
);

const showPhrase = computed(() =>
  props.phrase in SHOW_PHRASES ? SHOW_PHRASES[props.phrase as keyof typeof SHOW_PHRASES] : null,
);

const NO_MARK = 'none';
const presetIds = computed(() => {
  const { presetId, overIds } = props.delivery;
  return presetId === null ? [] : [presetId, ...overIds];
});

function setMarks(value: string): void {
  const mark = value !== NO_MARK;
  const [presetId = null, ...overIds] = mark ? marksOfValue(value) : [];
  emit('change', { presetId, overIds, rule: { ...rule.value, mark } });
}
</script>

<template>
  <div class="sheet">
    <KindPhrase v-if="phrase === 'kind'" :rule="rule" @rule="emit('rule', $event)" />

    <component
      :is="paperPhrase"
      v-else-if="paperPhrase"
      :model-value="rule.sheet"
      @update:model-value="emit('rule', { sheet: $event })"
    />

    <component
      :is="showPhrase"
      v-else-if="showPhrase"
      :model-value="rule.show"
      @update:model-value="emit('rule', { show: $event })"
    />

    <TypePhrase
      v-else-if="phrase === 'type'"
      :model-value="rule.file"
      @update:model-value="emit('rule', { file: $event })"
    />

    <SizePhrase
      v-else-if="phrase === 'size'"
      :model-value="rule"
      @update:model-value="({ resize, sharpen, dpi }) => emit('rule', { resize, sharpen, dpi })"
    />

    <template v-else-if="phrase === 'colour'">
      <PickOne
        v-if="rule.file.quality !== UNTOUCHED"
        label="Colours"
        :options="COLOURS"
        :model-value="rule.colour"
        @update:model-value="emit('rule', { colour: $event })"
      />
      <span class="quiet">{{
        rule.file.quality === UNTOUCHED
          ? 'Blocks that stay as they are keep the photo’s colours.'
          : 'The photo’s own keep a wide gamut for print and screens that show it; CMYK and grey photos become sRGB either way.'
      }}</span>
    </template>

    <template v-else-if="phrase === 'preset'">
      <MarksSelect
        label="Preset"
        :value="rule.mark ? marksValue(presetIds) : NO_MARK"
        :preset-ids="presetIds"
        @change="setMarks"
      >
        <option value="">any preset</option>
        <option :value="NO_MARK">without a mark</option>
      </MarksSelect>
      <span class="quiet"
        >what a batch gets that is dropped on this ticket, and what its photos get here where they
        go out by another delivery as well</span
      >
    </template>

    <NamePhrase
      v-else-if="phrase === 'name'"
      :model-value="rule.name_pattern"
      :is-of-all="rule.kind !== 'files'"
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
      <PickOne
        v-if="delivery.folder !== null"
        label="Where in the folder"
        :options="SUBFOLDER_WORDS"
        :model-value="delivery.subfolder"
        @update:model-value="emit('change', { subfolder: $event })"
      />
      <ToggleField
        label="and download them as one ZIP when a run has ended"
        :model-value="delivery.zip"
        @update:model-value="emit('change', { zip: $event })"
      />
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

/* On a phone the words of a choice need more than one line. */
.sheet :deep(.pick) {
  flex-wrap: wrap;
}

.sheet :deep(.form-select) {
  width: auto;
}

.end {
  margin-left: auto;
}
</style>
