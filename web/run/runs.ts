import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { RunPlanView, RunView, RunWish } from '#core/contract/http';
import { api } from '../api/client.ts';
import { onReconnect, onServerEvent } from '../api/events.ts';
import { useZipAtEnd } from './useZipAtEnd.ts';

/** All runs, kept current by the server's events. */
export const useRuns = defineStore('runs', () => {
  const runs = ref<RunView[]>([]);
  const isLoaded = ref(false);
  const zip = useZipAtEnd();
  let isListening = false;

  const underWay = computed(() =>
    runs.value
      .filter((run) => run.state === 'running' || run.state === 'paused')
      .sort((a, b) => a.turn - b.turn),
  );

  async function load(): Promise<void> {
    listen();
    const all = await api.get<RunView[]>('/runs');
    const known = new Map(runs.value.map((run) => [run.id, run]));
    runs.value = all.map((run) => {
      const before = known.get(run.id);
      return before && before.told > run.told ? before : run;
    });
    isLoaded.value = true;
    // It may have ended while nobody told of it.
    runs.value.forEach(zip.look);
  }

  function listen(): void {
    if (isListening) return;
    isListening = true;
    onServerEvent('run', take);
    onServerEvent('run-gone', ({ id }) => {
      runs.value = runs.value.filter((run) => run.id !== id);
    });
    onReconnect(() => void load().catch(() => undefined));
  }

  /** An answer may come after an event that is newer. */
  function take(run: RunView): void {
    const at = runs.value.findIndex(({ id }) => id === run.id);
    if (at >= 0 && runs.value[at].told > run.told) return;
    if (at >= 0) runs.value[at] = run;
    else runs.value.unshift(run);
    zip.look(run);
  }

  /** A small run may have ended before the answer to its beginning came. */
  function takeBegun(run: RunView): RunView {
    zip.expect(run);
    take(run);
    zip.look(runOf(run.id) ?? run);
    return run;
  }

  const runOf = (id: number): RunView | null => runs.value.find((run) => run.id === id) ?? null;

  const plan = (wish: RunWish): Promise<RunPlanView> => api.post<RunPlanView>('/runs/plan', wish);

  async function begin(wish: RunWish): Promise<RunView> {
    return takeBegun(await api.post<RunView>('/runs', wish));
  }

  /** The same once more, of photos that came into its batch since. */
  async function again(id: number): Promise<RunView> {
    return takeBegun(await api.post<RunView>(`/runs/${id}/again`));
  }

  /** @param ids of runs under way, in the order in which they are to be worked off */
  const order = (ids: readonly number[]): Promise<unknown> => api.post('/runs/order', { ids });

  async function steer(id: number, action: 'pause' | 'resume' | 'cancel' | 'retry'): Promise<void> {
    take(await api.post<RunView>(`/runs/${id}/${action}`));
  }

  async function remove(id: number): Promise<void> {
    await api.delete(`/runs/${id}`);
    runs.value = runs.value.filter((run) => run.id !== id);
  }

  return { runs, isLoaded, underWay, load, runOf, plan, begin, again, order, steer, remove, take };
});
