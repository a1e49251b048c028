<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { ref } from 'vue';
import { droppedFiles } from './droppedFiles.ts';
import { isModal } from './keyTargets.ts';
import { dropSentence, dropTarget } from './windowDrop.ts';

/**
 * Files dragged over the window: what becomes of them is said over all of it, and none is opened by the
 * browser. A place of its own within a view (a ticket) takes its files before they come here.
 */
const isOver = ref(false);

const hasFiles = (event: DragEvent): boolean =>
  event.dataTransfer?.types.includes('Files') === true;

useEventListener(window, 'dragover', (event: DragEvent) => {
  if (!hasFiles(event)) return;
  event.preventDefault();
  const isTaken = dropTarget.value !== null && !isModal();
  if (event.dataTransfer) event.dataTransfer.dropEffect = isTaken ? 'copy' : 'none';
  isOver.value = isTaken;
});
useEventListener(window, 'dragleave', (event: DragEvent) => {
  // Between elements there is always a next one; out of the window there is none.
  if (event.relatedTarget === null) isOver.value = false;
});
// Before any place of its own takes the files and stops the event.
useEventListener(window, 'drop', () => (isOver.value = false), { capture: true });
useEventListener(window, 'drop', (event: DragEvent) => {
  if (!hasFiles(event)) return;
  event.preventDefault();
  if (!event.dataTransfer || isModal()) return;
  const target = dropTarget.value;
  void droppedFiles(event.dataTransfer).then((dropped) => {
    if (dropped.files.length > 0) target?.take(dropped);
  });
});
</script>

<template>
  <div v-if="isOver" class="drop" aria-hidden="true">
    <span class="serif">{{ dropSentence }}</span>
  </div>
</template>

<style scoped>
.drop {
  align-items: flex-end;
  border: 5px solid var(--lc-brass-light);
  display: flex;
  inset: 0;
  justify-content: center;
  padding: 22px;
  /* Places of their own below it stay reachable. */
  pointer-events: none;
  position: fixed;
  z-index: 2000;
}

.drop span {
  background: var(--lc-ink);
  border-radius: var(--lc-radius);
  box-shadow: var(--lc-lift);
  color: var(--lc-card);
  font-size: 1.2rem;
  padding: 8px 22px;
}
</style>
