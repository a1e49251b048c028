<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, ref, watch } from 'vue';
import IconFolder from '~icons/tabler/folder';
import IconUp from '~icons/tabler/corner-left-up';
import type { FolderView } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useAttempt } from '../api/useAttempt.ts';
import { useLibrary } from '../app/library.ts';
import { counted } from '../ui/format.ts';

/** Chooses a folder of the computer; one that is not allowed yet is allowed with that. */
const props = defineProps<{ title: string; action: string; mayMake?: boolean }>();
const emit = defineEmits<{ done: [path: string] }>();
const isOpen = defineModel<boolean>({ required: true });

const PLACES = { last: 'Used last', home: 'Yours', disk: 'Disks', allowed: 'Allowed' } as const;

const library = useLibrary();
const folder = ref<FolderView | null>(null);
// While the folder that was clicked is on its way, what is shown is not chosen in its place.
const { problem, isBusy, attempt } = useAttempt();
const newName = ref('');
const groups = computed(() =>
  Object.entries(PLACES)
    .map(([kind, word]) => ({
      word,
      folders: folder.value?.folders.filter((some) => some.kind === kind) ?? [],
    }))
    .filter(({ folders }) => folders.length > 0),
);
const lists = computed(() =>
  folder.value?.path ? [{ word: null, folders: folder.value.folders }] : groups.value,
);

watch(isOpen, (open) => {
  if (open) void go(null);
});

function go(path: string | null): Promise<void> {
  return attempt(async () => {
    const query = path ? `?${new URLSearchParams({ path, anywhere: 'true' })}` : '';
    folder.value = await api.get<FolderView>(`/folders${query}`);
  });
}

function make(): Promise<void> {
  return attempt(async () => {
    const name = newName.value.trim();
    if (!folder.value?.path || name === '') return;
    const path = `${folder.value.path}/${name}`;
    folder.value = await api.post<FolderView>('/folders', { path, allow: true });
    newName.value = '';
    await library.refreshSettings();
  });
}

function choose(): Promise<void> {
  return attempt(async () => {
    if (!folder.value?.path) return;
    const { path, isAllowed } = folder.value;
    if (!isAllowed) {
      await library.saveSettings({ folders: [...library.settings.folders, path] });
    }
    isOpen.value = false;
    emit('done', path);
  });
}
</script>

<template>
  <BModal v-model="isOpen" title-tag="h2" :title="title" centered scrollable no-footer size="lg">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="folder">
      <p v-if="folder.path" class="path">
        <button class="btn btn-link" type="button" @click="go(null)">Where to begin</button>
        <span data-testid="folder-path">{{ folder.path }}</span>
        <span class="quiet">{{ counted(folder.photoCount, 'photo') }} directly in it</span>
      </p>
      <div class="list">
        <button v-if="folder.path" type="button" @click="go(folder.parent)">
          <IconUp aria-hidden="true" /> {{ folder.parent ? 'one up' : 'where to begin' }}
        </button>
        <template v-for="{ word, folders } in lists" :key="word ?? ''">
          <h3 v-if="word">{{ word }}</h3>
          <ul>
            <li v-for="some in folders" :key="some.path">
              <button type="button" @click="go(some.path)">
                <IconFolder aria-hidden="true" /> {{ some.name }}
              </button>
            </li>
          </ul>
        </template>
        <p v-if="folder.path && folder.folders.length === 0" class="quiet">No folders in it.</p>
      </div>
      <p v-if="folder.path && !folder.isAllowed" class="quiet note">
        Light Crest will be allowed to read and write in this folder. Settings takes that back.
      </p>
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
        <button
          class="btn btn-primary end"
          type="button"
          :disabled="!folder.path || isBusy"
          @click="choose"
        >
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
  margin: 12px 0;
  max-height: 340px;
  min-height: 140px;
  overflow: auto;
}

.list ul {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}

.list h3 {
  color: var(--lc-ink-quiet);
}

.note {
  margin-bottom: 10px;
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
