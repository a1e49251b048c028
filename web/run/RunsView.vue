<script setup lang="ts">
import { computed, onMounted } from 'vue';
import EmptyState from '../ui/EmptyState.vue';
import RunStateSign from './RunStateSign.vue';
import { agoText, bytesText, counted } from '../ui/format.ts';
import { useNotices } from '../app/notices.ts';
import { deliveryNames } from './deliveriesOfRun.ts';
import { useRuns } from './runs.ts';

const runs = useRuns();
const notices = useNotices();
onMounted(() => notices.attempt(() => runs.load()));

const waiting = computed(() => runs.underWay);

/** One changes places with its neighbour. */
function move(from: number, to: number): void {
  const ids = waiting.value.map(({ id }) => id);
  [ids[from], ids[to]] = [ids[to], ids[from]];
  void notices.attempt(() => runs.order(ids));
}
</script>

<template>
  <div class="page">
    <header class="page-head">
      <h1>Runs</h1>
      <span class="quiet">Every export, newest first</span>
    </header>
    <EmptyState
      v-if="runs.isLoaded && runs.runs.length === 0"
      title="No runs yet"
      text="An export of a batch is listed here, while it goes and afterwards."
    >
      <RouterLink class="btn btn-outline-secondary" to="/batches">To the batches</RouterLink>
    </EmptyState>
    <section v-if="waiting.length > 1" class="order" aria-label="The order of runs under way">
      <h2 class="minor">Under way, in this order</h2>
      <ol class="list-unstyled m-0">
        <li v-for="(run, at) in waiting" :key="run.id" class="align-items-center d-flex gap-2">
          <b class="number">{{ at + 1 }}</b>
          <span class="text-truncate">{{ run.batchName }}, {{ deliveryNames(run) }}</span>
          <button
            class="btn btn-link ms-auto"
            type="button"
            :disabled="at === 0"
            :aria-label="`${run.batchName}, ${deliveryNames(run)}: earlier`"
            @click="move(at, at - 1)"
          >
            Earlier
          </button>
          <button
            class="btn btn-link"
            type="button"
            :disabled="at === waiting.length - 1"
            :aria-label="`${run.batchName}, ${deliveryNames(run)}: later`"
            @click="move(at, at + 1)"
          >
            Later
          </button>
        </li>
      </ol>
    </section>
    <ul class="list list-unstyled d-grid m-0">
      <li v-for="run in runs.runs" :key="run.id">
        <RouterLink
          :to="`/runs/${run.id}`"
          class="run align-items-center d-grid text-decoration-none"
        >
          <span class="cover"
            ><img v-if="run.coverItemId" :src="`/api/outputs/${run.coverItemId}/tile`" alt=""
          /></span>
          <span class="text">
            <b class="serif">{{ run.batchName }}</b>
            <span class="quiet">{{ deliveryNames(run) }}, {{ run.presetName }}</span>
          </span>
          <span class="number quiet"
            >{{ counted(run.written, 'file') }}, {{ bytesText(run.bytesAfter) }}</span
          >
          <span class="quiet when">{{ agoText(run.createdAt) }}</span>
          <RunStateSign :run="run" />
        </RouterLink>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.order {
  display: grid;
  gap: 4px;
  margin-bottom: 18px;
  max-width: 720px;
}

.list {
  max-width: 1180px;
}

.run {
  border-bottom: 1px solid var(--lc-hairline);
  color: var(--lc-ink);
  gap: 22px;
  grid-template-columns: 104px minmax(0, 1fr) auto 110px 170px;
  padding: 10px 8px;
}

.run:hover {
  background: var(--lc-card);
}

.cover {
  aspect-ratio: 3 / 2;
  background: var(--lc-paper-deep);
  border-radius: 3px;
  overflow: hidden;
}

.cover img {
  height: 100%;
  object-fit: cover;
  width: 100%;
}

.text {
  display: grid;
  min-width: 0;
}

.text > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

b {
  font-size: 1.1rem;
  font-weight: 500;
}

@media (max-width: 900px) {
  .run {
    gap: 4px 14px;
    grid-template-columns: 84px minmax(0, 1fr) auto;
  }

  .cover {
    grid-row: 1 / 3;
  }

  .text {
    grid-column: 2 / 4;
  }
}

@media (max-width: 480px) {
  .when {
    display: none;
  }
}
</style>
