import { useEventListener } from '@vueuse/core';
import { computed } from 'vue';
import type { RunAwayView, RunView } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useResource } from '../api/useResource.ts';

/** Which files of a run are not where it wrote them: looked at when it is opened, and when one comes back to it. */
export function useAwayOutputs(run: () => RunView | null) {
  const { value: away, load } = useResource(
    (signal) => api.get<RunAwayView>(`/runs/${run()?.id}/away`, { signal }),
    () => {
      const { id, state, written } = run() ?? {};
      return state === 'done' || state === 'cancelled' ? [id, state, written] : null;
    },
  );
  // They are moved in another program's window.
  useEventListener(window, 'focus', () => away.value && void load());

  return {
    outputs: computed(() => new Set(away.value?.outputs)),
    documents: computed(() => away.value?.documents ?? 0),
  };
}
