import { useElementSize } from '@vueuse/core';
import { computed, type ComputedRef, type Ref } from 'vue';
import type { Size } from '#core/placement/geometry';

/** The largest size, CSS px, at which something of this shape fits into an element. */
export function useFit(
  element: Ref<HTMLElement | null>,
  shape: () => Size | null,
): ComputedRef<Size> {
  const { width, height } = useElementSize(element);
  return computed(() => {
    const size = shape();
    if (!size || width.value === 0 || height.value === 0) return { width: 0, height: 0 };
    const scale = Math.min(width.value / size.width, height.value / size.height);
    return { width: size.width * scale, height: size.height * scale };
  });
}
