import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import type { MarkSetView } from '#core/contract/http';
import { api } from '../api/client.ts';
import { onBack } from '../api/connection.ts';

/** Presets that are laid over each other, under one name: whoever comes back chooses one thing. */
export const useMarkSets = defineStore('markSets', () => {
  const sets = shallowRef<readonly MarkSetView[]>([]);

  async function load(): Promise<void> {
    sets.value = await api.get<MarkSetView[]>('/sets');
  }
  const loadSoon = (): void => void load().catch(() => undefined);
  loadSoon();
  onBack(loadSoon);

  async function add(name: string, presetIds: readonly number[]): Promise<void> {
    const same = sets.value.find((set) => set.name === name);
    await api.post<MarkSetView>('/sets', { name, presetIds });
    if (same) await api.delete(`/sets/${same.id}`);
    await load();
  }

  async function remove(id: number): Promise<void> {
    await api.delete(`/sets/${id}`);
    await load();
  }

  return { sets, add, remove };
});
