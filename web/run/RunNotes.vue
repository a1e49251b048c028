<script setup lang="ts">
import { computed } from 'vue';
import type { DeliveryPlanView, RunPlanView } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import { useReadings } from '../readability/readings.ts';
import { bytesText, counted } from '../ui/format.ts';

/** What should be known before a run begins. */
const props = defineProps<{
  plan: RunPlanView | null;
  /** Null: all of the batch. */
  photoIds: readonly number[] | null;
  /** Some delivery lays the marks that the wall shows. */
  laysWall: boolean;
  isStillComingIn: boolean;
  problem: string | null;
}>();
const emit = defineEmits<{ showUnclear: [kind: 'faint' | 'lost'] }>();

const readings = useReadings();

/** On which photos the mark cannot be read well, as far as it is known. */
const reads = computed(() => readings.countsOf(props.photoIds ? new Set(props.photoIds) : null));
const worst = computed(() => (reads.value.lost > 0 ? 'lost' : 'faint'));
const unclear = computed(() => {
  if (!props.laysWall) return '';
  const { faint, lost } = reads.value;
  const parts = [lost > 0 ? `lost on ${lost}` : '', faint > 0 ? `faint on ${faint}` : ''];
  const told = parts.filter(Boolean).join(' and ');
  return told && `The mark is ${told} of the photos.`;
});

const library = useLibrary();
const existingOf = ({ deliveryId }: DeliveryPlanView) =>
  library.deliveryOf(deliveryId)?.rule.existing ?? 'number';
const isOne = computed(() => props.plan?.deliveries.length === 1);
const existing = computed(() =>
  (props.plan?.deliveries ?? [])
    .filter((delivery) => delivery.existing > 0)
    .map((delivery) => ({
      id: delivery.deliveryId,
      text: `${isOne.value ? '' : `${delivery.name}: `}${existingSentence(delivery)}`,
      isStrong: existingOf(delivery) === 'replace',
    })),
);

function existingSentence(delivery: DeliveryPlanView): string {
  const isOneFile = delivery.existing === 1;
  const there = isOneFile
    ? '1 file of this name exists in the folder'
    : `${counted(delivery.existing, 'file')} of these names exist in the folder`;
  switch (existingOf(delivery)) {
    case 'replace':
      return `${there} and will be replaced.`;
    case 'skip':
      return `${there}; ${isOneFile ? 'that photo is' : 'those photos are'} skipped.`;
    default:
      return `${there}; both are kept, the new ${isOneFile ? 'one gets' : 'ones get'} a number.`;
  }
}

/** Of one run: the patterns of names do not tell its photos apart. */
const sameNames = computed(() =>
  (props.plan?.deliveries ?? [])
    .filter((delivery) => delivery.sameNames > 0)
    .map(({ deliveryId, name, sameNames: count }) => ({
      folder: deliveryId,
      text:
        `${isOne.value ? '' : `${name}: `}${counted(count, 'file')} would have the name of another ` +
        `of this run; ${count === 1 ? 'it gets' : 'they get'} a number. A {number} in the name tells them apart.`,
    })),
);

/** The estimate is rough: with less than this much of it to spare, the room may not do. */
const ROOM_TO_SPARE = 1.1;
const tight = computed(() =>
  (props.plan?.disks ?? [])
    .filter(({ neededBytes, freeBytes }) => neededBytes * ROOM_TO_SPARE > freeBytes)
    .map(({ folder, neededBytes, freeBytes }) => ({
      folder,
      text:
        `The files need about ${bytesText(neededBytes)}, and ${bytesText(freeBytes)} are free on the ` +
        `disk of ${folder}.`,
    })),
);

/** Photos of more than 8 bits a colour, where any of the files has only 8. */
const reducedBits = computed(() =>
  Math.max(0, ...(props.plan?.deliveries ?? []).map((delivery) => delivery.reducedBits)),
);

/** Of all photos: a run that is begun now may be a surprise on these. */
const unknown = computed(() => readings.shares.filter((share) => Number.isNaN(share)).length);
</script>

<template>
  <div>
    <p v-if="isStillComingIn" class="note">
      Photos are still coming in; the run takes those that are here when it starts.
    </p>
    <p
      v-for="{ id, text, isStrong } in existing"
      :key="id"
      class="note"
      :class="{ strong: isStrong }"
    >
      {{ text }}
    </p>
    <p v-for="{ folder, text } in sameNames" :key="folder" class="note">{{ text }}</p>
    <p v-for="{ folder, text } in tight" :key="folder" class="note strong">{{ text }}</p>
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
    <p v-if="reducedBits > 0" class="note">
      {{ counted(reducedBits, 'photo') }} of more than 8 bits a colour will have 8; PNG and TIFF
      could keep them all.
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
