<script lang="ts">
/** Between presets that are laid over each other, in the value of a choice. */
const OVER = '+';

/** Presets as the value of a choice; the lowest first. */
export function marksValue(presetIds: readonly number[]): string {
  return presetIds.join(OVER);
}

export function marksOfValue(value: string): number[] {
  return value === '' ? [] : value.split(OVER).map(Number);
}
</script>

<script setup lang="ts">
import { computed } from 'vue';
import { useLibrary } from '../app/library.ts';
import { useMarkSets } from './markSets.ts';
import { presetsText } from './presetsText.ts';

/** One preset, or a set of several that are laid over each other. The slot has what else can be chosen. */
const props = defineProps<{
  label: string;
  value: string;
  /** What is chosen now, also where that is no saved set. */
  presetIds: readonly number[];
}>();
const emit = defineEmits<{ change: [value: string] }>();

const library = useLibrary();
const sets = useMarkSets();

/** The saved sets, and what is chosen, which may be none of them. */
const several = computed(() => {
  const { presetIds } = props;
  const saved = sets.sets
    .filter((set) => set.presetIds.length > 1)
    .map((set) => ({ value: marksValue(set.presetIds), name: set.name }));
  const chosen = marksValue(presetIds);
  if (presetIds.length < 2 || saved.some(({ value }) => value === chosen)) return saved;
  return [...saved, { value: chosen, name: presetsText(presetIds, library) }];
});

const valueOf = (event: Event): string => (event.target as HTMLSelectElement).value;
</script>

<template>
  <select
    class="form-select"
    :aria-label="label"
    :value="value"
    @change="emit('change', valueOf($event))"
  >
    <slot />
    <option v-for="preset in library.presets" :key="preset.id" :value="String(preset.id)">
      {{ preset.name }}
    </option>
    <optgroup v-if="several.length > 0" label="Several over each other">
      <option v-for="one in several" :key="one.value" :value="one.value">{{ one.name }}</option>
    </optgroup>
  </select>
</template>
