<script setup lang="ts">
import { computed } from 'vue';
import { SHEET_FITS, type SheetRule } from '#core/contract/sheet';
import { namePatternProblem } from '#core/delivery/namePattern';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import ToggleField from '../ui/ToggleField.vue';
import { FIT_TEXTS } from './sheetText.ts';

/** How photos lie on a sheet, and what is written under them. */
const rule = defineModel<SheetRule>({ required: true });

const FITS = SHEET_FITS.map((value) => ({ value, label: FIT_TEXTS[value] }));
const caption = computed(() => rule.value.caption);

function set(part: Partial<SheetRule>): void {
  rule.value = { ...rule.value, ...part };
}

function setGrid(part: Partial<SheetRule['grid']>): void {
  set({ grid: { ...rule.value.grid, ...part } });
}

function setPattern(pattern: string): void {
  if (caption.value && !namePatternProblem(pattern))
    set({ caption: { ...caption.value, pattern } });
}
</script>

<template>
  <label class="align-items-center d-flex gap-2">
    columns
    <NumberField
      label="Columns"
      :min="1"
      :max="20"
      :decimals="0"
      :model-value="rule.grid.columns"
      @update:model-value="setGrid({ columns: Math.round($event) })"
    />
  </label>
  <label class="align-items-center d-flex gap-2">
    rows
    <NumberField
      label="Rows"
      :min="1"
      :max="20"
      :decimals="0"
      :model-value="rule.grid.rows"
      @update:model-value="setGrid({ rows: Math.round($event) })"
    />
  </label>
  <label v-if="rule.grid.columns * rule.grid.rows > 1" class="align-items-center d-flex gap-2">
    gap
    <NumberField
      label="Gap"
      unit="mm"
      :min="0"
      :max="100"
      :model-value="rule.grid.gap"
      @update:model-value="setGrid({ gap: $event })"
    />
  </label>
  <PickOne
    label="Fit"
    :options="FITS"
    :model-value="rule.fit"
    @update:model-value="set({ fit: $event })"
  />
  <ToggleField
    label="with a line under each"
    :model-value="caption !== null"
    @update:model-value="set({ caption: $event ? { pattern: '{name}', size: 3 } : null })"
  />
  <template v-if="caption">
    <input
      class="form-control pattern"
      aria-label="Line under each photo"
      :value="caption.pattern"
      @change="setPattern(($event.target as HTMLInputElement).value)"
    />
    <NumberField
      label="Height of the line"
      unit="mm"
      :min="1"
      :max="20"
      :model-value="caption.size"
      @update:model-value="set({ caption: { ...caption, size: $event } })"
    />
  </template>
</template>

<style scoped>
.pattern {
  max-width: 180px;
}
</style>
