<script setup lang="ts">
import { useShortcuts } from './shortcuts.ts';

/** The shortcuts as they are set. */
const shortcuts = useShortcuts();
</script>

<template>
  <dl class="list">
    <template v-for="{ keys, does } in shortcuts" :key="does">
      <dt class="d-flex gap-1">
        <kbd v-for="key in keys" :key="key">{{ key }}</kbd>
      </dt>
      <dd class="m-0">{{ does }}</dd>
    </template>
  </dl>
</template>

<style scoped>
.list {
  align-items: baseline;
  display: grid;
  gap: 7px 16px;
  grid-template-columns: auto 1fr;
  margin: 0;
}
</style>
