<script setup lang="ts">
import { computed } from 'vue';
import { SHEET_LIES, type SheetRule } from '#core/contract/sheet';
import { PAPER_NAMES, PAPERS } from '#core/sheet/papers';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import WordSelect from '../ui/WordSelect.vue';
import { LIES_TEXTS, PAPER_TEXTS } from './sheetText.ts';

/** The paper of a delivery: its size, how it lies, and what stays free at its edges. */
const rule = defineModel<SheetRule>({ required: true });

const OWN = 'own';
const papers = [
  ...PAPER_NAMES.map((value) => ({ value: value as string, label: PAPER_TEXTS[value] })),
  { value: OWN, label: 'its own size' },
];
const LIES = SHEET_LIES.map((value) => ({ value, label: LIES_TEXTS[value] }));
const SIDES = ['top', 'right', 'bottom', 'left'] as const;

const own = computed(() => (typeof rule.value.paper === 'string' ? null : rule.value.paper));

function set(part: Partial<SheetRule>): void {
  rule.value = { ...rule.value, ...part };
}

function setPaper(value: string): void {
  const name = PAPER_NAMES.find((one) => one === value);
  const { paper } = rule.value;
  // Its own size begins with that of the paper it had.
  const present = typeof paper === 'string' ? PAPERS[paper] : paper;
  set({ paper: name ?? { width: present.width, height: present.height } });
}
</script>

<template>
  <WordSelect
    label="Paper"
    hides-label
    :options="papers"
    :model-value="own ? OWN : (rule.paper as string)"
    @update:model-value="setPaper"
  />
  <template v-if="own">
    <NumberField
      v-for="side in ['width', 'height'] as const"
      :key="side"
      :label="side === 'width' ? 'Width' : 'Height'"
      unit="mm"
      :min="20"
      :max="2000"
      :model-value="own[side]"
      @update:model-value="set({ paper: { ...own, [side]: $event } })"
    />
  </template>
  <PickOne
    label="How it lies"
    :options="LIES"
    :model-value="rule.lies"
    @update:model-value="set({ lies: $event })"
  />
  <span class="margins align-items-center d-flex flex-wrap">
    <span class="quiet">free at the edges</span>
    <label v-for="side in SIDES" :key="side" class="align-items-center d-flex gap-1">
      {{ side }}
      <NumberField
        :label="`Margin, ${side}`"
        unit="mm"
        :min="0"
        :max="200"
        :model-value="rule.margin[side]"
        @update:model-value="set({ margin: { ...rule.margin, [side]: $event } })"
      />
    </label>
  </span>
</template>

<style scoped>
.margins {
  gap: 6px 14px;
}
</style>
