<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { ref } from 'vue';
import { isModal, isTyping } from '../ui/keyTargets.ts';
import { SHORTCUTS } from './shortcuts.ts';

const isOpen = ref(false);
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.key !== '?' || isTyping(event.target) || isModal()) return;
  event.preventDefault();
  isOpen.value = true;
});
</script>

<template>
  <BModal v-model="isOpen" title="Shortcuts" no-footer scrollable>
    <dl class="list">
      <template v-for="{ keys, does } in SHORTCUTS" :key="does">
        <dt>
          <kbd v-for="key in keys" :key="key">{{ key }}</kbd>
        </dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
  </BModal>
</template>

<style scoped>
.list {
  align-items: baseline;
  display: grid;
  gap: 8px 16px;
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
