<script setup lang="ts">
import { vRadioKeys } from '../ui/radioKeys.ts';
import IconDropper from '~icons/tabler/color-picker';
import type { ToneChoice } from '#core/contract/preset';
import type { ToneOption } from './useTones.ts';

/** The tones as swatches, and a dropper for a new one. */
defineProps<{ tones: readonly ToneOption[]; label: string }>();
defineEmits<{ drop: [] }>();
const tone = defineModel<ToneChoice>({ required: true });
</script>

<template>
  <span class="row-of-tones">
    <span v-radio-keys class="tones" role="radiogroup" :aria-label="label">
      <button
        v-for="option in tones"
        :key="option.tone"
        type="button"
        class="swatch"
        role="radio"
        :aria-checked="option.tone === tone"
        :aria-label="option.label"
        :title="option.label"
        :style="{ background: option.swatch }"
        @click="tone = option.tone"
      />
    </span>
    <button
      type="button"
      class="dropper"
      title="A tone from a photo"
      aria-label="A tone from a photo"
      @click="$emit('drop')"
    >
      <IconDropper aria-hidden="true" />
    </button>
  </span>
</template>

<style scoped>
.tones {
  align-items: center;
  display: flex;
  flex: none;
  gap: 9px;
}

.row-of-tones {
  align-items: center;
  display: flex;
  flex: none;
  gap: 9px;
  margin-left: auto;
}

.swatch {
  border: 1px solid #b9b09a;
  border-radius: 50%;
  height: 20px;
  padding: 0;
  width: 20px;
}

.swatch[aria-checked='true'] {
  box-shadow:
    0 0 0 2px var(--lc-card),
    0 0 0 4px var(--lc-brass-light);
}

.dropper {
  background: none;
  border: 0;
  color: var(--lc-ink-quiet);
  font-size: 1.05rem;
  line-height: 1;
  padding: 2px;
}

.dropper:hover {
  color: var(--lc-brass-deep);
}
</style>
