import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import { ANCHORS } from '#core/contract/preset';
import { calmCounts, isOnBusiest } from '#core/readability/calmness';
import { useDraft } from '../preset/draft.ts';
import { useReadings } from './readings.ts';

/** Where the photos of a view are calm, looked at whenever the hand rests. */
export const useCalmPlaces = defineStore('calmPlaces', () => {
  const draft = useDraft();
  const readings = useReadings();
  /** As `PLACES` says, in the order of the photos; null while nothing is known. */
  const numbers = shallowRef<Float32Array | null>(null);

  async function look(): Promise<void> {
    const asked = readings.photos;
    const found = await readings.askCalm();
    if (readings.photos === asked) numbers.value = found;
  }
  watch(
    // The light of photos may come after all else has come to rest.
    () => [readings.rested, readings.photos, readings.lightsTaken] as const,
    () => void look(),
    { immediate: true },
  );

  /** On how many photos each place is calm, in the order of `ANCHORS`. */
  const counts = computed(() => numbers.value && calmCounts(numbers.value));

  /** Photos of which the mark lies on the busiest part. */
  const onBusiest = computed<ReadonlySet<number>>(() => {
    const known = numbers.value;
    // One that is repeated lies everywhere.
    if (!known || draft.baseRule.repeat) return new Set();
    const found = readings.photos.flatMap(({ id }, index) => {
      const anchor = ANCHORS.indexOf(readings.choiceFor(id).anchor);
      return isOnBusiest(known, index, anchor) ? [id] : [];
    });
    return new Set(found);
  });

  return { counts, onBusiest };
});
