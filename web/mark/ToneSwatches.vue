<script setup lang="ts">
import IconDropper from '~icons/tabler/color-picker';
import type { ToneChoice } from '#core/contract/preset';
import SwatchRow from '../ui/SwatchRow.vue';
import type { ToneOption } from './useTones.ts';

/** The tones as swatches, and a dropper for a new one. */
defineProps<{ tones: readonly ToneOption[]; label: string }>();
defineEmits<{ drop: [] }>();
const tone = defineModel<ToneChoice>({ required: true });
</script>

<template>
  <span class="row-of-tones">
    <SwatchRow :label="label" :options="tones" :chosen="[tone]" @choose="tone = $event" />
    <button
      type="button"
      class="dropper bg-transparent border-0 p-1"
      title="A tone from a photo"
      aria-label="A tone from a photo"
      @click="$emit('drop')"
    >
      <IconDropper aria-hidden="true" />
    </button>
  </span>
</template>

<style scoped>
.row-of-tones {
  align-items: center;
  display: flex;
  flex: none;
  gap: 9px;
}

.dropper {
  color: var(--lc-ink-quiet);
  font-size: 1.05rem;
  line-height: 1;
}

.dropper:hover {
  color: var(--lc-brass-deep);
}
</style>
