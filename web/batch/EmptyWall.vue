<script setup lang="ts">
import EmptyState from '../ui/EmptyState.vue';

/** Where a wall would be: photos are waited for, none is among those shown, or there is none at all. */
defineProps<{
  /** Why none of the photos is shown, or null where there is none. */
  title: string | null;
  /** What is waited for, or null. */
  waitsFor: string | null;
}>();
defineEmits<{ all: []; files: []; folder: [] }>();
</script>

<template>
  <EmptyState
    v-if="title"
    :title="title"
    text="The wall shows only those, and there is none among them any more."
  >
    <button class="btn btn-outline-secondary" type="button" @click="$emit('all')">
      Show all photos
    </button>
  </EmptyState>
  <p v-else-if="waitsFor" class="waiting text-center">{{ waitsFor }}</p>
  <EmptyState
    v-else
    title="No photos yet"
    text="Drop photos or a folder here. They are copied in; your own files are never changed."
  >
    <button class="btn btn-outline-secondary" type="button" @click="$emit('files')">
      Choose photos
    </button>
    <button class="btn btn-outline-secondary" type="button" @click="$emit('folder')">
      Choose a folder
    </button>
  </EmptyState>
</template>

<style scoped>
.waiting {
  padding-top: 12vh;
}
</style>
