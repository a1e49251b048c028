<script setup lang="ts">
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import type { BatchView } from '#core/contract/http';
import { counted } from '../ui/format.ts';
import { useBatches } from './batches.ts';
import { useNotices } from '../app/notices.ts';
import FolderPicker from '../settings/FolderPicker.vue';
import { useBin } from '../app/bin.ts';
import { askName, namesBeside } from '../ui/ask.ts';
import MenuButton from '../ui/MenuButton.vue';
import SurroundSwitch from '../app/SurroundSwitch.vue';

/** Over the wall: what batch this is, what is selected, what can be done with the batch itself. */
const props = defineProps<{ batch: BatchView; count: number; selected: number }>();
const emit = defineEmits<{ add: []; all: []; none: []; remove: []; leaveOut: [] }>();

const batches = useBatches();
const notices = useNotices();
const bin = useBin();
const router = useRouter();
const isPicking = ref(false);

async function rename(): Promise<void> {
  const { id, name: present } = props.batch;
  const taken = namesBeside(batches.batches, id);
  const name = await askName({ title: 'Rename the batch', name: present, action: 'Rename', taken });
  if (name !== null) await notices.attempt(() => batches.change(id, { name }));
}

function readFolder(path: string): void {
  void notices.attempt(() => batches.readFolder(props.batch.id, path));
}

async function remove(): Promise<void> {
  const { id, name } = props.batch;
  await router.push('/batches');
  const isGone = await bin.discard({ kind: 'batches', id, name }, batches.load);
  if (!isGone) await router.push(`/batches/${id}`);
}

const entries = [
  { label: 'Add photos', act: () => emit('add') },
  { label: 'Read a folder in place', act: () => (isPicking.value = true) },
  { label: 'Select all', act: () => emit('all') },
  { label: 'Rename', act: () => void rename() },
  { label: 'Delete the batch', act: () => void remove() },
];
</script>

<template>
  <header class="head">
    <h1 class="text-truncate" :title="batch.name">
      <button class="title" type="button" title="Rename the batch" @click="rename">
        {{ batch.name }}
      </button>
    </h1>
    <span class="count number">{{ counted(count, 'photo') }}</span>
    <span v-if="selected > 0" class="chip number d-inline-flex gap-1">
      {{ selected }} selected
      <button type="button" @click="$emit('all')">all</button>
      <button type="button" @click="$emit('none')">none</button>
      <button
        type="button"
        title="No export of them, or with it again (x)"
        @click="$emit('leaveOut')"
      >
        leave out
      </button>
      <button
        type="button"
        title="Takes them out of the batch; photos read in place stay in their folder"
        @click="$emit('remove')"
      >
        take out of the batch
      </button>
    </span>
    <span class="end">
      <SurroundSwitch class="surround" />
      <MenuButton class="menu" text="Batch" :entries="entries" placement="bottom-end" />
    </span>
    <FolderPicker
      v-model="isPicking"
      title="Read a folder in place"
      action="Read this folder"
      @done="readFolder"
    />
  </header>
</template>

<style scoped>
.head {
  align-items: baseline;
  color: var(--lc-on-surround);
  display: flex;
  gap: 16px;
  padding-right: 12px;
}

h1 {
  flex: 0 1 auto;
  min-width: 0;
}

.title {
  background: none;
  border: 0;
  color: inherit;
  font: inherit;
  letter-spacing: inherit;
  max-width: 100%;
  overflow: hidden;
  padding: 0;
  text-overflow: ellipsis;
}

.title:hover {
  text-decoration: underline dotted 1px;
  text-underline-offset: 5px;
}

.count {
  color: var(--lc-on-surround-quiet);
  white-space: nowrap;
}

.chip {
  background: rgb(var(--lc-veil) / 78%);
  border-radius: 14px;
  color: var(--lc-ink);
  font-weight: 600;
  padding: 2px 8px 2px 13px;
  white-space: nowrap;
}

.chip button {
  background: none;
  border: 0;
  border-radius: 8px;
  color: var(--lc-ink-quiet);
  font-weight: 500;
  padding: 0 5px;
}

.chip button:hover {
  background: var(--lc-card);
}

.end {
  align-items: baseline;
  flex: none;
  color: var(--lc-on-surround-quiet);
  display: flex;
  gap: 14px;
  margin-left: auto;
}

.menu :deep(.btn) {
  --bs-btn-color: var(--lc-on-surround);
  --bs-btn-hover-color: var(--lc-on-surround);
  --bs-btn-active-color: var(--lc-on-surround);
}

@media (max-width: 900px) {
  .head {
    flex-wrap: wrap;
    gap: 2px 12px;
  }

  .chip {
    flex-wrap: wrap;
    order: 1;
    white-space: normal;
  }
}

/* The surround is changed in the settings there. */
@media (max-width: 640px) {
  .surround {
    display: none;
  }
}
</style>
