<script setup lang="ts">
import { ref } from 'vue';
import { chosenFiles, droppedFiles, type Dropped } from './droppedFiles.ts';

/** A place where files can be dropped; without a mouse they are chosen with its buttons. */
defineProps<{ label: string }>();
const emit = defineEmits<{ dropped: [dropped: Dropped] }>();

const depth = ref(0);
const files = ref<HTMLInputElement | null>(null);
const folder = ref<HTMLInputElement | null>(null);

async function drop(event: DragEvent): Promise<void> {
  depth.value = 0;
  if (!event.dataTransfer) return;
  const dropped = await droppedFiles(event.dataTransfer);
  if (dropped.files.length > 0) emit('dropped', dropped);
}

function chosen(event: Event): void {
  const input = event.target as HTMLInputElement;
  const dropped = chosenFiles(input.files);
  input.value = '';
  if (dropped.files.length > 0) emit('dropped', dropped);
}

defineExpose({
  chooseFiles: () => files.value?.click(),
  chooseFolder: () => folder.value?.click(),
});
</script>

<template>
  <div
    class="place"
    :class="{ over: depth > 0 }"
    :aria-label="label"
    role="group"
    @dragenter.prevent="depth++"
    @dragleave.prevent="depth--"
    @dragover.prevent
    @drop.prevent.stop="drop"
  >
    <slot :is-over="depth > 0" :choose-files="() => files?.click()" />
    <input
      ref="files"
      class="visually-hidden-input"
      type="file"
      multiple
      tabindex="-1"
      :aria-label="`${label}: files`"
      @change="chosen"
    />
    <input
      ref="folder"
      class="visually-hidden-input"
      type="file"
      webkitdirectory
      tabindex="-1"
      :aria-label="`${label}: folder`"
      @change="chosen"
    />
  </div>
</template>

<style scoped>
.place {
  position: relative;
}
</style>
