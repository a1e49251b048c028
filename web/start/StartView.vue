<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import type { ExamplesView } from '#core/contract/http';
import { api } from '../api/client.ts';
import FirstMinute from './FirstMinute.vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import IconPhotos from '~icons/tabler/photo-down';
import { remainingText } from '../ui/format.ts';
import BatchCover from '../batch/BatchCover.vue';
import TicketRow from './TicketRow.vue';
import { useIntake } from '../batch/useIntake.ts';
import { useBatches } from '../batch/batches.ts';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import { deliveryNames } from '../run/deliveriesOfRun.ts';
import { useRuns } from '../run/runs.ts';
import FolderPicker from '../settings/FolderPicker.vue';
import LandingPlace from '../ui/LandingPlace.vue';
import ProgressRing from '../ui/ProgressRing.vue';

const LAST_BATCHES = 6;
const batches = useBatches();
const library = useLibrary();
const runs = useRuns();
const notices = useNotices();
const { takeFiles, takeFolder } = useIntake();
const landing = ref<InstanceType<typeof LandingPlace> | null>(null);
const isPicking = ref(false);

onMounted(() => notices.attempt(() => batches.load()));

const last = computed(() => batches.batches.slice(0, LAST_BATCHES));
const hasTickets = computed(() => library.deliveries.some(({ favourite }) => favourite));
const isNew = computed(() => library.marks.length === 0);
const examples = ref<ExamplesView>({ isThere: false, batchId: null });
onMounted(async () => {
  const found = await api.get<ExamplesView>('/examples').catch(() => null);
  if (found) examples.value = found;
});

async function takeAwayExamples(): Promise<void> {
  await notices.attempt(async () => {
    await api.delete('/examples');
    examples.value = { isThere: false, batchId: null };
    await Promise.all([library.reload(), batches.load()]);
    notices.done('The examples are gone. What you made with them and still use stays.');
  });
}
</script>

<template>
  <div class="start">
    <FirstMinute v-if="isNew" />
    <LandingPlace ref="landing" class="landing" label="Photos" @dropped="takeFiles($event)">
      <template #default="{ isOver }">
        <div class="sill align-items-center d-flex" :class="{ over: isOver }">
          <IconPhotos class="icon" aria-hidden="true" />
          <div class="words">
            <h1>Drop photos or a folder</h1>
            <p class="quiet">They are copied in; your own files are never changed.</p>
          </div>
          <div class="ways d-grid gap-2 ms-auto">
            <BButton variant="primary" @click="landing?.chooseFiles()">Choose photos</BButton>
            <BButton variant="outline-secondary" @click="landing?.chooseFolder()"
              >Choose a folder</BButton
            >
            <BButton variant="link" @click="isPicking = true">Read a folder in place</BButton>
          </div>
        </div>
      </template>
    </LandingPlace>

    <p v-if="examples.isThere" class="examples quiet align-items-center d-flex flex-wrap">
      The example photos, with their marks and presets, are in your library.
      <button class="btn btn-link" type="button" @click="takeAwayExamples">Take them away</button>
    </p>

    <section v-if="hasTickets && !isNew" aria-label="Deliveries">
      <h2>Straight to a delivery</h2>
      <TicketRow @dropped="(dropped, deliveryId) => takeFiles(dropped, { deliveryId })" />
    </section>

    <section v-if="runs.underWay.length > 0" aria-label="Runs under way">
      <h2>Under way</h2>
      <RouterLink
        v-for="run in runs.underWay"
        :key="run.id"
        :to="`/runs/${run.id}`"
        class="run number align-items-center d-flex gap-2 text-decoration-none"
      >
        <ProgressRing :share="(run.written + run.skipped + run.failed) / Math.max(1, run.total)" />
        <b>{{ run.batchName }}</b> {{ deliveryNames(run) }}, {{ run.written }} of {{ run.total }}
        <span class="quiet">{{
          run.state === 'paused'
            ? 'paused'
            : run.remainingMs === null
              ? ''
              : remainingText(run.remainingMs)
        }}</span>
      </RouterLink>
    </section>

    <section v-if="last.length > 0" aria-label="Last batches">
      <h2>Last batches</h2>
      <div class="covers">
        <BatchCover v-for="batch in last" :key="batch.id" :batch="batch" />
      </div>
    </section>
    <FolderPicker
      v-model="isPicking"
      title="Read a folder in place"
      action="Read this folder"
      @done="takeFolder($event)"
    />
  </div>
</template>

<style scoped>
.examples {
  gap: 2px 8px;
}

.start {
  display: grid;
  gap: 30px;
  grid-auto-rows: min-content;
  height: 100%;
  overflow: auto;
  padding: 26px 32px 48px;
}

h2 {
  margin-bottom: 12px;
}

.sill {
  background: var(--lc-paper-deep);
  border: 1.5px dashed var(--lc-line);
  border-radius: 8px;
  gap: 26px;
  min-height: 188px;
  padding: 30px 38px;
  transition: background-color var(--lc-quick);
}

.sill.over {
  background: var(--lc-brass-pale);
  border-color: var(--lc-brass);
}

.icon {
  color: var(--lc-brass);
  flex: none;
  font-size: 52px;
  stroke-width: 1.3;
}

.words h1 {
  font-size: 2rem;
}

.ways {
  justify-items: stretch;
}

.run {
  color: var(--lc-ink);
}

.covers {
  display: grid;
  gap: 18px;
  grid-template-columns: repeat(auto-fill, minmax(min(270px, 100%), 1fr));
}

@media (max-width: 900px) {
  .start {
    padding: 16px 16px 40px;
  }

  .sill {
    flex-wrap: wrap;
    gap: 14px;
    padding: 20px;
  }

  .words {
    flex: 1 1 200px;
  }

  .words h1 {
    font-size: 1.5rem;
  }

  .ways {
    flex: 1 1 100%;
  }
}
</style>
