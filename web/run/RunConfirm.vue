<script setup lang="ts">
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import type { PhotoView, RunWish } from '#core/contract/http';
import { useAttempt } from '../api/useAttempt.ts';
import { useResource } from '../api/useResource.ts';
import { bytesText, counted } from '../ui/format.ts';
import { useAdjustmentSync } from '../batch/adjustmentSync.ts';
import DeliveryPlan from './DeliveryPlan.vue';
import RunMarks from './RunMarks.vue';
import RunNotes from './RunNotes.vue';
import { useLibrary } from '../app/library.ts';
import WordSelect from '../ui/WordSelect.vue';
import { useRuns } from './runs.ts';
import { wallNames } from './wallNames.ts';

/** What a run will do, before it does it: how many files, where, how large, what exists already. */
const props = defineProps<{
  wish: RunWish;
  batchName: string;
  isStillComingIn: boolean;
  /** One photo that goes out by itself: its delivery is chosen here. */
  alone?: PhotoView | null;
}>();
const emit = defineEmits<{
  close: [];
  showUnclear: [kind: 'faint' | 'lost'];
  deliver: [id: number];
  /** Which marks the first delivery is to have. */
  lay: [what: 'own' | 'wall'];
}>();

const runs = useRuns();
const sync = useAdjustmentSync();
const router = useRouter();
const library = useLibrary();
const {
  value: answered,
  problem: planProblem,
  isLoading: isPlanning,
} = useResource(
  () => runs.plan(props.wish),
  () => [props.wish, props.isStillComingIn],
);
/** Of what is wished now, and of nothing before. */
const plan = computed(() => (planProblem.value === null ? answered.value : null));
const { problem: startProblem, isBusy: isStarting, attempt } = useAttempt();
const problem = computed(() => startProblem.value ?? planProblem.value);
const deliveries = computed(() =>
  library.deliveries.map(({ id, name }) => ({ value: String(id), label: name })),
);
const leastFree = computed(() => {
  const free = (plan.value?.disks ?? []).map(({ freeBytes }) => freeBytes);
  return free.length > 0 ? Math.min(...free) : null;
});
/** How marks read is known of those on the wall alone. */
const laysWall = computed(() =>
  (plan.value?.deliveries ?? []).some(({ preset }) => preset === wallNames(props.wish)),
);

function start(): Promise<void> {
  return attempt(async () => {
    // What was adjusted a moment ago belongs to the run.
    if (!(await sync.flush())) throw new Error('The adjustments could not be saved.');
    const run = await runs.begin(props.wish);
    await router.push(`/runs/${run.id}`);
  });
}
</script>

<template>
  <section class="confirm" aria-label="Confirm the export" @keydown.esc="emit('close')">
    <div v-if="plan" class="sum">
      <dl class="facts number">
        <div>
          <dt>files</dt>
          <dd>{{ plan.files }}</dd>
        </div>
        <div>
          <dt>together about</dt>
          <dd>{{ bytesText(plan.estimatedBytes) }}</dd>
        </div>
      </dl>
      <p v-if="alone" class="fw-medium text-truncate m-0" :title="alone.name">{{ alone.name }}</p>
      <WordSelect
        v-if="alone"
        label="by"
        :options="deliveries"
        :model-value="String(wish.deliveryIds[0])"
        @update:model-value="emit('deliver', Number($event))"
      />
      <RunMarks
        :wish="wish"
        :laid="plan.deliveries[0]?.preset ?? null"
        @lay="emit('lay', $event)"
      />
      <p v-if="wish.order && plan.photos > 1" class="quiet">in the order of the wall</p>
      <p v-if="leastFree !== null" class="quiet">{{ bytesText(leastFree) }} are free there.</p>
    </div>
    <ul v-if="plan" class="deliveries list-unstyled m-0">
      <DeliveryPlan
        v-for="delivery in plan.deliveries"
        :key="delivery.deliveryId"
        :plan="delivery"
        :is-one="plan.deliveries.length === 1"
      />
    </ul>
    <RunNotes
      class="notes"
      :plan="plan"
      :photo-ids="wish.photoIds"
      :lays-wall="laysWall"
      :is-still-coming-in="isStillComingIn"
      :problem="problem"
      @show-unclear="emit('showUnclear', $event)"
    />
    <div class="go align-items-end d-flex">
      <BButton variant="outline-secondary" @click="emit('close')">Cancel</BButton>
      <BButton
        variant="primary"
        :disabled="!plan || plan.problem !== null || isPlanning || isStarting || isStillComingIn"
        autofocus
        @click="start"
      >
        {{ isStarting ? 'Starting' : `Start: ${counted(plan?.files ?? 0, 'file')}` }}
      </BButton>
    </div>
  </section>
</template>

<style scoped>
.confirm {
  background: var(--lc-paper);
  border-top: 1px solid var(--lc-hairline);
  display: grid;
  gap: 14px 40px;
  grid-template-columns: minmax(200px, 0.7fr) minmax(360px, 1.8fr) auto;
  max-height: 62vh;
  min-height: 204px;
  overflow-y: auto;
  padding: 18px 24px 20px;
}

.facts {
  align-content: start;
  display: grid;
  gap: 8px 26px;
  grid-template-columns: auto 1fr;
  margin: 0;
}

.sum {
  align-content: start;
  display: grid;
  gap: 8px;
}

.facts dd {
  font-family: var(--lc-serif);
  font-size: 1.35rem;
  line-height: 1.15;
  margin: 0;
}

dt {
  color: var(--lc-ink-quiet);
  font-size: 0.8125rem;
  font-weight: 400;
}

.deliveries {
  display: grid;
  gap: 12px;
  grid-auto-rows: min-content;
}

.notes {
  grid-column: 1 / 3;
  grid-row: 2;
}

.go {
  gap: 10px;
  grid-column: 3;
  grid-row: 1 / 3;
}

.go .btn-primary {
  font-size: 1rem;
  padding: 9px 26px;
}

@media (max-width: 900px) {
  .confirm {
    grid-template-columns: minmax(0, 1fr);
    max-height: calc(100vh - var(--lc-header) - 120px);
    min-height: 0;
    overflow: auto;
    padding: 14px 16px;
  }

  .notes,
  .go {
    grid-column: 1;
    grid-row: auto;
  }

  .go {
    background: var(--lc-paper);
    bottom: -14px;
    padding-block: 8px;
    position: sticky;
  }

  .go .btn {
    flex: 1;
  }
}

@media (max-height: 460px) {
  .confirm {
    max-height: none;
  }

  .go {
    position: static;
  }
}
</style>
