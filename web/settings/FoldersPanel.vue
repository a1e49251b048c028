<script setup lang="ts">
import { ref } from 'vue';
import { ApiError, sentenceOf } from '../api/client.ts';
import { useLibrary } from '../app/library.ts';
import FolderPicker from './FolderPicker.vue';

/** The folders of the computer that may be read and written. */
const library = useLibrary();
const newFolder = ref('');
const isPicking = ref(false);
const folderProblem = ref<string | null>(null);

async function addFolder(): Promise<void> {
  folderProblem.value = null;
  try {
    const folders = [...library.settings.folders, newFolder.value.trim()];
    await library.saveSettings({ folders });
    newFolder.value = '';
  } catch (error) {
    folderProblem.value =
      error instanceof ApiError
        ? (Object.values(error.details)[0] ?? error.message)
        : sentenceOf(error);
  }
}

function removeFolder(folder: string): void {
  library.changeSettings({
    folders: library.settings.folders.filter((some) => some !== folder),
  });
}
</script>

<template>
  <section class="card-plain part" aria-label="Folders">
    <h2>Folders</h2>
    <p class="quiet">Light Crest reads and writes only in these, and in its own data folder.</p>
    <ul class="folders list-unstyled m-0">
      <li v-for="folder in library.configuredFolders" :key="folder">
        <span>{{ folder }}</span><span class="quiet">set at start</span>
      </li>
      <li v-for="folder in library.settings.folders" :key="folder">
        <span>{{ folder }}</span>
        <button
          class="btn btn-link"
          type="button"
          :aria-label="`Remove ${folder}`"
          @click="removeFolder(folder)"
        >
          Remove
        </button>
      </li>
    </ul>
    <form class="line" @submit.prevent="addFolder">
      <input
        v-model="newFolder"
        class="form-control"
        aria-label="Full path of a folder"
        placeholder="Full path of a folder"
      />
      <button class="btn btn-outline-secondary" type="submit" :disabled="newFolder.trim() === ''">
        Allow
      </button>
      <button class="btn btn-outline-secondary" type="button" @click="isPicking = true">
        Choose
      </button>
    </form>
    <FolderPicker v-model="isPicking" title="Allow a folder" action="Allow this folder" may-make />
    <p v-if="folderProblem" class="problem" role="alert">{{ folderProblem }}</p>
  </section>
</template>

<style scoped>
.folders li {
  align-items: center;
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  gap: 12px;
  justify-content: space-between;
  min-height: 36px;
  overflow-wrap: anywhere;
}

.folders .quiet {
  white-space: nowrap;
}

.problem {
  color: var(--lc-lost-deep);
}

.line {
  align-items: center;
  display: flex;
  gap: 10px;
}

@media (max-width: 900px) {
  .line {
    flex-wrap: wrap;
  }
}
</style>
