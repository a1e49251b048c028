<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { computed } from 'vue';
import { isAway } from '../api/connection.ts';
import { useSaving } from './saving.ts';

/** Says quietly that something is not saved yet, or that the server is away; it goes by itself. */
const saving = useSaving();

/** What is saved within a moment needs no word. */
const PATIENCE_MS = 1_200;
const now = computed(() => {
  if (isAway.value) {
    return saving.waiting > 0 ? 'not saved yet, the server is away' : 'the server is away';
  }
  return saving.waiting > 0 ? 'not saved yet' : '';
});
const shown = refDebounced(now, PATIENCE_MS);
const text = computed(() => (now.value === '' ? '' : shown.value));
</script>

<template>
  <span class="sign" role="status"
    ><template v-if="text"><i aria-hidden="true" />{{ text }}</template></span
  >
</template>

<style scoped>
.sign {
  align-items: center;
  color: var(--lc-ink-quiet);
  display: inline-flex;
  font-size: 0.8125rem;
  gap: 6px;
  margin-left: auto;
  white-space: nowrap;
}

.sign i {
  background: var(--lc-brass-light);
  border-radius: 50%;
  height: 7px;
  width: 7px;
}

@media (max-width: 640px) {
  .sign {
    overflow: hidden;
    text-overflow: ellipsis;
  }
}
</style>
