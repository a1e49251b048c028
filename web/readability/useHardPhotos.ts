import { computed, shallowRef, watch, type ComputedRef } from 'vue';
import type { PhotoView, Pins } from '#core/contract/http';
import {
  HARD_KINDS,
  hardPhotos,
  type HardKind,
  type HardPhoto,
} from '#core/readability/hardPhotos';
import { useReadings } from './readings.ts';

export interface HardView extends HardPhoto {
  readonly photo: PhotoView;
}

export const HARD_WORDS: Readonly<Record<HardKind, string>> = Object.freeze({
  widest: 'widest',
  tallest: 'tallest',
  brightest: 'brightest under the mark',
  darkest: 'darkest under the mark',
  busiest: 'busiest under the mark',
});

/**
 * The five hard photos of what is followed, for the placement as it is now. They are looked for
 * again when the hand rests, so that none jumps away from under a drag.
 */
export function useHardPhotos(pins: () => Pins): ComputedRef<HardView[]> {
  const readings = useReadings();
  const found = shallowRef<HardPhoto[]>([]);

  function find(): void {
    const facts = readings.hardFacts();
    if (facts.length > 0) found.value = hardPhotos(facts, pins());
  }
  watch(
    () => [readings.rested, pins(), readings.estimates === null] as const,
    () => find(),
    { immediate: true },
  );

  return computed(() => {
    const byId = new Map(readings.photos.map((photo) => [photo.id, photo]));
    const hard = found.value.flatMap((some) => {
      const photo = byId.get(some.id);
      return photo ? [{ ...some, photo }] : [];
    });
    // Until the first estimates are there, the first photos keep the places.
    if (hard.length > 0) return hard;
    return readings.photos
      .slice(0, HARD_KINDS.length)
      .map((photo, index) => ({ kind: HARD_KINDS[index], id: photo.id, isPinned: false, photo }));
  });
}
