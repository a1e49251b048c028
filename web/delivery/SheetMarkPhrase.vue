<script setup lang="ts">
import { SHEET_MARKS, type SheetRule } from '#core/contract/sheet';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import ToggleField from '../ui/ToggleField.vue';
import { SHEET_MARK_TEXTS } from './sheetText.ts';

/** Where the mark goes on paper: on each photo, into the margin, or both. */
const rule = defineModel<SheetRule>({ required: true });

const MARKS = SHEET_MARKS.map((value) => ({ value, label: SHEET_MARK_TEXTS[value] }));
/** What a mark in the margin is begun with, mm. */
const USUAL_WIDTH = 35;
const USUAL_INSET = 8;

function setMargin(part: Partial<SheetRule['margin_mark']>): void {
  rule.value = { ...rule.value, margin_mark: { ...rule.value.margin_mark, ...part } };
}
</script>

<template>
  <PickOne
    label="Where the mark goes"
    :options="MARKS"
    :model-value="rule.mark_on"
    @update:model-value="rule = { ...rule, mark_on: $event }"
  />
  <template v-if="rule.mark_on !== 'photo'">
    <ToggleField
      label="so wide in the margin"
      :model-value="rule.margin_mark.width !== null"
      @update:model-value="setMargin({ width: $event ? USUAL_WIDTH : null })"
    />
    <NumberField
      v-if="rule.margin_mark.width !== null"
      label="Width in the margin"
      unit="mm"
      :min="1"
      :max="2000"
      :model-value="rule.margin_mark.width"
      @update:model-value="setMargin({ width: $event })"
    />
    <ToggleField
      label="so far from the edges"
      :model-value="rule.margin_mark.inset !== null"
      @update:model-value="setMargin({ inset: $event ? USUAL_INSET : null })"
    />
    <NumberField
      v-if="rule.margin_mark.inset !== null"
      label="From the edges of the sheet"
      unit="mm"
      :min="0"
      :max="200"
      :model-value="rule.margin_mark.inset"
      @update:model-value="setMargin({ inset: $event })"
    />
    <span class="quiet">its corner is the preset’s, on the paper in place of the photo</span>
  </template>
</template>
