<script setup lang="ts">
import { SURROUNDS, type Surround } from '#core/contract/settings';
import { useLibrary } from '../stores/library.ts';
import { useNotices } from '../stores/notices.ts';

/** What photos are judged against. */
const library = useLibrary();
const notices = useNotices();

function choose(surround: Surround): void {
  void notices.attempt(() => library.saveSettings({ ...library.settings, surround }));
}
</script>

<template>
  <span class="switch" role="radiogroup" aria-label="Surround">
    <button
      v-for="surround in SURROUNDS"
      :key="surround"
      type="button"
      role="radio"
      :aria-checked="library.settings.surround === surround"
      @click="choose(surround)"
    >
      {{ surround }}
    </button>
  </span>
</template>

<style scoped>
.switch {
  display: inline-flex;
  gap: 2px;
}

button {
  background: none;
  border: 0;
  border-radius: 3px;
  color: inherit;
  padding: 1px 6px;
}

button[aria-checked='true'] {
  font-weight: 700;
  text-decoration: underline;
  text-decoration-thickness: 2px;
  text-underline-offset: 4px;
}
</style>
