<script setup lang="ts">
import { computed } from 'vue';
import { useDraft } from '../preset/draft.ts';
import PickOne from '../ui/PickOne.vue';
import type { Scope } from './useInHand.ts';

/** Whom the bench speaks to: all photos of the batch, those in hand, or the upright ones. */
const props = defineProps<{ all: number; some: number; upright: number; isLooking: boolean }>();
const scope = defineModel<Scope>({ required: true });

const draft = useDraft();
const options = computed(() => [
  { value: 'all' as const, label: `all ${props.all}`, title: 'The bench changes the preset' },
  ...(props.upright > 0
    ? [
        {
          value: 'upright' as const,
          label: `upright ${props.upright}`,
          title: 'Size, place and angle that the preset has for photos taller than wide',
        },
      ]
    : []),
  ...(props.some > 0
    ? [
        {
          value: 'some' as const,
          label: props.isLooking ? 'this photo' : `the ${props.some} selected`,
          title: 'The bench adjusts these photos, the rest of them follows the preset',
        },
      ]
    : []),
]);
const isOwn = computed(() => scope.value === 'upright' && draft.baseRule.upright !== null);
</script>

<template>
  <span v-if="options.length > 1" class="scope number">
    <button
      v-if="isOwn"
      type="button"
      class="btn btn-link"
      title="Upright photos follow the rule of all again"
      @click="draft.change({ upright: null })"
    >
      Same as all
    </button>
    <span class="quiet">applies to</span>
    <PickOne v-model="scope" label="The bench applies to" :options="options" />
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
