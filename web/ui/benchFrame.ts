import { useMediaQuery } from '@vueuse/core';
import { inject, provide, ref, type InjectionKey, type Ref } from 'vue';

/** In windows of this kind the bench is one row, whose panels open above it. */
export const COMPACT_ROOM = '(max-width: 900px), (max-height: 700px)';

interface Bench {
  readonly isCompact: Ref<boolean>;
  /** The panel that is open above the row, by its title. */
  readonly open: Ref<string | null>;
}

const BENCH: InjectionKey<Bench> = Symbol('bench');

export function provideBench(): Bench {
  const bench = { isCompact: useMediaQuery(COMPACT_ROOM), open: ref<string | null>(null) };
  provide(BENCH, bench);
  return bench;
}

/** The bench that a part stands on; null elsewhere. */
export function useBench(): Bench | null {
  return inject(BENCH, null);
}
