<script setup lang="ts">
import { computed, ref } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import { sentenceOf } from '../api/client.ts';
import type { Dropped } from '../api/droppedFiles.ts';
import EmptyState from '../components/EmptyState.vue';
import LandingPlace from '../components/LandingPlace.vue';
import MarkCard from '../components/MarkCard.vue';
import { useLibrary } from '../stores/library.ts';

const library = useLibrary();
const landing = ref<InstanceType<typeof LandingPlace> | null>(null);
const isBusy = ref(false);
/** Files that are no artwork, each with its reason. */
const problems = ref<string[]>([]);

const active = computed(() => library.marks.filter((mark) => !mark.retired));
const retired = computed(() => library.marks.filter((mark) => mark.retired));

async function add({ files }: Dropped): Promise<void> {
  isBusy.value = true;
  problems.value = [];
  for (const file of files) {
    try {
      await library.addMark(file);
    } catch (error) {
      problems.value.push(sentenceOf(error));
    }
  }
  isBusy.value = false;
}
</script>

<template>
  <LandingPlace ref="landing" class="page" label="Artwork" @dropped="add">
    <template #default="{ isOver }">
      <header class="page-head">
        <h1>Marks</h1>
        <span class="quiet">Drop artwork here: SVG or PNG</span>
        <span class="end">
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
        text="A signature, a logo or lettering as SVG, or as PNG with a transparent background. It is made once and used everywhere."
      >
        <BButton variant="outline-secondary" @click="landing?.chooseFiles()">Choose a file</BButton>
      </EmptyState>
      <div class="grid" :class="{ over: isOver }">
        <MarkCard v-for="mark in active" :key="mark.id" :mark="mark" />
      </div>
      <template v-if="retired.length > 0">
        <h2 class="retired">Retired</h2>
        <div class="grid">
          <MarkCard v-for="mark in retired" :key="mark.id" :mark="mark" />
        </div>
      </template>
    </template>
  </LandingPlace>
</template>

<style scoped>
.grid {
  border-radius: 6px;
  display: grid;
  gap: 24px;
  grid-template-columns: repeat(auto-fill, minmax(min(440px, 100%), 1fr));
}

.grid.over {
  outline: 3px solid var(--lc-brass-light);
  outline-offset: 8px;
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
