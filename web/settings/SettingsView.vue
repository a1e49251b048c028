<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { isSameValue } from '#core/sameValue';
import SurroundSwitch from '../app/SurroundSwitch.vue';
import ShortcutTable from '../app/ShortcutTable.vue';
import ToggleField from '../ui/ToggleField.vue';
import BundlePanel from '../bundle/BundlePanel.vue';
import BackupPanel from './BackupPanel.vue';
import BinPanel from './BinPanel.vue';
import FoldersPanel from './FoldersPanel.vue';
import KeyChoice from './KeyChoice.vue';
import WorkersPanel from './WorkersPanel.vue';
import { useLibrary } from '../app/library.ts';
import PickOne from '../ui/PickOne.vue';

const library = useLibrary();
/** A setting that is saved as it is typed; another window's is followed. */
const typed = (key: 'name' | 'copyright') =>
  computed({
    get: () => library.settings[key],
    set: (value: string) => library.changeSettings({ [key]: value }),
  });
const name = typed('name');
const copyright = typed('copyright');
const palette = ref(library.settings.palette.map((colour) => ({ ...colour })));
const THEME_OPTIONS = [
  { value: 'system', label: 'as the system' },
  { value: 'light', label: 'light' },
  { value: 'dim', label: 'dim' },
] as const;

// A colour without a name is no tone yet. Copies, so that the settings do not change along unsaved.
const named = computed(() =>
  palette.value.filter(({ name: word }) => word.trim() !== '').map((colour) => ({ ...colour })),
);
watch(named, (now) => {
  if (!isSameValue(now, library.settings.palette)) library.changeSettings({ palette: now });
});
watch(
  () => library.settings.palette,
  (now) => {
    if (!isSameValue(now, named.value)) palette.value = now.map((colour) => ({ ...colour }));
  },
);

/** ©, the year and the name: what is tedious to type. */
function suggestCopyright(): void {
  copyright.value = `© ${new Date().getFullYear()} ${name.value}`.trim();
}
</script>

<template>
  <div class="page">
    <header class="page-head"><h1>Settings</h1></header>
    <div class="columns align-items-start d-grid">
      <div class="column">
        <section class="card-plain part" aria-label="You">
          <h2>You</h2>
          <label class="d-grid">
            <span class="form-label">Name</span>
            <input v-model="name" class="form-control" autocomplete="name" maxlength="200" />
          </label>
          <label class="d-grid">
            <span class="form-label">Copyright line</span>
            <input v-model="copyright" class="form-control" maxlength="200" />
          </label>
          <button class="btn btn-link small" type="button" @click="suggestCopyright">
            © and this year
          </button>
          <h3>Palette</h3>
          <p class="quiet">Colours of your own, offered as tones.</p>
          <div v-for="(colour, index) in palette" :key="index" class="colour">
            <input v-model="colour.colour" type="color" :aria-label="`Colour ${index + 1}`" />
            <input
              v-model="colour.name"
              class="form-control"
              :aria-label="`Name of colour ${index + 1}`"
              placeholder="Name"
            />
            <button class="btn btn-link" type="button" @click="palette.splice(index, 1)">
              Remove
            </button>
          </div>
          <div class="line">
            <button
              class="btn btn-outline-secondary"
              type="button"
              @click="palette.push({ name: '', colour: '#8f6220' })"
            >
              Add a colour
            </button>
          </div>
        </section>
        <section class="card-plain part" aria-label="Look">
          <h2>Look</h2>
          <div class="line">
            <span class="word quiet">theme</span>
            <PickOne
              label="Theme"
              :options="THEME_OPTIONS"
              :model-value="library.settings.theme"
              @update:model-value="library.changeSettings({ theme: $event })"
            />
          </div>
          <div class="line">
            <span class="word quiet" title="What photos are judged against">surround</span>
            <SurroundSwitch />
          </div>
        </section>
        <section class="card-plain part" aria-label="Exports">
          <h2>Exports</h2>
          <ToggleField
            label="Verify every file"
            :model-value="library.settings.readsBack"
            @update:model-value="library.changeSettings({ readsBack: $event })"
          />
          <p class="quiet m-0">
            Opened again after it was written, and compared with its photo; about a tenth of the
            time of a run.
          </p>
        </section>
        <BundlePanel />
        <BackupPanel />
        <BinPanel />
      </div>
      <div class="column">
        <FoldersPanel />
        <WorkersPanel />
        <section class="card-plain part" aria-label="Shortcuts">
          <h2>Shortcuts</h2>
          <ToggleField
            label="Single keys act on the mark and the photos"
            :model-value="library.settings.singleKeys"
            @update:model-value="library.changeSettings({ singleKeys: $event })"
          />
          <KeyChoice v-if="library.settings.singleKeys" />
          <ShortcutTable />
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.columns {
  gap: 22px;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.15fr);
  max-width: 1180px;
}

.column,
.part {
  display: grid;
  gap: 22px;
  grid-template-columns: minmax(0, 1fr);
}

.part {
  gap: 10px;
  padding: 18px 22px 20px;
}

.small {
  justify-self: start;
  margin-left: -0.35rem;
}

.colour,
.line {
  align-items: center;
  display: flex;
  gap: 10px;
}

.colour input[type='color'] {
  background: none;
  border: 1px solid var(--lc-hairline);
  border-radius: var(--lc-radius);
  flex: none;
  height: 31px;
  padding: 2px;
  width: 40px;
}

.word {
  width: 72px;
}

@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }

  .line {
    flex-wrap: wrap;
  }
}

@media (max-width: 480px) {
  .part {
    padding: 14px;
  }
}
</style>
