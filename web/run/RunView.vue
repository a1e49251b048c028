<script setup lang="ts">
import { useThrottleFn } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { RunDetailView, RunItemView } from '#core/contract/http';
import { api, sentenceOf } from '../api/client.ts';
import { askSure } from '../ui/ask.ts';
import ErrorState from '../app/ErrorState.vue';
import OutputLook from './OutputLook.vue';
import OutputWall from './OutputWall.vue';
import RunFigures from './RunFigures.vue';
import { counted, remainingText } from '../ui/format.ts';
import { useNotices } from '../app/notices.ts';
import { useRuns } from './runs.ts';

/** A run: its progress, then its outputs as a wall, and below what came of it. */
const props = defineProps<{ id: number }>();

const REFRESH_MS = 700;
const runs = useRuns();
const notices = useNotices();
const router = useRouter();
const items = shallowRef<readonly RunItemView[]>([]);
const problem = ref<string | null>(null);
const isLoaded = ref(false);
const looked = ref<RunItemView | null>(null);

const run = computed(() => runs.runOf(props.id));
const written = computed(() => items.value.filter((item) => item.status === 'written'));
const failed = computed(() => items.value.filter((item) => item.status === 'failed'));
/** Written, but with something to know about it. */
const noted = computed(() => items.value.filter((item) => item.note !== null));
const isUnderWay = computed(() => run.value?.state === 'running' || run.value?.state === 'paused');
const finished = computed(() =>
  run.value ? run.value.written + run.value.skipped + run.value.failed : 0,
);
const progressText = computed(() => {
  const now = run.value;
  if (!now) return '';
  const done = `${finished.value} of ${counted(now.total, 'photo')}`;
  if (now.state === 'paused') return `${done}, paused`;
  return now.remainingMs === null ? done : `${done}, ${remainingText(now.remainingMs)} left`;
});

const emptyText = computed(() => {
  if (run.value?.state === 'paused') return 'Paused before the first photo was written';
  return isUnderWay.value ? 'The first photos are being written' : 'Nothing was written';
});

async function load(): Promise<void> {
  problem.value = null;
  try {
    const detail = await api.get<RunDetailView>(`/runs/${props.id}`);
    if (isLeft) return;
    // Also one that is too old to be listed.
    runs.take(detail.run);
    items.value = detail.items;
    isLoaded.value = true;
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}
let isLeft = false;
onMounted(load);
onBeforeUnmount(() => (isLeft = true));
const refresh = useThrottleFn(load, REFRESH_MS, true);
watch(
  () => run.value?.told,
  (now, before) => {
    if (before !== undefined && now !== before) void refresh();
  },
);

function steer(action: 'pause' | 'resume' | 'cancel' | 'retry'): void {
  void notices.attempt(() => runs.steer(props.id, action));
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
  <ErrorState v-if="problem && !isLoaded" :text="problem" action="Try again" @act="load" />
  <div v-else-if="run" class="work">
    <div class="surround work-wall">
      <header class="head">
        <h1>{{ run.batchName }}</h1>
        <span class="what">{{ run.deliveryName }}, {{ run.presetName }}</span>
      </header>
      <OutputLook v-if="looked" :item="looked" class="stage" @close="looked = null" />
      <OutputWall
        v-else-if="written.length > 0"
        class="stage"
        :items="written"
        @look="looked = $event"
      />
      <p v-else class="stage waiting">
        {{ emptyText }}
      </p>
    </div>
    <div v-if="isUnderWay" class="going">
      <span class="number words">{{ progressText }}</span>
      <span v-if="run.problem" class="in-the-way" role="alert">{{ run.problem }}</span>
      <span
        class="bar"
        role="progressbar"
        aria-label="Photos exported"
        :aria-valuenow="finished"
        :aria-valuemax="run.total"
      >
        <i :style="{ width: `${(100 * finished) / Math.max(1, run.total)}%` }" />
      </span>
      <button
        v-if="run.state === 'running'"
        class="btn btn-outline-secondary"
        type="button"
        @click="steer('pause')"
      >
        Pause
      </button>
      <button v-else class="btn btn-primary" type="button" @click="steer('resume')">Go on</button>
      <button class="btn btn-outline-secondary" type="button" @click="steer('cancel')">
        Cancel
      </button>
    </div>
    <div class="tray">
      <section class="part" aria-label="Result">
        <h2 class="minor">Result</h2>
        <p class="number result">
          <b>{{ run.written }}</b> written<template v-if="run.skipped"
            >, <b>{{ run.skipped }}</b> skipped</template
          ><template v-if="run.failed"
            >, <b class="bad">{{ run.failed }}</b> failed</template
          ><template v-if="run.cancelled">, {{ run.cancelled }} not begun</template>
        </p>
        <p class="quiet path" :title="run.folder">{{ run.folder }}</p>
        <div class="links">
          <button v-if="!isUnderWay" class="btn btn-link" type="button" @click="remove">
            Take off the list
          </button>
          <RouterLink v-if="run.batchId" class="btn btn-link" :to="`/batches/${run.batchId}`"
            >To the batch</RouterLink
          >
        </div>
      </section>
      <section class="part figures" aria-label="Before and after">
        <RunFigures :run="run" :items="written" />
      </section>
      <section class="part failures" aria-label="Failed">
        <h2 class="minor">
          {{ failed.length > 0 ? counted(failed.length, 'photo') + ' failed' : 'Nothing failed' }}
        </h2>
        <ul v-if="failed.length + noted.length > 0">
          <li v-for="item in failed" :key="item.id">{{ item.error }}</li>
          <li v-for="item in noted" :key="item.id" class="noted">
            {{ item.sourceName }}: {{ item.note }}
          </li>
        </ul>
        <p v-else class="quiet">Each file was flushed to disk before it got its name.</p>
        <button
          v-if="(run.failed > 0 || run.cancelled > 0) && !isUnderWay"
          class="btn btn-outline-secondary"
          type="button"
          @click="steer('retry')"
        >
          {{ run.failed > 0 ? 'Retry failed' : 'Go on' }}
        </button>
      </section>
      <section class="part go" aria-label="Take away">
        <h2 class="minor">Take away</h2>
        <a
          v-if="run.written > 0"
          class="btn btn-primary zip"
          :class="{ waiting: isUnderWay }"
          :href="`/api/runs/${run.id}/zip`"
          download
        >
          Download {{ counted(run.written, 'file') }} as ZIP
        </a>
      </section>
    </div>
  </div>
  <ErrorState v-else-if="isLoaded" text="This run is not on the list any more." />
</template>

<style scoped>
.in-the-way {
  color: var(--lc-lost-deep);
  font-weight: 600;
}

.surround {
  display: grid;
  gap: 12px;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr);
  padding: 14px 6px 0 18px;
}

.head {
  align-items: baseline;
  display: flex;
  gap: 16px;
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

.stage {
  min-height: 0;
}

.waiting {
  padding-top: 12vh;
  text-align: center;
}

.going {
  align-items: center;
  background: var(--lc-card);
  border-top: 1px solid var(--lc-hairline);
  display: flex;
  gap: 16px;
  padding: 10px 18px;
}

.words {
  min-width: 230px;
}

.bar {
  background: var(--lc-paper-deep);
  border-radius: 4px;
  flex: 1;
  height: 8px;
  overflow: hidden;
}

.bar i {
  background: var(--lc-clear);
  display: block;
  height: 100%;
  transition: width var(--lc-quick);
}

.tray {
  background: var(--lc-paper);
  border-top: 1px solid var(--lc-hairline);
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.6fr) minmax(0, 1.3fr) minmax(0, 1fr);
  height: 176px;
}

.part {
  border-right: 1px solid var(--lc-hairline);
  display: flex;
  flex-direction: column;
  gap: 7px;
  min-height: 0;
  min-width: 0;
  padding: 12px 18px;
}

.part:last-child {
  border-right: 0;
}

.result {
  font-size: 1rem;
}

.result b {
  font-family: var(--lc-serif);
  font-size: 1.5rem;
  font-weight: 500;
}

.bad {
  color: var(--lc-lost-deep);
}

.path {
  font-size: 0.8125rem;
  max-height: 2.9em;
  overflow: hidden;
  overflow-wrap: anywhere;
}

.links {
  display: flex;
  gap: 8px;
  margin: auto 0 0 -0.35rem;
}

.failures ul {
  color: var(--lc-lost-deep);
  flex: 1;
  font-size: 0.8125rem;
  list-style: none;
  margin: 0;
  min-height: 0;
  overflow: auto;
  padding: 0;
}

.failures .btn {
  align-self: start;
}

.zip {
  font-size: 0.95rem;
  margin-top: auto;
  padding-block: 8px;
}

.zip.waiting {
  opacity: 0.75;
}
</style>
