<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import type { LiftWish, MarkView, ScanView } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import type { LiftSettings } from '#core/contract/lift';
import { freeName } from '#core/placement/suggestName';
import { api } from '../api/client.ts';
import { useAttempt } from '../api/useAttempt.ts';
import { useResource } from '../api/useResource.ts';
import type { Dropped } from '../ui/droppedFiles.ts';
import ErrorState from '../app/ErrorState.vue';
import LandingPlace from '../ui/LandingPlace.vue';
import InkPane from './InkPane.vue';
import LevelChart from './LevelChart.vue';
import LiftBench from './LiftBench.vue';
import SheetPane from './SheetPane.vue';
import PageChooser from './PageChooser.vue';
import { useLift } from './useLift.ts';
import { useDropTarget } from '../ui/windowDrop.ts';
import { useLibrary } from '../app/library.ts';
import { useFirstSteps } from '../start/firstSteps.ts';
import { useNotices } from '../app/notices.ts';

/** Ink on paper becomes a mark: paper on the left, ink on the right, what is set below. */
const props = defineProps<{ scanId: number | null; page: number | null; markId: number | null }>();

const router = useRouter();
const library = useLibrary();
const notices = useNotices();
const { goOn } = useFirstSteps();
const lift = useLift();
const landing = ref<InstanceType<typeof LandingPlace> | null>(null);
const { value: found, problem: scanProblem } = useResource(
  (signal) => api.get<ScanView>(`/scans/${props.scanId}`, { signal }),
  () => props.scanId,
);
const scan = computed(() => (found.value?.id === props.scanId ? found.value : null));
const isChoosing = computed(() => (scan.value?.pages ?? 1) > 1 && props.page === null);
const chosenPage = computed(() => props.page ?? 1);
const { problem: openProblem } = useResource(
  async () => {
    const url = `/api/scans/${props.scanId}/picture?page=${chosenPage.value}`;
    await lift.open(url, await keptSettings());
  },
  () => (scan.value && !isChoosing.value ? [scan.value.id, chosenPage.value, props.markId] : null),
);
const { problem: bringProblem, isBusy: isBringing, attempt } = useAttempt();
const isKeeping = ref(false);

const mark = computed(() => library.markOf(props.markId));
const failed = computed(() =>
  props.scanId === null ? null : (scanProblem.value ?? openProblem.value ?? lift.problem.value),
);
const suggestedName = computed(() =>
  freeName(
    'Signature',
    library.marks.map(({ name }) => name),
  ),
);

async function keptSettings(): Promise<LiftSettings | null> {
  if (props.markId === null) return null;
  const origin = await api.get<MarkOrigin>(`/marks/${props.markId}/origin`);
  return origin.kind === 'paper' && origin.scanId === props.scanId ? origin.settings : null;
}

function bring({ files }: Dropped): Promise<void> {
  return attempt(async () => {
    const [file] = files;
    const query = new URLSearchParams({ name: file.name });
    const added = await api.post<ScanView>(`/scans?${query}`, file);
    const mark = props.markId === null ? '' : `?mark=${props.markId}`;
    await router.push(`/marks/from-paper/${added.id}${mark}`);
  });
}

useDropTarget({ says: 'Lift the ink from it', take: (dropped) => void bring(dropped) });

function choosePage(page: number): void {
  void router.push({ query: { page, ...(props.markId === null ? {} : { mark: props.markId }) } });
}

async function keep(name: string): Promise<void> {
  if (!scan.value || isKeeping.value) return;
  isKeeping.value = true;
  const wish: LiftWish = {
    page: chosenPage.value,
    settings: lift.settings.value,
    name,
    markId: props.markId,
  };
  await notices.attempt(async () => {
    const kept = await api.post<MarkView>(`/scans/${scan.value?.id}/lift`, wish);
    await library.refreshMarks();
    notices.done(`${kept.name} is in the library.`);
    await goOn(kept.id);
  });
  isKeeping.value = false;
}
</script>

<template>
  <ErrorState
    v-if="failed"
    :text="failed"
    action="Bring in another scan"
    @act="router.push('/marks/from-paper')"
  />
  <LandingPlace
    v-else-if="scanId === null"
    ref="landing"
    class="bring"
    label="Scan"
    @dropped="bring"
  >
    <template #default="{ isOver }">
      <div
        class="welcome align-items-center d-flex flex-column gap-3 justify-content-center text-center"
        :class="{ over: isOver }"
      >
        <h1>From paper</h1>
        <p class="lead">
          Sign on white paper with a thick black pen. Scan it, or photograph it from above in
          daylight. Light that falls off, a soft shadow, a sheet that lies sideways: all of that is
          taken care of.
        </p>
        <p v-if="bringProblem" class="problem" role="alert">{{ bringProblem }}</p>
        <BButton variant="primary" :disabled="isBringing" @click="landing?.chooseFiles()">
          {{ isBringing ? 'Reading the scan' : 'Bring in a scan or photo' }}
        </BButton>
        <p class="quiet">or drop it here: JPEG, PNG, TIFF, HEIC, WebP or PDF</p>
      </div>
    </template>
  </LandingPlace>
  <div v-else-if="isChoosing && scan" class="page">
    <header class="page-head">
      <h1>{{ scan.name }}</h1>
      <span class="quiet">Which page is it on?</span>
    </header>
    <PageChooser :scan="scan" @choose="choosePage" />
  </div>
  <div v-else class="work">
    <h1 class="visually-hidden">From paper: {{ scan?.name }}</h1>
    <div class="wall work-wall d-grid gap-3">
      <SheetPane :lift="lift" />
      <LevelChart
        :histogram="lift.look.value?.histogram ?? null"
        :levels="lift.levels.value"
        @change="lift.change"
      />
      <InkPane :lift="lift" />
    </div>
    <LiftBench
      :lift="lift"
      :suggested-name="suggestedName"
      :is-keeping="isKeeping"
      :replaces="mark?.name ?? null"
      @keep="keep"
    />
  </div>
</template>

<style scoped>
.wall {
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr);
  /* A window that becomes smaller makes the pictures smaller, too. */
  grid-template-rows: minmax(0, 1fr);
  padding: 12px 18px;
}

.wall > .chart {
  margin: 38px 0 34px;
}

.bring {
  height: 100%;
  padding: 26px 32px;
}

.welcome {
  border: 2px dashed var(--lc-line);
  border-radius: 8px;
  height: 100%;
}

.welcome.over {
  background: var(--lc-paper-deep);
  border-color: var(--lc-brass-light);
}

.lead {
  font-size: 1rem;
  max-width: 52ch;
}

.problem {
  border-left: 3px solid var(--lc-lost);
  color: var(--lc-lost-deep);
  max-width: 60ch;
  padding-left: 12px;
  text-align: left;
}

/* One below the other: the paper, its levels, the ink. */
@media (max-width: 900px) {
  .wall {
    align-content: start;
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(280px, 60%) auto minmax(280px, 60%);
    overflow: auto;
    padding: 10px 12px;
  }

  .wall > .chart {
    margin: 0 auto;
    max-height: 220px;
  }

  .bring {
    padding: 12px;
  }

  .welcome {
    height: auto;
    min-height: 100%;
    padding: 20px 12px;
  }
}
</style>
