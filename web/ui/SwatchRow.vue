<script setup lang="ts" generic="Colour extends string">
import { computed } from 'vue';
import { vRadioKeys } from './radioKeys.ts';

/** Colours as swatches of which one holds, or several, and any other by the browser's own picker. */
const props = defineProps<{
  label: string;
  options: readonly { readonly value: Colour; readonly label: string; readonly swatch: string }[];
  chosen: readonly Colour[];
  /** Several may hold: each goes in or out by itself. */
  several?: boolean;
  /** Offers any other colour, too. */
  hasOther?: boolean;
}>();
const emit = defineEmits<{ choose: [value: Colour]; other: [colour: string] }>();

const USUAL_COLOUR = '#8f6220';
const other = computed(
  () =>
    props.chosen.find((value) => !props.options.some((option) => option.value === value)) ?? null,
);
</script>

<template>
  <span class="swatches">
    <span
      v-radio-keys
      class="swatches"
      :role="several ? 'group' : 'radiogroup'"
      :aria-label="label"
    >
      <button
        v-for="option in options"
        :key="option.value"
        type="button"
        class="swatch"
        :role="several ? 'checkbox' : 'radio'"
        :aria-checked="chosen.includes(option.value)"
        :aria-label="option.label"
        :title="option.label"
        :style="{ background: option.swatch }"
        @click="emit('choose', option.value)"
      />
    </span>
    <label
      v-if="hasOther"
      class="swatch other"
      :class="{ on: other }"
      title="Any colour"
      :style="other ? { background: other } : {}"
    >
      <input
        type="color"
        :aria-label="`${label}: any colour`"
        :value="other ?? USUAL_COLOUR"
        @input="emit('other', ($event.target as HTMLInputElement).value)"
      />
      <span v-if="!other" aria-hidden="true">+</span>
    </label>
  </span>
</template>

<style scoped>
.swatches {
  align-items: center;
  display: inline-flex;
  flex-wrap: wrap;
  gap: 6px;
}

/* What can be hit is 24 px wide; what is seen is a little less. */
.swatch {
  background-clip: padding-box !important;
  border: 1px solid transparent;
  border-radius: 50%;
  box-shadow: inset 0 0 0 1px var(--lc-swatch-rim);
  cursor: pointer;
  height: 24px;
  padding: 0;
  position: relative;
  width: 24px;
}

.swatch[aria-checked='true'],
.swatch.on {
  box-shadow:
    inset 0 0 0 1px var(--lc-swatch-rim),
    0 0 0 2px var(--lc-paper),
    0 0 0 4px var(--lc-brass-light);
}

.other {
  border: 1px dashed var(--lc-swatch-rim);
  box-shadow: none;
  color: var(--lc-ink-quiet);
  display: grid;
  line-height: 1;
  place-items: center;
}

.other input {
  cursor: pointer;
  inset: 0;
  opacity: 0;
  position: absolute;
}

.other:focus-within {
  outline: 2px solid var(--lc-focus);
  outline-offset: 2px;
}
</style>
