import { computed, shallowRef, watch, type ComputedRef } from 'vue';
import type { PhotoView, Pins } from '#core/contract/http';
import { hardPhotos, type HardKind, type HardPhoto } from '#core/readability/hardPhotos';
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

function shown(hard: readonly HardPhoto[], photos: readonly PhotoView[]): HardView[] {
  const byId = new Map(photos.map((photo) => [photo.id, photo]));
  return hard.flatMap((some) => {
    const photo = byId.get(some.id);
    return photo ? [{ ...some, photo }] : [];
  });
}

function byShape(photos: readonly PhotoView[]): HardPhoto[] {
  return hardPhotos(
    photos.map(({ id, width, height }) => {
      return { id, aspect: width / height, lightness: NaN, bustle: NaN };
    }),
  );
}

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
    // Until the first estimates are there, only shapes are known; other photos keep the places.
    const hard = shown(found.value, readings.photos);
    return hard.length > 0 ? hard : shown(byShape(readings.photos), readings.photos);
  });
}
