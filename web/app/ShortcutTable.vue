<script setup lang="ts">
import { useShortcuts } from './shortcuts.ts';

/** The shortcuts as they are set. */
const shortcuts = useShortcuts();
</script>

<template>
  <dl class="list">
    <template v-for="{ keys, does } in shortcuts" :key="does">
      <dt>
        <kbd v-for="key in keys" :key="key">{{ key }}</kbd>
      </dt>
      <dd>{{ does }}</dd>
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

dt {
  display: flex;
  gap: 4px;
}

dd {
  margin: 0;
}
</style>
