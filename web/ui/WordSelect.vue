<script setup lang="ts" generic="Choice extends string">
/** One of several words, from a list that opens; with the word for what is chosen before it. */
const props = defineProps<{
  label: string;
  options: readonly { readonly value: Choice; readonly label: string }[];
  /** The choices speak for themselves. */
  hidesLabel?: boolean;
}>();
const chosen = defineModel<Choice>({ required: true });

function choose(event: Event): void {
  const { value } = event.target as HTMLSelectElement;
  chosen.value = props.options.find((option) => option.value === value)?.value ?? chosen.value;
}
</script>

<template>
  <label class="align-items-center d-flex gap-2">
    <span :class="{ 'visually-hidden': hidesLabel }">{{ label }}</span>
    <select class="form-select w-auto" :value="chosen" @change="choose">
      <option v-for="option in options" :key="option.value" :value="option.value">
        {{ option.label }}
      </option>
    </select>
  </label>
</template>
