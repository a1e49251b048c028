<script setup lang="ts">
import { computed, ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { counted } from '../composables/format.ts';

/** Photos that are not as they were when they came in: changed on disk, moved or deleted. */
const props = defineProps<{ photos: readonly PhotoView[] }>();
const isOpen = ref(false);
const noted = computed(() => props.photos.filter(({ note }) => note !== null));
</script>

<template>
  <section v-if="noted.length > 0" class="notes" aria-label="Changed on disk">
    <div class="line">
      <span role="status">{{ counted(noted.length, 'photo') }} not as when added</span>
      <button class="btn btn-link" type="button" :aria-expanded="isOpen" @click="isOpen = !isOpen">
        {{ isOpen ? 'Hide' : 'Which' }}
      </button>
    </div>
    <ul v-if="isOpen">
      <li v-for="photo in noted" :key="photo.id">
        <b>{{ photo.name }}</b> {{ photo.note }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
.notes {
  background: var(--lc-card);
  border-top: 1px solid var(--lc-hairline);
  padding: 2px 18px;
}

.line {
  align-items: center;
  display: flex;
  gap: 12px;
  min-height: 30px;
}

ul {
  color: var(--lc-ink-quiet);
  list-style: none;
  margin: 0;
  max-height: 92px;
  overflow: auto;
  padding: 2px 0 6px;
}

b {
  color: var(--lc-ink);
  font-weight: 600;
}
</style>
