<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import type { RunPlanView, RunWish } from '#core/contract/http';
import { sentenceOf } from '../api/client.ts';
import { bytesText, counted } from '../ui/format.ts';
import { existingText, metadataText, resizeText, typeText } from '../delivery/deliveryText.ts';
import { useAdjustmentSync } from '../batch/adjustmentSync.ts';
import { useLibrary } from '../app/library.ts';
import { useReadings } from '../readability/readings.ts';
import { useRuns } from './runs.ts';

/** What a run will do, before it does it: how many files, where, how large, what exists already. */
const props = defineProps<{ wish: RunWish; batchName: string; isStillComingIn: boolean }>();
const emit = defineEmits<{ close: []; showUnclear: [kind: 'faint' | 'lost'] }>();

const library = useLibrary();
const runs = useRuns();
const sync = useAdjustmentSync();
const readings = useReadings();
const router = useRouter();
const plan = ref<RunPlanView | null>(null);
const problem = ref<string | null>(null);
const isStarting = ref(false);

const delivery = computed(() => library.deliveryOf(props.wish.deliveryId));
const rule = computed(() => delivery.value?.rule ?? null);

watch(
  () => JSON.stringify([props.wish, props.isStillComingIn]),
  async () => {
    problem.value = null;
    try {
      plan.value = await runs.plan(props.wish);
    } catch (error) {
      plan.value = null;
      problem.value = sentenceOf(error);
    }
  },
  { immediate: true },
);

/** On which photos the mark cannot be read well, as far as it is known. */
const reads = computed(() =>
  readings.countsOf(props.wish.photoIds ? new Set(props.wish.photoIds) : null),
);
const worst = computed(() => (reads.value.lost > 0 ? 'lost' : 'faint'));
const unclear = computed(() => {
  const { faint, lost } = reads.value;
  const parts = [lost > 0 ? `lost on ${lost}` : '', faint > 0 ? `faint on ${faint}` : ''];
  const told = parts.filter(Boolean).join(' and ');
  return told && `The mark is ${told} of the photos.`;
});

const existingSentence = computed(() => {
  const count = plan.value?.existing ?? 0;
  if (count === 0) return null;
  const files = counted(count, 'file');
  switch (rule.value?.existing) {
    case 'replace':
      return `${files} of these names exist in the folder and will be replaced.`;
    case 'skip':
      return `${files} of these names exist in the folder; those photos are skipped.`;
    default:
      return `${files} of these names exist in the folder; both are kept, the new ones get a number.`;
  }
});

async function start(): Promise<void> {
  isStarting.value = true;
  problem.value = null;
  try {
    // What was adjusted a moment ago belongs to the run.
    if (!(await sync.flush())) throw new Error('The adjustments could not be saved.');
    const run = await runs.begin(props.wish);
    await router.push(`/runs/${run.id}`);
  } catch (error) {
    problem.value = sentenceOf(error);
    isStarting.value = false;
  }
}
</script>

<template>
  <section class="confirm" aria-label="Confirm the export" @keydown.esc="emit('close')">
    <div class="what">
      <h2>{{ delivery?.name }}</h2>
      <p v-if="rule">
        {{ typeText(rule.file) }}, {{ resizeText(rule.resize) }}, sRGB,
        {{ metadataText(rule.metadata) }}, {{ existingText(rule.existing) }}.
      </p>
      <p class="quiet">With {{ wish.presetName }}, as the wall shows it.</p>
    </div>
    <dl v-if="plan" class="facts number">
      <div>
        <dt>files</dt>
        <dd>{{ plan.files }}</dd>
      </div>
      <div>
        <dt>together about</dt>
        <dd>{{ bytesText(plan.estimatedBytes) }}</dd>
      </div>
      <div class="wide">
        <dt>into</dt>
        <dd class="path" :title="plan.folder">{{ plan.folder }}</dd>
      </div>
      <div class="wide">
        <dt>named</dt>
        <dd class="path">
          {{ plan.examples.join(', ') }}{{ plan.files > plan.examples.length ? ' …' : '' }}
        </dd>
      </div>
    </dl>
    <div class="notes">
      <p v-if="isStillComingIn" class="note">
        Photos are still coming in; the run takes those that are here when it starts.
      </p>
      <p v-if="existingSentence" class="note" :class="{ strong: rule?.existing === 'replace' }">
        {{ existingSentence }}
      </p>
      <p v-if="unclear" class="note" :class="{ strong: reads.lost > 0 }">
        {{ unclear }}
        <button type="button" class="btn btn-link" @click="emit('showUnclear', worst)">
          Look at {{ reads[worst] === 1 ? 'it' : 'them' }}
        </button>
      </p>
      <p v-if="plan && plan.leftOut > 0" class="note">
        {{ counted(plan.leftOut, 'photo') }} {{ plan.leftOut === 1 ? 'is' : 'are' }} left out.
      </p>
      <p v-if="plan && plan.reducedBits > 0" class="note">
        {{ counted(plan.reducedBits, 'photo') }} of more than 8 bits a colour will have 8; PNG and
        TIFF could keep them all.
      </p>
      <p v-if="plan && plan.undated > 0" class="note">
        {{ counted(plan.undated, 'photo') }} {{ plan.undated === 1 ? 'has' : 'have' }} no capture
        date: the mark takes the year of the file.
      </p>
      <p v-if="problem ?? plan?.problem" class="note strong" role="alert">
        {{ problem ?? plan?.problem }}
      </p>
    </div>
    <div class="go align-items-end d-flex">
      <BButton variant="outline-secondary" @click="emit('close')">Cancel</BButton>
      <BButton
        variant="primary"
        :disabled="!plan || plan.problem !== null || isStarting || isStillComingIn"
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
  grid-template-columns: minmax(240px, 1fr) minmax(320px, 1.5fr) auto;
  min-height: 204px;
  padding: 18px 24px 20px;
}

.what {
  display: grid;
  gap: 6px;
  grid-auto-rows: min-content;
}

.facts {
  align-content: start;
  display: grid;
  gap: 8px 26px;
  grid-template-columns: auto 1fr;
  margin: 0;
}

.facts div {
  display: grid;
}

.facts .wide {
  grid-column: 1 / -1;
}

dt {
  color: var(--lc-ink-quiet);
  font-size: 0.8125rem;
  font-weight: 400;
}

dd {
  font-family: var(--lc-serif);
  font-size: 1.35rem;
  line-height: 1.15;
  margin: 0;
}

.wide {
  align-items: baseline;
  gap: 10px;
  grid-template-columns: 52px minmax(0, 1fr);
}

dd.path {
  font-family: var(--lc-sans);
  font-size: 0.875rem;
  overflow: hidden;
  overflow-wrap: anywhere;
}

.notes {
  grid-column: 1 / 3;
  grid-row: 2;
}

.note {
  border-left: 3px solid var(--lc-brass-light);
  padding-left: 10px;
}

.note.strong {
  border-color: var(--lc-lost);
  color: var(--lc-lost-deep);
  font-weight: 600;
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

.note .btn {
  font-size: inherit;
  padding: 0 4px;
  vertical-align: baseline;
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
