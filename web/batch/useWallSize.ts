import { computed, watch, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import { useReadings } from '../readability/readings.ts';

/** The wall shows the photos, and readability judges them, as the first of the deliveries makes them. */
export function useWallSize(
  photos: Ref<readonly PhotoView[]>,
  deliveryIds: Ref<readonly number[]>,
) {
  const library = useLibrary();
  const readings = useReadings();
  const resize = computed(() => {
    const rule = library.deliveryOf(deliveryIds.value[0])?.rule;
    return rule && rule.kind !== 'sheet' ? rule.resize : null;
  });
  watch(
    () => [photos.value, resize.value] as const,
    ([all, size]) => readings.follow(all, size),
    { immediate: true },
  );
  return resize;
}
