<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { sentenceOf } from '../api/client.ts';
import EmptyState from '../ui/EmptyState.vue';
import ErrorState from '../app/ErrorState.vue';
import { agoText, counted } from '../ui/format.ts';
import { useBatches } from './batches.ts';
import { useLibrary } from '../app/library.ts';

const batches = useBatches();
const library = useLibrary();
const problem = ref<string | null>(null);

async function load(): Promise<void> {
  problem.value = null;
  try {
    await batches.load();
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}
onMounted(load);
</script>

<template>
  <ErrorState v-if="problem" :text="problem" action="Try again" @act="load" />
  <div v-else class="page">
    <header class="page-head">
      <h1>Batches</h1>
      <span v-if="batches.isLoaded" class="quiet number">{{ batches.batches.length }}</span>
    </header>
    <EmptyState
      v-if="batches.isLoaded && batches.batches.length === 0"
      title="No batches yet"
      text="A batch is made when photos are dropped on the start page, or a folder is read."
    >
      <RouterLink class="btn btn-primary" to="/">To the start</RouterLink>
    </EmptyState>
    <div class="grid">
      <RouterLink
        v-for="batch in batches.batches"
        :key="batch.id"
        :to="`/batches/${batch.id}`"
        class="batch d-grid text-decoration-none"
      >
        <img
          v-if="batch.coverId"
          :src="`/api/photos/${batch.coverId}/tile`"
          alt=""
          loading="lazy"
        />
        <span v-else class="blank">no photos</span>
        <b class="serif" :title="batch.name">{{ batch.name }}</b>
        <span class="quiet number"
          >{{ counted(batch.photoCount, 'photo') }}, opened {{ agoText(batch.openedAt) }}</span
        >
        <span class="quiet preset">{{
          library.presetOf(batch.presetId)?.name ?? 'no preset'
        }}</span>
      </RouterLink>
    </div>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  gap: 26px 22px;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
}

.batch {
  color: var(--lc-ink);
}

img,
.blank {
  aspect-ratio: 3 / 2;
  background: var(--lc-paper-deep);
  border-radius: 3px;
  margin-bottom: 9px;
  object-fit: cover;
  width: 100%;
}

.blank {
  align-content: center;
  color: var(--lc-ink-quiet);
  text-align: center;
}

b {
  font-size: 1.1rem;
  font-weight: 500;
}

.batch:hover b {
  color: var(--lc-brass-deep);
}

b,
.preset {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
