<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { ref, watch } from 'vue';
import IconFolder from '~icons/tabler/folder';
import IconUp from '~icons/tabler/corner-left-up';
import type { FolderView } from '#core/contract/http';
import { api, sentenceOf } from '../api/client.ts';
import { counted } from '../ui/format.ts';

/** Chooses a folder of the computer, inside those that the settings allow. */
const props = defineProps<{ title: string; action: string; mayMake?: boolean }>();
const emit = defineEmits<{ done: [path: string] }>();
const isOpen = defineModel<boolean>({ required: true });

const folder = ref<FolderView | null>(null);
const problem = ref<string | null>(null);
const newName = ref('');

watch(isOpen, (open) => {
  if (open) void go(null);
});

async function go(path: string | null): Promise<void> {
  problem.value = null;
  try {
    const query = path ? `?${new URLSearchParams({ path })}` : '';
    folder.value = await api.get<FolderView>(`/folders${query}`);
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}

async function make(): Promise<void> {
  if (!folder.value?.path || newName.value.trim() === '') return;
  problem.value = null;
  try {
    const path = `${folder.value.path}/${newName.value.trim()}`;
    folder.value = await api.post<FolderView>('/folders', { path });
    newName.value = '';
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}

function choose(): void {
  if (!folder.value?.path) return;
  isOpen.value = false;
  emit('done', folder.value.path);
}
</script>

<template>
  <BModal v-model="isOpen" title-tag="h2" :title="title" centered scrollable no-footer size="lg">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="folder">
      <p v-if="folder.path" class="path">
        {{ folder.path }}
        <span class="quiet">{{ counted(folder.photoCount, 'photo') }} directly in it</span>
      </p>
      <p v-else-if="folder.folders.length === 0" class="quiet">
        No folder of this computer is allowed yet.
        <RouterLink to="/settings" @click="isOpen = false">Allow one in Settings</RouterLink>
      </p>
      <ul class="list">
        <li v-if="folder.path">
          <button type="button" @click="go(folder.parent)">
            <IconUp aria-hidden="true" /> {{ folder.parent ? 'one up' : 'all allowed folders' }}
          </button>
        </li>
        <li v-for="some in folder.folders" :key="some.path">
          <button type="button" @click="go(some.path)">
            <IconFolder aria-hidden="true" /> {{ some.name }}
          </button>
        </li>
      </ul>
      <div class="actions">
        <form v-if="props.mayMake && folder.path" class="make" @submit.prevent="make">
          <input
            v-model="newName"
            class="form-control"
            aria-label="Name of a new folder"
            placeholder="New folder"
          />
          <button class="btn btn-outline-secondary" type="submit" :disabled="newName.trim() === ''">
            Make
          </button>
        </form>
        <button class="btn btn-primary end" type="button" :disabled="!folder.path" @click="choose">
          {{ action }}
        </button>
      </div>
    </template>
  </BModal>
</template>

<style scoped>
.path {
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  font-weight: 600;
  gap: 4px 12px;
  overflow-wrap: anywhere;
}

.path .quiet {
  font-weight: 400;
}

.problem {
  color: var(--lc-lost-deep);
  margin-bottom: 10px;
}

.list {
  list-style: none;
  margin: 12px 0;
  max-height: 320px;
  min-height: 140px;
  overflow: auto;
  padding: 0;
}

.list button {
  align-items: center;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--lc-hairline);
  color: var(--lc-ink);
  display: flex;
  gap: 9px;
  overflow-wrap: anywhere;
  padding: 7px 6px;
  text-align: left;
  width: 100%;
}

.list button:hover {
  background: var(--lc-paper-deep);
}

.actions,
.make {
  display: flex;
  gap: 10px;
}

.end {
  margin-left: auto;
}
</style>
