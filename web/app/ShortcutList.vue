<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { ref } from 'vue';
import { actionOf } from './shortcuts.ts';
import ShortcutTable from './ShortcutTable.vue';
import { useKeys } from '../ui/useKeys.ts';

const isOpen = ref(false);
useKeys((event) => {
  if (actionOf(event) !== 'help') return false;
  isOpen.value = true;
  return true;
});
</script>

<template>
  <BModal v-model="isOpen" title-tag="h2" title="Shortcuts" no-footer scrollable>
    <ShortcutTable />
  </BModal>
</template>
