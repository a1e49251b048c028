<script setup lang="ts">
/** A small ring that fills; beside it stands what it means. */
defineProps<{ share: number }>();

const RADIUS = 7;
const LENGTH = 2 * Math.PI * RADIUS;
</script>

<template>
  <svg viewBox="0 0 20 20" width="20" height="20" aria-hidden="true">
    <circle cx="10" cy="10" :r="RADIUS" fill="none" stroke="#d9d2c2" stroke-width="3.5" />
    <circle
      cx="10"
      cy="10"
      :r="RADIUS"
      fill="none"
      stroke="#1c7263"
      stroke-width="3.5"
      :stroke-dasharray="`${LENGTH * share} ${LENGTH}`"
      transform="rotate(-90 10 10)"
    />
  </svg>
</template>
