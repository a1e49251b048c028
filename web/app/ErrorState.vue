<script setup lang="ts">
import { BButton } from 'bootstrap-vue-next/components/BButton';

/** A view that could not be shown: what happened and what can be done. */
defineProps<{ text: string; action?: string }>();
defineEmits<{ act: [] }>();
</script>

<template>
  <div class="error" role="alert">
    <h1>That did not work</h1>
    <p class="quiet">{{ text }}</p>
    <BButton v-if="action" variant="outline-secondary" @click="$emit('act')">{{ action }}</BButton>
  </div>
</template>

<style scoped>
h1 {
  font-size: 1.2rem;
}

.error {
  display: grid;
  gap: 12px;
  justify-items: center;
  margin: 14vh auto 0;
  max-width: 460px;
  text-align: center;
}
</style>
