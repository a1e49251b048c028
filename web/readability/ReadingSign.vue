<script setup lang="ts">
import type { ReadabilityClass } from '#core/readability/measure';

/** Clear, faint or lost: each a shape of its own, never colour alone. */
defineProps<{ kind: ReadabilityClass }>();
</script>

<template>
  <svg class="reading-sign" :class="kind" viewBox="0 0 16 16" aria-hidden="true">
    <circle cx="8" cy="8" r="6" />
    <path v-if="kind === 'faint'" d="M8 2a6 6 0 0 0 0 12z" />
  </svg>
</template>

<style scoped>
.reading-sign {
  display: block;
  flex: none;
  height: 1em;
  overflow: visible;
  width: 1em;
}

circle {
  fill: none;
  stroke: currentcolor;
  stroke-width: 2;
}

path {
  fill: currentcolor;
}

.clear {
  color: var(--lc-clear);
}

.clear circle {
  fill: currentcolor;
}

.faint {
  color: var(--lc-faint);
}

.lost {
  color: var(--lc-lost);
}
</style>
