import { useThrottleFn } from '@vueuse/core';
import { computed, onScopeDispose, shallowRef, watch } from 'vue';
import type { RunDetailView, RunItemView } from '#core/contract/http';
import { api } from '../api/client.ts';
import { onReconnect } from '../api/events.ts';
import { useResource } from '../api/useResource.ts';
import { useRuns } from './runs.ts';

const REFRESH_MS = 700;

/** A run with what has ended of it; while it goes on, only what ended since is asked for. */
export function useRunDetail(runId: () => number) {
  const runs = useRuns();
  /** In the order of the run. */
  const items = shallowRef<readonly RunItemView[]>([]);
  let change = 0;

  const {
    value: detail,
    problem,
    isLoading,
    load,
  } = useResource((signal) =>
    api.get<RunDetailView>(`/runs/${runId()}?since=${change}`, { signal }),
  );
  watch(detail, (answer) => {
    if (!answer) return;
    // Also one that is too old to be listed.
    runs.take(answer.run);
    items.value = change === 0 ? answer.items : merged(items.value, answer.items);
    change = answer.change;
  });

  let isMore = false;
  const refresh = useThrottleFn(
    () => {
      // A slow answer is waited for: asked anew each time, none would ever come.
      isMore = isLoading.value;
      if (!isMore) void load();
    },
    REFRESH_MS,
    true,
  );
  watch(isLoading, (now) => !now && isMore && void refresh());
  const told = computed(() => runs.runOf(runId())?.told);
  watch(told, (now, before) => {
    // What this answer itself told is known.
    if (before !== undefined && now !== detail.value?.run.told) void refresh();
  });
  onScopeDispose(
    onReconnect(() => {
      // It may be another server, with a copy of earlier.
      change = 0;
      void load();
    }),
  );

  return { detail, items, problem, load };
}

function merged(
  known: readonly RunItemView[],
  changed: readonly RunItemView[],
): readonly RunItemView[] {
  if (changed.length === 0) return known;
  const byId = new Map(known.map((item) => [item.id, item]));
  for (const item of changed) byId.set(item.id, item);
  return [...byId.values()].sort((a, b) => a.number - b.number || a.delivery - b.delivery);
}
