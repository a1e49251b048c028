<script setup lang="ts">
import { computed, ref } from 'vue';
import { clamp } from '#core/placement/geometry';

/** An exact number with its unit. Arrows step it, Escape puts back what was there. */
const props = withDefaults(
  defineProps<{
    modelValue: number;
    label: string;
    unit?: string;
    min: number;
    max: number;
    step?: number;
    decimals?: number;
    disabled?: boolean;
  }>(),
  { unit: '', step: 1, decimals: 1, disabled: false },
);
const emit = defineEmits<{ 'update:modelValue': [value: number] }>();

const SHIFT_FACTOR = 10;
const typed = ref<string | null>(null);
const shown = computed(() => typed.value ?? String(rounded(props.modelValue)));
const isWrong = computed(() => typed.value !== null && parse(typed.value) === null);

function rounded(value: number): number {
  const factor = 10 ** props.decimals;
  return Math.round(value * factor) / factor;
}

function parse(text: string): number | null {
  const value = Number(
    text
      .trim()
      .replace(',', '.')
      .replace(/\s*[%°a-z]*$/i, ''),
  );
  if (text.trim() === '' || !Number.isFinite(value)) return null;
  return value >= props.min && value <= props.max ? value : null;
}

function input(event: Event): void {
  typed.value = (event.target as HTMLInputElement).value;
  const value = parse(typed.value);
  if (value !== null) emit('update:modelValue', value);
}

function leave(): void {
  typed.value = null;
}

function stepBy(event: KeyboardEvent, direction: 1 | -1): void {
  const by = props.step * direction * (event.shiftKey ? SHIFT_FACTOR : 1);
  typed.value = null;
  emit('update:modelValue', clamp(rounded(props.modelValue + by), props.min, props.max));
}
</script>

<template>
  <span class="field" :class="{ wrong: isWrong, disabled }">
    <input
      class="number"
      type="text"
      inputmode="decimal"
      :value="shown"
      :aria-label="label"
      :aria-invalid="isWrong"
      :title="isWrong ? `From ${min} to ${max}` : label"
      :disabled="disabled"
      @input="input"
      @blur="leave"
      @keydown.enter="leave"
      @keydown.esc.stop="leave"
      @keydown.up.prevent="stepBy($event, 1)"
      @keydown.down.prevent="stepBy($event, -1)"
      @focus="($event.target as HTMLInputElement).select()"
    />
    <span v-if="unit" class="unit" aria-hidden="true">{{ unit }}</span>
  </span>
</template>

<style scoped>
.field {
  align-items: center;
  background: var(--lc-card);
  border: 1px solid var(--lc-hairline);
  border-radius: var(--lc-radius);
  color: var(--lc-ink);
  display: inline-flex;
  height: 27px;
  padding: 0 7px 0 2px;
  width: 70px;
}

.field:focus-within {
  border-color: var(--lc-brass-light);
  box-shadow: 0 0 0 2px rgb(185 138 62 / 35%);
}

.field.wrong {
  border-color: var(--lc-lost);
}

.field.disabled {
  opacity: 0.5;
}

input {
  background: none;
  border: 0;
  color: inherit;
  min-width: 0;
  outline: none;
  padding: 0 3px 0 4px;
  text-align: right;
  width: 100%;
}

.unit {
  color: var(--lc-ink-quiet);
}
</style>
