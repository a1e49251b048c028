<script setup lang="ts">
import { computed } from 'vue';
import PickOne from '../ui/PickOne.vue';

/** Whom the bench speaks to: all photos of the batch, or those in hand. */
const props = defineProps<{ all: number; some: number; isLooking: boolean }>();
const speaksToAll = defineModel<boolean>({ required: true });

const options = computed(() => [
  { value: 'all' as const, label: `all ${props.all}`, title: 'The bench changes the preset' },
  {
    value: 'some' as const,
    label: props.isLooking ? 'this photo' : `the ${props.some} selected`,
    title: 'The bench adjusts these photos, the rest of them follows the preset',
  },
]);
</script>

<template>
  <span class="scope number">
    <span class="quiet">applies to</span>
    <PickOne
      label="The bench applies to"
      :options="options"
      :model-value="speaksToAll ? 'all' : 'some'"
      @update:model-value="speaksToAll = $event === 'all'"
    />
  </span>
</template>

<style scoped>
.scope {
  align-items: center;
  display: flex;
  gap: 6px;
  margin-right: 10px;
  white-space: nowrap;
}
</style>
