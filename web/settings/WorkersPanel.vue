<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core';
import { computed, onMounted, shallowRef } from 'vue';
import type { WorkersView, WorkerView } from '#core/contract/http';
import { api } from '../api/client.ts';
import { counted } from '../ui/format.ts';

/** Workers that make photos for this server; nothing where it makes all of them itself. */
const EACH_MS = 2_000;
const CANNOT = { heic: 'photos in HEIC', untouched: 'JPEGs that stay untouched' } as const;

const view = shallowRef<WorkersView | null>(null);
const isAway = shallowRef(false);

async function look(): Promise<void> {
  try {
    view.value = await api.get<WorkersView | null>('/workers');
    isAway.value = false;
  } catch {
    isAway.value = true;
  }
}
onMounted(look);
useIntervalFn(() => {
  // Without a Redis there will be none until the server is started anew.
  if (view.value || isAway.value) void look();
}, EACH_MS);

const command = computed(() => {
  const roots = view.value?.roots.map((root) => `--root ${root}=FOLDER`) ?? [];
  const store = view.value?.store ? [`--store ${view.value.store}`] : [];
  return ['light-crest worker', '--redis URL', '--token-file FILE', ...roots, ...store];
});
const sentence = computed(() => {
  if (isAway.value) return 'The server does not answer; this is how it was.';
  if (!view.value?.isConnected) {
    return 'The Redis between server and workers does not answer. Photos are made by this machine.';
  }
  return view.value.workers.length === 0 ? 'None is there. Photos are made by this machine.' : '';
});

function figures({ jobs, photosAMinute, made }: WorkerView): string {
  const pace = photosAMinute > 0 ? [`${counted(photosAMinute, 'photo')} in the last minute`] : [];
  return [`${jobs} at once`, ...pace, `${counted(made, 'file')} made`].join(' · ');
}

function leaves({ cannot }: WorkerView): string {
  const what = cannot.map((word) => CANNOT[word as keyof typeof CANNOT] ?? word);
  return what.length === 0 ? '' : `Leaves ${what.join(' and ')} to others.`;
}
</script>

<template>
  <section v-if="view" class="card-plain part" aria-label="Workers">
    <h2>Workers</h2>
    <p v-if="sentence" class="quiet m-0" role="status">{{ sentence }}</p>
    <p v-if="view.storeProblem" class="problem m-0" role="status">
      The store takes no photos ({{ view.storeProblem }}). Those that lie in no shared folder are
      made by this machine.
    </p>
    <ul v-if="view.workers.length > 0" class="list-unstyled m-0 d-grid gap-3">
      <li v-for="worker in view.workers" :key="worker.name" class="worker">
        <div class="align-items-baseline d-flex gap-2">
          <b class="text-truncate">{{ worker.name }}</b>
          <span v-if="worker.host !== worker.name" class="quiet text-truncate">{{
            worker.host
          }}</span>
        </div>
        <p class="quiet number m-0">{{ figures(worker) }}</p>
        <p
          v-if="worker.doing.length > 0"
          class="m-0 text-truncate"
          :title="worker.doing.join(', ')"
        >
          at {{ worker.doing.join(', ') }}
        </p>
        <p v-if="worker.problem" class="problem m-0" role="status">{{ worker.problem }}</p>
        <p v-if="leaves(worker)" class="quiet m-0">{{ leaves(worker) }}</p>
      </li>
    </ul>
    <p class="quiet m-0">
      Another machine helps by
      <code
        ><template v-for="part in command" :key="part"
          ><span class="text-nowrap">{{ part }}</span
          >{{ ' ' }}</template
        ></code
      >
    </p>
  </section>
</template>

<style scoped>
.part {
  display: grid;
  gap: 10px;
  grid-template-columns: minmax(0, 1fr);
}

.worker {
  border-left: 3px solid var(--lc-brass-light);
  min-width: 0;
  padding-left: 12px;
}

.problem {
  color: var(--lc-lost);
}

code {
  color: var(--lc-ink);
  overflow-wrap: anywhere;
  user-select: all;
}
</style>
