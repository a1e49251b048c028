<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import BenchPanel from '../components/bench/BenchPanel.vue';
import BenchTray from '../components/bench/BenchTray.vue';
import ConfirmDialog from '../components/ConfirmDialog.vue';
import EmptyState from '../components/EmptyState.vue';
import MarkedPhoto from '../components/MarkedPhoto.vue';
import NameDialog from '../components/NameDialog.vue';
import SurroundSwitch from '../components/SurroundSwitch.vue';
import { isModal, isTyping } from '../composables/useBenchKeys.ts';
import { fillRows } from '../composables/fillRows.ts';
import { useSamplePhotos } from '../composables/useSamplePhotos.ts';
import { useDraft } from '../stores/draft.ts';
import { useLibrary } from '../stores/library.ts';
import { useNotices } from '../stores/notices.ts';

/** A preset on the wall of photos as different as the last batch has them; 0 is a new one. */
const props = defineProps<{ id: number }>();

/** The bench draws its frame in the shape most photos have. */
const USUAL_PHOTO = { width: 3000, height: 2000 };
const draft = useDraft();
const library = useLibrary();
const notices = useNotices();
const router = useRouter();
const { photos, isLoaded } = useSamplePhotos();

const wall = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(wall);
const rows = computed(() => fillRows(photos.value, { width: width.value, height: height.value }));
const isMarkHidden = ref(false);
const asking = ref<'rename' | 'new' | 'delete' | null>(null);
const isThere = computed(() => props.id === 0 || library.presetOf(props.id) !== null);
const isAsking = (what: 'rename' | 'new' | 'delete') =>
  computed({
    get: () => asking.value === what,
    set: (open: boolean) => (asking.value = open ? what : null),
  });
const isRenaming = isAsking('rename');
const isNaming = isAsking('new');
const isRemoving = isAsking('delete');

onMounted(() => draft.open(props.id === 0 ? null : props.id));

function choose(id: number | null): void {
  void router.push(`/presets/${id ?? 0}`);
}

function save(): void {
  if (!draft.saved) {
    isNaming.value = true;
    return;
  }
  void notices.attempt(async () => {
    await draft.save();
    notices.done(`${draft.name} is saved.`);
  });
}

function saveAsNew(name: string): void {
  void notices.attempt(async () => {
    const id = await draft.saveAsNew(name);
    await router.replace(`/presets/${id}`);
    notices.done(`${name} is saved.`);
  });
}

function rename(name: string): void {
  const { saved } = draft;
  if (!saved) return;
  const { markId, rule } = saved;
  void notices.attempt(() => library.savePreset(saved.id, { name, markId, rule }));
}

function remove(): void {
  const { saved } = draft;
  if (!saved) return;
  void notices.attempt(async () => {
    await library.removePreset(saved.id);
    await router.push('/presets');
  });
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.key === 'b' && !isTyping(event.target) && !isModal()) isMarkHidden.value = true;
});
useEventListener(window, 'keyup', () => (isMarkHidden.value = false));
</script>

<template>
  <EmptyState
    v-if="!isThere"
    is-whole
    title="This preset is gone"
    text="It was deleted, here or in another window."
  >
    <RouterLink class="btn btn-outline-secondary" to="/presets">All presets</RouterLink>
  </EmptyState>
  <div v-else class="work">
    <div class="surround work-wall">
      <header class="head">
        <h1>{{ draft.name }}</h1>
        <span class="end"><SurroundSwitch /></span>
      </header>
      <div ref="wall" class="wall">
        <div v-for="(row, index) in rows" :key="index" class="line">
          <MarkedPhoto
            v-for="photo in row.items"
            :key="photo.id"
            :photo="photo"
            :width="(row.height * photo.width) / photo.height"
            :height="row.height"
            picture="proxy"
            :resize="null"
            :hide-mark="isMarkHidden"
          />
        </div>
        <p v-if="isLoaded && photos.length === 0" class="none">
          Photos of your last batch stand here. <RouterLink to="/">Drop some first</RouterLink>
        </p>
      </div>
    </div>
    <BenchTray :frame="USUAL_PHOTO" @choose="choose" @saved="choose">
      <BenchPanel title="Keep">
        <template #end>{{
          draft.saved?.usedBy.length ? `for ${draft.saved.usedBy.join(', ')}` : ''
        }}</template>
        <div class="links">
          <template v-if="draft.saved">
            <button class="btn btn-link" type="button" @click="isRenaming = true">Rename</button>
            <button class="btn btn-link" type="button" @click="isNaming = true">
              {{ draft.isDirty ? 'Save as new' : 'Duplicate' }}
            </button>
            <button class="btn btn-link" type="button" @click="isRemoving = true">Delete</button>
          </template>
        </div>
        <button
          class="btn btn-outline-secondary"
          type="button"
          :disabled="!draft.isDirty || !draft.saved"
          @click="draft.putBack"
        >
          Put back
        </button>
        <BButton class="go" variant="primary" :disabled="!draft.isDirty" @click="save">
          {{ draft.isDirty ? 'Save' : 'Saved' }}
        </BButton>
      </BenchPanel>
    </BenchTray>
    <NameDialog
      v-model="isRenaming"
      title="Rename the preset"
      label="Name"
      :name="draft.name"
      action="Rename"
      @done="rename"
    />
    <NameDialog
      v-model="isNaming"
      title="Save as a new preset"
      label="Name"
      :name="draft.suggestedName"
      action="Save"
      @done="saveAsNew"
    />
    <ConfirmDialog
      v-model="isRemoving"
      title="Delete this preset?"
      :text="`${draft.name} is removed. Photos already exported with it stay as they are.`"
      action="Delete the preset"
      @done="remove"
    />
  </div>
</template>

<style scoped>
.surround {
  display: grid;
  gap: 12px;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr);
  padding: 14px 18px 18px;
}

.head {
  align-items: baseline;
  display: flex;
  gap: 16px;
}

h1 {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.end {
  color: var(--lc-on-surround-quiet);
  margin-left: auto;
}

.wall {
  display: flex;
  flex-direction: column;
  gap: 8px;
  justify-content: center;
  min-height: 0;
}

.line {
  display: flex;
  gap: 8px;
  justify-content: center;
}

.none {
  text-align: center;
}

.none a {
  color: inherit;
}

.links {
  display: flex;
  gap: 8px;
  margin-left: -0.35rem;
  min-height: 26px;
}

.go {
  font-size: 1rem;
  margin-top: auto;
  padding-block: 8px;
}
</style>
