<script setup lang="ts">
import { computed } from 'vue';
import { clamp } from '#core/placement/geometry';
import NumberField from './NumberField.vue';

/** A slider with ticks and the exact number beside it; the number may go further than the slider. */
const props = withDefaults(
  defineProps<{
    modelValue: number;
    label: string;
    unit?: string;
    /** Ends of the slider. */
    from: number;
    to: number;
    /** Ends of the number, where it may go further. */
    min?: number;
    max?: number;
    step?: number;
    decimals?: number;
    ticks?: readonly number[];
  }>(),
  { unit: '', step: 1, decimals: 1, ticks: () => [] },
);
const emit = defineEmits<{ 'update:modelValue': [value: number] }>();

const share = (value: number): number =>
  clamp((value - props.from) / (props.to - props.from), 0, 1) * 100;
const filled = computed(() => `${share(props.modelValue)}%`);
const zero = computed(() => `${share(Math.max(0, props.from))}%`);
const low = computed(() => (share(props.modelValue) < share(0) ? filled.value : zero.value));
const high = computed(() => (share(props.modelValue) < share(0) ? zero.value : filled.value));

function slide(event: Event): void {
  emit('update:modelValue', Number((event.target as HTMLInputElement).value));
}
</script>

<template>
  <div class="range">
    <span class="slider" :style="{ '--low': low, '--high': high }">
      <span class="ticks" aria-hidden="true">
        <i v-for="tick in ticks" :key="tick" :style="{ left: `${share(tick)}%` }" />
      </span>
      <input
        type="range"
        :min="from"
        :max="to"
        :step="step"
        :value="modelValue"
        :aria-label="label"
        @input="slide"
      />
    </span>
    <NumberField
      :model-value="modelValue"
      :label="`${label}, exact`"
      :unit="unit"
      :min="min ?? from"
      :max="max ?? to"
      :step="step"
      :decimals="decimals"
      @update:model-value="emit('update:modelValue', $event)"
    />
  </div>
</template>

<style scoped>
.range {
  align-items: center;
  display: flex;
  gap: 12px;
}

.slider {
  flex: 1;
  height: 27px;
  min-width: 60px;
  position: relative;
}

.ticks {
  inset: 0 8px;
  position: absolute;
}

.ticks i {
  background: var(--lc-line);
  bottom: 2px;
  height: 4px;
  position: absolute;
  width: 1px;
}

input {
  appearance: none;
  background: none;
  cursor: pointer;
  height: 100%;
  inset: 0;
  margin: 0;
  position: absolute;
  width: 100%;
}

input::-webkit-slider-runnable-track {
  background: linear-gradient(
    to right,
    #cfc7b4 var(--low),
    var(--lc-ink) var(--low) var(--high),
    #cfc7b4 var(--high)
  );
  border-radius: 2px;
  height: 3px;
}

input::-moz-range-track {
  background: var(--lc-track);
  height: 3px;
}

input::-webkit-slider-thumb {
  appearance: none;
  background: var(--lc-card);
  border: 2px solid var(--lc-ink);
  border-radius: 50%;
  height: 17px;
  margin-top: -7px;
  width: 17px;
}

input:hover::-webkit-slider-thumb {
  background: var(--lc-brass-pale);
}

/* The ring stands round what is moved. */
input[type='range']:focus-visible {
  box-shadow: none !important;
  outline: none !important;
}

input[type='range']:focus-visible::-webkit-slider-thumb {
  box-shadow: 0 0 0 5px var(--lc-focus-rim);
  outline: 2px solid var(--lc-focus);
  outline-offset: 1px;
}

@media (max-width: 1160px) {
  .range {
    gap: 8px;
  }

  .range :deep(.field) {
    width: 58px;
  }
}
</style>
