<script setup lang="ts">
import { vRadioKeys } from '../ui/radioKeys.ts';
import { computed } from 'vue';

/** Colours as swatches, and any other by the browser's own picker. */
const props = defineProps<{
  label: string;
  options: readonly { readonly value: string; readonly label: string; readonly swatch: string }[];
}>();
const chosen = defineModel<string>({ required: true });

const other = computed(() =>
  props.options.some(({ value }) => value === chosen.value) ? null : chosen.value,
);

function mix(event: Event): void {
  chosen.value = (event.target as HTMLInputElement).value;
}
</script>

<template>
  <div v-radio-keys class="row-of-colours" role="radiogroup" :aria-label="label">
    <button
      v-for="option in options"
      :key="option.value"
      type="button"
      class="swatch"
      role="radio"
      :aria-checked="option.value === chosen"
      :aria-label="option.label"
      :title="option.label"
      :style="{ background: option.swatch }"
      @click="chosen = option.value"
    />
    <label
      class="swatch other"
      :class="{ on: other }"
      title="Any colour"
      :style="other ? { background: other } : {}"
    >
      <input type="color" aria-label="Any colour" :value="other ?? '#8f6220'" @input="mix" />
      <span v-if="!other" aria-hidden="true">+</span>
    </label>
  </div>
</template>

<style scoped>
.row-of-colours {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}

.swatch {
  border: 1px solid #b9b09a;
  border-radius: 50%;
  cursor: pointer;
  height: 21px;
  padding: 0;
  position: relative;
  width: 21px;
}

.swatch[aria-checked='true'],
.swatch.on {
  box-shadow:
    0 0 0 2px var(--lc-paper),
    0 0 0 4px var(--lc-brass-light);
}

.other {
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
  outline: 2px solid var(--lc-brass-light);
  outline-offset: 2px;
}
</style>
