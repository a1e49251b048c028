import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { InboxView, InboxWish } from '#core/contract/http';
import { api } from '../api/client.ts';
import { onBack } from '../api/connection.ts';
import { onServerEvent } from '../api/events.ts';

/** Between two looks at the counts while photos come in, at least. */
const FOLLOW_MS = 700;

/** Watched folders, as they are on the server. */
export const useInboxes = defineStore('inboxes', () => {
  const inboxes = shallowRef<readonly InboxView[]>([]);
  const isLoaded = ref(false);
  const areOn = computed(() => inboxes.value.some(({ isOn }) => isOn));

  async function load(): Promise<void> {
    inboxes.value = await api.get<InboxView[]>('/inboxes');
    isLoaded.value = true;
  }
  const loadSoon = (): void => void load().catch(() => undefined);
  onBack(loadSoon);

  let timer: ReturnType<typeof setTimeout> | null = null;
  /** Photos come in many times a second. */
  function follow(): void {
    if (!isLoaded.value) return;
    timer ??= setTimeout(() => {
      timer = null;
      loadSoon();
    }, FOLLOW_MS);
  }
  onServerEvent('changed', ({ what }) => {
    if (what === 'inboxes') follow();
  });
  // The counts are those of the runs.
  onServerEvent('run', () => {
    if (areOn.value) follow();
  });

  function take(inbox: InboxView): void {
    const others = inboxes.value.filter(({ id }) => id !== inbox.id);
    inboxes.value = [...others, inbox].sort((a, b) => a.name.localeCompare(b.name));
  }

  async function add(wish: InboxWish): Promise<void> {
    take(await api.post<InboxView>('/inboxes', wish));
  }

  async function change(id: number, wish: InboxWish): Promise<void> {
    take(await api.put<InboxView>(`/inboxes/${id}`, wish));
  }

  async function remove(id: number): Promise<void> {
    await api.delete(`/inboxes/${id}`);
    inboxes.value = inboxes.value.filter((inbox) => inbox.id !== id);
  }

  return { inboxes, isLoaded, load, add, change, remove };
});

/** What of an inbox is sent to change it. */
export function wishOf(inbox: InboxView): InboxWish {
  const { name, folder, presetIds, deliveryIds, isOn, aside } = inbox;
  return { name, folder, presetIds: [...presetIds], deliveryIds: [...deliveryIds], isOn, aside };
}
