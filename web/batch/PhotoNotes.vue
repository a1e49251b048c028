<script setup lang="ts">
import { computed, ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { counted } from '../ui/format.ts';
import TrayPanel from '../ui/TrayPanel.vue';

/** Photos that are not as they were when they came in: changed on disk, moved or deleted. */
const props = defineProps<{ photos: readonly PhotoView[] }>();
const isOpen = ref(false);
const noted = computed(() => props.photos.filter(({ note }) => note !== null));
</script>

<template>
  <TrayPanel v-if="noted.length > 0" label="Changed on disk">
    <template #line>
      <span role="status">{{ counted(noted.length, 'photo') }} not as when added</span>
      <button class="btn btn-link" type="button" :aria-expanded="isOpen" @click="isOpen = !isOpen">
        {{ isOpen ? 'Hide' : 'Which' }}
      </button>
    </template>
    <ul v-if="isOpen">
      <li v-for="photo in noted" :key="photo.id">
        <b>{{ photo.name }}</b> {{ photo.note }}
      </li>
    </ul>
  </TrayPanel>
</template>

<style scoped>
b {
  color: var(--lc-ink);
  font-weight: 600;
}
</style>
