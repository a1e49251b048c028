<script setup lang="ts">
import { computed } from 'vue';
import { SHOW_CHANGES, type ShowRule } from '#core/contract/show';
import { namePatternProblem } from '#core/delivery/namePattern';
import NumberField from '../ui/NumberField.vue';
import PickOne from '../ui/PickOne.vue';
import ToggleField from '../ui/ToggleField.vue';
import { SHOW_CHANGE_TEXTS } from './showText.ts';

/** How a show plays: its pace, its card, the lines under its photos. */
const rule = defineModel<ShowRule>({ required: true });

const CHANGES = SHOW_CHANGES.map((value) => ({ value, label: SHOW_CHANGE_TEXTS[value] }));
const TITLE_LETTERS = 120;
const title = computed(() => rule.value.title);
const caption = computed(() => rule.value.caption);

function set(part: Partial<ShowRule>): void {
  rule.value = { ...rule.value, ...part };
}

function setCaption(pattern: string): void {
  if (!namePatternProblem(pattern)) set({ caption: pattern });
}
</script>

<template>
  <label class="align-items-center d-flex gap-2">
    each photo for
    <NumberField
      label="Seconds a photo"
      unit="s"
      :min="1"
      :max="60"
      :model-value="rule.seconds"
      @update:model-value="set({ seconds: $event })"
    />
  </label>
  <PickOne
    label="From one to the next"
    :options="CHANGES"
    :model-value="rule.change"
    @update:model-value="set({ change: $event })"
  />
  <ToggleField
    label="over and over"
    :model-value="rule.loop"
    @update:model-value="set({ loop: $event })"
  />
  <ToggleField
    label="a card first"
    :model-value="title !== null"
    @update:model-value="set({ title: $event ? '' : null })"
  />
  <input
    v-if="title !== null"
    class="form-control words"
    aria-label="Words on the card"
    placeholder="the mark alone"
    :maxlength="TITLE_LETTERS"
    :value="title"
    @change="set({ title: ($event.target as HTMLInputElement).value.trim() })"
  />
  <ToggleField
    label="a line under each"
    :model-value="caption !== null"
    @update:model-value="set({ caption: $event ? '{name}' : null })"
  />
  <input
    v-if="caption !== null"
    class="form-control words"
    aria-label="Line under each photo"
    :value="caption"
    @change="setCaption(($event.target as HTMLInputElement).value)"
  />
</template>

<style scoped>
.words {
  max-width: 210px;
}
</style>
