<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed, nextTick, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import type { MarkView, ScanView } from '#core/contract/http';
import { api, sentenceOf } from '../api/client.ts';
import type { Dropped } from '../ui/droppedFiles.ts';
import EmptyState from '../ui/EmptyState.vue';
import LandingPlace from '../ui/LandingPlace.vue';
import MarkCard from './MarkCard.vue';
import PageChooser from '../paper/PageChooser.vue';
import { useDropTarget } from '../ui/windowDrop.ts';
import { useLibrary } from '../app/library.ts';

/** All marks; they come in from paper, from a pen, or from a file. */
const library = useLibrary();
const route = useRoute();
const landing = ref<InstanceType<typeof LandingPlace> | null>(null);
const isBusy = ref(false);
const search = ref('');
/** Files that are no artwork, each with its reason. */
const problems = ref<string[]>([]);
/** A PDF of several pages, of which one is to be chosen. */
const choosing = ref<ScanView | null>(null);
const isChoosing = computed({
  get: () => choosing.value !== null,
  set: (open: boolean) => (choosing.value = open ? choosing.value : null),
});

const found = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  const isFound = ({ name, usedBy }: MarkView): boolean => {
    const text = [name, ...usedBy].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  };
  return library.marks.filter(isFound);
});
const active = computed(() => found.value.filter((mark) => !mark.retired));
const retired = computed(() => found.value.filter((mark) => mark.retired));

/** A mark that was just made is what one came to see. */
onMounted(async () => {
  if (!route.hash) return;
  await library.load();
  await nextTick();
  document.getElementById(route.hash.slice(1))?.scrollIntoView({ block: 'nearest' });
});

async function add({ files }: Dropped): Promise<void> {
  isBusy.value = true;
  problems.value = [];
  for (const file of files) {
    try {
      if (/\.pdf$/i.test(file.name)) await addPdf(file);
      else await library.addMark(file);
    } catch (error) {
      problems.value.push(sentenceOf(error));
    }
  }
  isBusy.value = false;
}

useDropTarget({ says: 'Add to the marks', take: (dropped) => void add(dropped) });

async function addPdf(file: File): Promise<void> {
  const scan = await api.post<ScanView>(`/scans?${new URLSearchParams({ name: file.name })}`, file);
  if (scan.pages > 1) choosing.value = scan;
  else await addPage(scan.id, 1);
}

async function addPage(scanId: number, page: number): Promise<void> {
  choosing.value = null;
  try {
    await api.post('/marks/from-page', { scanId, page });
    await library.refreshMarks();
  } catch (error) {
    problems.value.push(sentenceOf(error));
  }
}
</script>

<template>
  <LandingPlace ref="landing" class="page" label="Artwork" @dropped="add">
    <template #default="{ isOver }">
      <header class="page-head">
        <h1>Marks</h1>
        <input
          v-if="library.marks.length > 1"
          v-model="search"
          class="form-control search"
          type="search"
          placeholder="Search by name or preset"
          aria-label="Search marks"
        />
        <span class="end ways">
          <RouterLink class="btn btn-outline-secondary" to="/marks/from-paper"
            >From paper</RouterLink
          >
          <RouterLink class="btn btn-outline-secondary" to="/marks/pen">Sign with a pen</RouterLink>
          <RouterLink class="btn btn-outline-secondary" to="/marks/compose">Compose</RouterLink>
          <BButton variant="primary" :disabled="isBusy" @click="landing?.chooseFiles()">
            {{ isBusy ? 'Reading' : 'Add artwork' }}
          </BButton>
        </span>
      </header>
      <ul v-if="problems.length > 0" class="problems" role="alert">
        <li v-for="problem in problems" :key="problem">{{ problem }}</li>
      </ul>
      <EmptyState
        v-if="library.marks.length === 0"
        title="No mark yet"
        text="Lift a signature from paper, sign on screen, or add a logo: SVG, PNG, PDF or a photo of it. It is made once and used everywhere."
      >
        <RouterLink class="btn btn-outline-secondary" to="/marks/from-paper">From paper</RouterLink>
        <RouterLink class="btn btn-outline-secondary" to="/marks/pen">Sign with a pen</RouterLink>
        <RouterLink class="btn btn-outline-secondary" to="/marks/compose">Compose one</RouterLink>
        <BButton variant="outline-secondary" @click="landing?.chooseFiles()">Choose a file</BButton>
      </EmptyState>
      <p v-else-if="found.length === 0" class="quiet">No mark is called that.</p>
      <div class="grid" :class="{ over: isOver }">
        <MarkCard v-for="mark in active" :key="mark.id" :mark="mark" />
      </div>
      <template v-if="retired.length > 0">
        <h2 class="retired">Retired</h2>
        <div class="grid">
          <MarkCard v-for="mark in retired" :key="mark.id" :mark="mark" />
        </div>
      </template>
      <BModal
        v-model="isChoosing"
        title-tag="h2"
        title="Which page is it on?"
        size="lg"
        centered
        no-footer
      >
        <PageChooser
          v-if="choosing"
          :scan="choosing"
          @choose="choosing && addPage(choosing.id, $event)"
        />
      </BModal>
    </template>
  </LandingPlace>
</template>

<style scoped>
.grid {
  border-radius: 6px;
  display: grid;
  gap: 20px;
  grid-template-columns: repeat(auto-fill, minmax(min(270px, 100%), 1fr));
}

.grid.over {
  outline: 3px solid var(--lc-brass-light);
  outline-offset: 8px;
}

.search {
  width: 240px;
}

.ways {
  display: flex;
  gap: 8px;
}

.retired {
  margin: 34px 0 14px;
}

.problems {
  border-left: 3px solid var(--lc-lost);
  color: var(--lc-lost-deep);
  list-style: none;
  margin: 0 0 18px;
  padding-left: 12px;
}
</style>
