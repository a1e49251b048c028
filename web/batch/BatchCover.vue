<script setup lang="ts">
import type { BatchView } from '#core/contract/http';
import { agoText, counted } from '../ui/format.ts';

/** A batch as its first photo, with its name; leads to it. */
defineProps<{ batch: BatchView }>();
</script>

<template>
  <RouterLink :to="`/batches/${batch.id}`" class="cover d-grid text-decoration-none">
    <img v-if="batch.coverId" :src="`/api/photos/${batch.coverId}/tile`" alt="" loading="lazy" />
    <span v-else class="blank quiet">no photos</span>
    <b class="serif text-truncate" :title="batch.name">{{ batch.name }}</b>
    <span class="quiet number"
      >{{ counted(batch.photoCount, 'photo') }}, opened {{ agoText(batch.openedAt) }}</span
    >
    <slot />
  </RouterLink>
</template>

<style scoped>
.cover {
  align-content: start;
  color: var(--lc-ink);
}

img,
.blank {
  align-content: center;
  aspect-ratio: 3 / 2;
  background: var(--lc-paper-deep);
  border-radius: 3px;
  margin-bottom: 9px;
  object-fit: cover;
  text-align: center;
  width: 100%;
}

b {
  font-size: 1.1rem;
  font-weight: 500;
}

.cover:hover b {
  color: var(--lc-brass-deep);
}
</style>
