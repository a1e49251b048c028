<script setup lang="ts">
import { computed } from 'vue';
import type { ExistingRule } from '#core/contract/delivery';
import type { RunPlanView } from '#core/contract/http';
import { useReadings } from '../readability/readings.ts';
import { counted } from '../ui/format.ts';

/** What should be known before a run begins. */
const props = defineProps<{
  plan: RunPlanView | null;
  existing: ExistingRule | null;
  /** Null: all of the batch. */
  photoIds: readonly number[] | null;
  isStillComingIn: boolean;
  problem: string | null;
}>();
const emit = defineEmits<{ showUnclear: [kind: 'faint' | 'lost'] }>();

const readings = useReadings();

/** On which photos the mark cannot be read well, as far as it is known. */
const reads = computed(() => readings.countsOf(props.photoIds ? new Set(props.photoIds) : null));
const worst = computed(() => (reads.value.lost > 0 ? 'lost' : 'faint'));
const unclear = computed(() => {
  const { faint, lost } = reads.value;
  const parts = [lost > 0 ? `lost on ${lost}` : '', faint > 0 ? `faint on ${faint}` : ''];
  const told = parts.filter(Boolean).join(' and ');
  return told && `The mark is ${told} of the photos.`;
});

const existingSentence = computed(() => {
  const count = props.plan?.existing ?? 0;
  if (count === 0) return null;
  const files = counted(count, 'file');
  switch (props.existing) {
    case 'replace':
      return `${files} of these names exist in the folder and will be replaced.`;
    case 'skip':
      return `${files} of these names exist in the folder; those photos are skipped.`;
    default:
      return `${files} of these names exist in the folder; both are kept, the new ones get a number.`;
  }
});

/** Of all photos: a run that is begun now may be a surprise on these. */
const unknown = computed(() => readings.shares.filter((share) => Number.isNaN(share)).length);
</script>

<template>
  <div>
    <p v-if="isStillComingIn" class="note">
      Photos are still coming in; the run takes those that are here when it starts.
    </p>
    <p v-if="existingSentence" class="note" :class="{ strong: existing === 'replace' }">
      {{ existingSentence }}
    </p>
    <p v-if="unclear" class="note" :class="{ strong: reads.lost > 0 }">
      {{ unclear }}
      <button type="button" class="btn btn-link" @click="emit('showUnclear', worst)">
        Look at {{ reads[worst] === 1 ? 'it' : 'them' }}
      </button>
    </p>
    <p v-if="unknown > 0" class="note">
      How the mark reads is not known yet on {{ counted(unknown, 'photo') }}.
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
</template>

<style scoped>
.note {
  border-left: 3px solid var(--lc-brass-light);
  padding-left: 10px;
}

.note.strong {
  border-color: var(--lc-lost);
  color: var(--lc-lost-deep);
  font-weight: 600;
}

.note .btn {
  font-size: inherit;
  padding: 0 4px;
  vertical-align: baseline;
}
</style>
