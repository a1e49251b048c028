<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { ref } from 'vue';
import { actionOf } from './shortcuts.ts';
import ShortcutTable from './ShortcutTable.vue';

const isOpen = ref(false);
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (actionOf(event) !== 'help') return;
  event.preventDefault();
  isOpen.value = true;
});
</script>

<template>
  <BModal v-model="isOpen" title-tag="h2" title="Shortcuts" no-footer scrollable>
    <ShortcutTable />
  </BModal>
</template>
