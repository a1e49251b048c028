<script setup lang="ts">
import { SHEET_FILES, type SheetRule } from '#core/contract/sheet';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import ToggleField from '../ui/ToggleField.vue';
import { SHEET_FILE_TEXTS } from './sheetText.ts';

/** What sheets are written as, how finely, and what a press needs round them. */
const rule = defineModel<SheetRule>({ required: true });

const FILES = SHEET_FILES.map((value) => ({ value, label: SHEET_FILE_TEXTS[value] }));

function set(part: Partial<SheetRule>): void {
  rule.value = { ...rule.value, ...part };
}
</script>

<template>
  <PickOne
    label="Written as"
    :options="FILES"
    :model-value="rule.as"
    @update:model-value="set({ as: $event })"
  />
  <label class="align-items-center d-flex gap-2">
    photos at most
    <NumberField
      label="Pixels an inch"
      unit="dpi"
      :min="72"
      :max="1200"
      :decimals="0"
      :model-value="rule.dpi"
      @update:model-value="set({ dpi: Math.round($event) })"
    />
  </label>
  <label class="align-items-center d-flex gap-2">
    bleed
    <NumberField
      label="Bleed"
      unit="mm"
      :min="0"
      :max="20"
      :model-value="rule.bleed"
      @update:model-value="set({ bleed: $event })"
    />
  </label>
  <ToggleField
    label="crop marks"
    :model-value="rule.crop_marks"
    @update:model-value="set({ crop_marks: $event })"
  />
</template>
