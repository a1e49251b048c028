<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { RunItemView } from '#core/contract/http';
import { askSure } from '../ui/ask.ts';
import PickOne from '../ui/PickOne.vue';
import ErrorState from '../app/ErrorState.vue';
import OutputLook from './OutputLook.vue';
import OutputWall from './OutputWall.vue';
import RunDocuments from './RunDocuments.vue';
import RunProgress from './RunProgress.vue';
import RunTray from './RunTray.vue';
import { useNotices } from '../app/notices.ts';
import { deliveryNames } from './deliveriesOfRun.ts';
import { useRuns } from './runs.ts';
import { useAwayOutputs } from './useAwayOutputs.ts';
import { useRunDetail } from './useRunDetail.ts';

/** A run: its progress, then its outputs as a wall, and below what came of it. */
const props = defineProps<{ id: number }>();

const runs = useRuns();
const notices = useNotices();
const router = useRouter();
const { detail, items, problem, load } = useRunDetail(() => props.id);
const away = useAwayOutputs(() => runs.runOf(props.id));
const looked = ref<RunItemView | null>(null);

const run = computed(() => runs.runOf(props.id));
/** Number of the delivery whose outputs are on the wall. */
const shown = ref('all');
const choices = computed(() => [
  { value: 'all', label: 'all' },
  ...(run.value?.deliveries ?? []).flatMap(({ name, kind }, at) =>
    kind === 'files' ? [{ value: String(at + 1), label: name }] : [],
  ),
]);
const written = computed(() =>
  items.value.filter(
    ({ status, delivery, outputName }) =>
      status === 'written' &&
      // A photo that was made ready for a document is no file of its own.
      outputName !== null &&
      (shown.value === 'all' || shown.value === String(delivery)),
  ),
);
const isUnderWay = computed(() => run.value?.state === 'running' || run.value?.state === 'paused');

const emptyText = computed(() => {
  const isOfAll = run.value?.deliveries.every(({ kind }) => kind !== 'files') ?? false;
  if (isOfAll) return isUnderWay.value ? '' : 'Its photos are together in what it made';
  if (run.value?.state === 'paused') return 'Paused before the first photo was written';
  return isUnderWay.value ? 'The first photos are being written' : 'Nothing was written';
});

function steer(action: 'pause' | 'resume' | 'cancel' | 'retry'): void {
  void notices.attempt(() => runs.steer(props.id, action));
}

async function again(): Promise<void> {
  await notices.attempt(async () => {
    const { id } = await runs.again(props.id);
    await router.push(`/runs/${id}`);
  });
}

async function remove(): Promise<void> {
  const title = 'Take this run off the list?';
  if (!(await askSure(title, 'The files it wrote stay where they are.', 'Take off'))) return;
  await notices.attempt(async () => {
    await runs.remove(props.id);
    await router.push('/runs');
  });
}
</script>

<template>
  <ErrorState v-if="problem && !detail" :text="problem" action="Try again" @act="load" />
  <div v-else-if="run" class="work">
    <div class="surround work-wall">
      <header class="head align-items-baseline d-flex gap-3">
        <h1>{{ run.batchName }}</h1>
        <span class="what">{{ deliveryNames(run) }}, {{ run.presetName }}</span>
        <PickOne
          v-if="choices.length > 2 && !looked"
          v-model="shown"
          class="ms-auto pe-3"
          label="Outputs shown"
          :options="choices"
        />
      </header>
      <RunDocuments v-if="run.documents.length > 0 && !looked" :run="run" />
      <OutputLook v-if="looked" :item="looked" class="stage" @close="looked = null" />
      <OutputWall
        v-else-if="written.length > 0"
        class="stage"
        :items="written"
        :away="away.outputs.value"
        @look="looked = $event"
      />
      <p v-else class="stage waiting">
        {{ emptyText }}
      </p>
    </div>
    <RunProgress v-if="isUnderWay" :run="run" @steer="steer" />
    <RunTray
      :run="run"
      :items="items"
      :is-under-way="isUnderWay"
      :away="away.outputs.value.size + away.documents.value"
      :added-since="detail?.addedSince ?? 0"
      @again="again"
      @retry="steer('retry')"
      @remove="remove"
    />
  </div>
  <ErrorState v-else-if="detail" text="This run is not on the list any more." />
</template>

<style scoped>
.surround {
  display: grid;
  gap: 12px;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto auto minmax(0, 1fr);
  padding: 14px 6px 0 18px;
}

.head {
  min-width: 0;
}

.head > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.what {
  color: var(--lc-on-surround-quiet);
}

/* With or without documents above it. */
.stage {
  grid-row: 3;
  min-height: 0;
}

.waiting {
  padding-top: 12vh;
  text-align: center;
}

@media (max-height: 460px) {
  .surround {
    grid-template-rows: auto auto 76vh;
    height: auto;
  }
}
</style>
