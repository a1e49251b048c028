<script setup lang="ts">
import { onScopeDispose } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import { onBack } from '../api/connection.ts';

/** A view that could not be shown: what happened and what can be done. */
const props = defineProps<{ text: string; action?: string }>();
const emit = defineEmits<{ act: [] }>();

/** What only had to wait for the server is tried again when that is back. */
const TRY_AGAIN = 'Try again';
onScopeDispose(onBack(() => props.action === TRY_AGAIN && emit('act')));
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
