<script setup lang="ts">
import type { BinEntry, BinKind } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useResource } from '../api/useResource.ts';
import { useBin } from '../app/bin.ts';
import { useNotices } from '../app/notices.ts';
import { askSure } from '../ui/ask.ts';
import { counted } from '../ui/format.ts';

/** What was deleted, until it goes by itself. */
const KINDS: Readonly<Record<BinKind, string>> = {
  marks: 'mark',
  presets: 'preset',
  deliveries: 'delivery',
  batches: 'batch',
};

const bin = useBin();
const notices = useNotices();
const {
  value: entries,
  problem,
  load,
} = useResource((signal) => api.get<BinEntry[]>('/bin', { signal }));

async function putBack({ kind, id, name }: BinEntry): Promise<void> {
  await notices.attempt(async () => {
    entries.value = await bin.putBack(kind, id);
    notices.done(`${name} is back.`);
  });
}

async function empty(): Promise<void> {
  const text = 'What lies in it can not be put back then. Files that were exported stay.';
  if (!(await askSure('Empty the bin?', text, 'Empty the bin'))) return;
  await notices.attempt(async () => {
    await api.delete('/bin');
    await load();
  });
}
</script>

<template>
  <section class="card-plain part" aria-label="Bin">
    <h2>Bin</h2>
    <p class="quiet">What was deleted can be put back for 30 days.</p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-else-if="entries?.length === 0" class="quiet">It is empty.</p>
    <ul v-else-if="entries" class="entries m-0 overflow-auto">
      <li v-for="entry in entries" :key="`${entry.kind} ${entry.id}`">
        <span class="text-truncate" :title="entry.name">{{ entry.name }}</span>
        <span class="quiet number flex-grow-1"
          >{{ KINDS[entry.kind] }}, {{ counted(entry.daysLeft, 'day') }} left</span
        >
        <button
          class="btn btn-link"
          type="button"
          :aria-label="`Put ${entry.name} back`"
          @click="putBack(entry)"
        >
          Put back
        </button>
      </li>
    </ul>
    <button
      v-if="entries && entries.length > 0"
      class="btn btn-outline-secondary"
      type="button"
      @click="empty"
    >
      Empty the bin
    </button>
  </section>
</template>

<style scoped>
.entries {
  list-style: none;
  max-height: 320px;
  padding: 0;
}

.entries li {
  align-items: baseline;
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  gap: 12px;
  padding-block: 4px;
}

.entries .quiet,
.entries .btn {
  flex: none;
}

.btn-outline-secondary {
  justify-self: start;
}

.problem {
  color: var(--lc-lost-deep);
}
</style>
