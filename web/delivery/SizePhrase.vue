<script setup lang="ts">
import { computed } from 'vue';
import {
  DPI_MAX,
  OUTPUT_MAX_MEGAPIXELS,
  OUTPUT_SIDE_MAX_PX,
  RESIZE_RULES,
  SHARPENINGS,
  type DeliveryRule,
  type ResizeRule,
} from '#core/contract/delivery';
import { resizeBy } from '#core/delivery/resizeBy';
import NumberField from '../ui/NumberField.vue';
import ToggleField from '../ui/ToggleField.vue';
import WordSelect from '../ui/WordSelect.vue';
import { SHARPEN_TEXTS } from './deliveryText.ts';

type SizeRule = Pick<DeliveryRule, 'resize' | 'sharpen' | 'dpi'>;

/** How large the files of a delivery are, how they are sharpened for that, and their tag for printers. */
const rule = defineModel<SizeRule>({ required: true });
const resize = computed({
  get: () => rule.value.resize,
  set: (now) => (rule.value = { ...rule.value, resize: now }),
});

const RULE_LABELS: Readonly<Record<ResizeRule['rule'], string>> = {
  'long-side': 'long side',
  'short-side': 'short side',
  width: 'width',
  height: 'height',
  within: 'within a box',
  megapixels: 'megapixels',
};

const SHARPEN_WORDS = SHARPENINGS.map((value) => ({ value, label: SHARPEN_TEXTS[value] }));

/** What printers ask for most. */
const USUAL_DPI = 300;

function setRule(value: string): void {
  const rule = RESIZE_RULES.find((some) => some === value) ?? null;
  resize.value = rule && resizeBy(resize.value, rule);
}

function setResize(part: Partial<ResizeRule>): void {
  if (resize.value) resize.value = { ...resize.value, ...part };
}
</script>

<template>
  <select
    class="form-select narrow"
    aria-label="Resize by"
    :value="resize?.rule ?? ''"
    @change="setRule(($event.target as HTMLSelectElement).value)"
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
  <WordSelect
    v-if="resize"
    label="Sharpening"
    hides-label
    :options="SHARPEN_WORDS"
    :model-value="rule.sharpen"
    @update:model-value="rule = { ...rule, sharpen: $event }"
  />
  <ToggleField
    label="tagged for printing"
    :model-value="rule.dpi !== null"
    @update:model-value="rule = { ...rule, dpi: $event ? USUAL_DPI : null }"
  />
  <NumberField
    v-if="rule.dpi !== null"
    label="Pixels an inch"
    unit="dpi"
    :model-value="rule.dpi"
    :min="1"
    :max="DPI_MAX"
    :decimals="0"
    @update:model-value="rule = { ...rule, dpi: Math.round($event) }"
  />
</template>

<style scoped>
.form-select {
  width: auto;
}

.wide {
  width: 96px;
}
</style>
