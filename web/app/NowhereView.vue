<script setup lang="ts">
import EmptyState from '../ui/EmptyState.vue';
</script>

<template>
  <EmptyState
    is-whole
    title="Nothing is here"
    text="The address is wrong, or what it led to is gone."
  >
    <RouterLink class="btn btn-outline-secondary" to="/">To the start</RouterLink>
  </EmptyState>
</template>
