<script setup lang="ts">
import { useTemplateRef } from 'vue';
import { useResource } from '../api/useResource.ts';
import EmptyState from '../ui/EmptyState.vue';
import ErrorState from '../app/ErrorState.vue';
import BatchCover from './BatchCover.vue';
import { useBatches } from './batches.ts';
import InboxSection from '../inbox/InboxSection.vue';
import { useLibrary } from '../app/library.ts';

const batches = useBatches();
const library = useLibrary();
const section = useTemplateRef('section');

const { problem, load } = useResource(() => batches.load());
</script>

<template>
  <ErrorState v-if="problem" :text="problem" action="Try again" @act="load" />
  <div v-else class="page">
    <header class="page-head">
      <h1>Batches</h1>
      <span v-if="batches.isLoaded" class="quiet number">{{ batches.batches.length }}</span>
      <button class="btn btn-outline-secondary ms-auto" type="button" @click="section?.begin()">
        Watch a folder
      </button>
    </header>
    <InboxSection ref="section" />
    <EmptyState
      v-if="batches.isLoaded && batches.batches.length === 0"
      title="No batches yet"
      text="A batch is made when photos are dropped on the start page, or a folder is read."
    >
      <RouterLink class="btn btn-primary" to="/">To the start</RouterLink>
    </EmptyState>
    <div class="grid">
      <BatchCover v-for="batch in batches.batches" :key="batch.id" :batch="batch">
        <span class="quiet text-truncate">{{
          library.presetOf(batch.presetId)?.name ?? 'no preset'
        }}</span>
      </BatchCover>
    </div>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  gap: 26px 22px;
  grid-template-columns: repeat(auto-fill, minmax(min(270px, 100%), 1fr));
}
</style>
