<script setup lang="ts" generic="Choice extends string">
import { vRadioKeys } from './radioKeys.ts';

/** A short row of words of which one holds. */
defineProps<{
  label: string;
  options: readonly { readonly value: Choice; readonly label: string; readonly title?: string }[];
}>();
const chosen = defineModel<Choice>({ required: true });
</script>

<template>
  <span v-radio-keys class="pick" role="radiogroup" :aria-label="label">
    <button
      v-for="{ value, label: word, title } in options"
      :key="value"
      type="button"
      role="radio"
      :title="title"
      :aria-checked="chosen === value"
      @click="chosen = value"
    >
      {{ word }}
    </button>
  </span>
</template>

<style scoped>
.pick {
  display: inline-flex;
  gap: 2px;
}

button {
  background: none;
  border: 0;
  border-radius: 3px;
  color: inherit;
  padding: 2px 7px;
  white-space: nowrap;
}

button:hover {
  background: color-mix(in srgb, currentcolor 12%, transparent);
}

button[aria-checked='true'] {
  background: var(--lc-pick);
  color: var(--lc-on-pick);
}

@media (max-width: 1160px) {
  button {
    padding-inline: 5px;
  }
}
</style>
