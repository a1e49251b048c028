<script setup lang="ts">
import { nextTick, watch } from 'vue';
import { spoken } from '../ui/spoken.ts';
import { useRoute } from 'vue-router';

/**
 * Says to a screen reader which view came, and puts the focus at its beginning: without that it stays
 * on what is not there any more.
 */
defineProps<{ title: string }>();
const route = useRoute();

watch(
  () => [route.name, route.params.id, route.params.scanId],
  async () => {
    await nextTick();
    const active = document.activeElement;
    if (active && active !== document.body && active.closest('main')) return;
    document.querySelector<HTMLElement>('main')?.focus({ preventScroll: true });
  },
);
</script>

<template>
  <div>
    <p class="visually-hidden" role="status">{{ title }}</p>
    <p class="visually-hidden" role="status">{{ spoken }}</p>
  </div>
</template>
