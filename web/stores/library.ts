import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type {
  DeliveryView,
  DeliveryWish,
  MarkView,
  PresetView,
  PresetWish,
} from '#core/contract/http';
import { settingsSchema, type Settings } from '#core/contract/settings';
import { api } from '../api/client.ts';

type SettingsAnswer = Settings & { configured: string[] };

/** Marks, presets, deliveries and settings: small, used everywhere, loaded once. */
export const useLibrary = defineStore('library', () => {
  // Replaced, never changed in place: what is made of them for every photo must not be proxies.
  const marks = shallowRef<MarkView[]>([]);
  const presets = shallowRef<PresetView[]>([]);
  const deliveries = shallowRef<DeliveryView[]>([]);
  const settings = ref<Settings>(settingsSchema.parse({}));
  const configuredFolders = ref<string[]>([]);
  const isLoaded = ref(false);
  let loading: Promise<void> | null = null;

  function load(): Promise<void> {
    loading ??= reload().catch((error: unknown) => {
      loading = null;
      throw error;
    });
    return loading;
  }

  async function reload(): Promise<void> {
    const [someMarks, somePresets, someDeliveries, someSettings] = await Promise.all([
      api.get<MarkView[]>('/marks'),
      api.get<PresetView[]>('/presets'),
      api.get<DeliveryView[]>('/deliveries'),
      api.get<SettingsAnswer>('/settings'),
    ]);
    marks.value = someMarks;
    presets.value = somePresets;
    deliveries.value = someDeliveries;
    takeSettings(someSettings);
    isLoaded.value = true;
  }

  function takeSettings({ configured, ...rest }: SettingsAnswer): void {
    settings.value = rest;
    configuredFolders.value = configured;
  }

  const markOf = (id: number | null | undefined): MarkView | null =>
    marks.value.find((mark) => mark.id === id) ?? null;
  const presetOf = (id: number | null | undefined): PresetView | null =>
    presets.value.find((preset) => preset.id === id) ?? null;
  const deliveryOf = (id: number | null | undefined): DeliveryView | null =>
    deliveries.value.find((delivery) => delivery.id === id) ?? null;

  async function addMark(file: File): Promise<MarkView> {
    const query = new URLSearchParams({ name: file.name });
    const mark = await api.post<MarkView>(`/marks?${query}`, file);
    marks.value = [...marks.value, mark];
    return mark;
  }

  async function refreshMarks(): Promise<void> {
    marks.value = await api.get<MarkView[]>('/marks');
  }

  async function changeMark(id: number, change: { name?: string; retired?: boolean }) {
    await api.patch(`/marks/${id}`, change);
    await refreshMarks();
  }

  /** New artwork for a mark: its presets stay, and show it at once. */
  async function replaceArtwork(id: number, file: File): Promise<void> {
    const query = new URLSearchParams({ name: file.name });
    takeMark(await api.post<MarkView>(`/marks/${id}/artwork?${query}`, file));
  }

  async function decideBox(id: number, take: 'keep' | 'outside' | 'everywhere'): Promise<void> {
    takeMark(await api.post<MarkView>(`/marks/${id}/box`, { take }));
  }

  async function duplicateMark(id: number): Promise<MarkView> {
    const mark = await api.post<MarkView>(`/marks/${id}/duplicate`);
    await refreshMarks();
    return mark;
  }

  /** A mark as the server has it now, new or changed. */
  function takeMark(mark: MarkView): void {
    const isKnown = marks.value.some(({ id }) => id === mark.id);
    marks.value = isKnown
      ? marks.value.map((known) => (known.id === mark.id ? mark : known))
      : [...marks.value, mark];
  }

  async function removeMark(id: number): Promise<void> {
    await api.delete(`/marks/${id}`);
    marks.value = marks.value.filter((mark) => mark.id !== id);
  }

  async function addPreset(wish: PresetWish): Promise<PresetView> {
    const preset = await api.post<PresetView>('/presets', wish);
    await refreshPresets();
    return preset;
  }

  async function savePreset(id: number, wish: PresetWish): Promise<PresetView> {
    const preset = await api.put<PresetView>(`/presets/${id}`, wish);
    await refreshPresets();
    return preset;
  }

  async function removePreset(id: number): Promise<void> {
    await api.delete(`/presets/${id}`);
    await refreshPresets();
  }

  async function favourPreset(id: number, favourite: boolean): Promise<void> {
    await api.patch(`/presets/${id}`, { favourite });
    await refreshPresets();
  }

  async function orderPresets(ids: readonly number[]): Promise<void> {
    presets.value = await api.put<PresetView[]>('/presets-order', { ids });
  }

  /** Marks tell which presets use them, so they change along. */
  async function refreshPresets(): Promise<void> {
    [presets.value, marks.value] = await Promise.all([
      api.get<PresetView[]>('/presets'),
      api.get<MarkView[]>('/marks'),
    ]);
  }

  async function addDelivery(wish: DeliveryWish): Promise<DeliveryView> {
    const delivery = await api.post<DeliveryView>('/deliveries', wish);
    await refreshDeliveries();
    return delivery;
  }

  async function saveDelivery(id: number, wish: DeliveryWish): Promise<void> {
    await api.put(`/deliveries/${id}`, wish);
    await refreshDeliveries();
  }

  async function removeDelivery(id: number): Promise<void> {
    await api.delete(`/deliveries/${id}`);
    await refreshDeliveries();
  }

  async function refreshDeliveries(): Promise<void> {
    [deliveries.value, presets.value] = await Promise.all([
      api.get<DeliveryView[]>('/deliveries'),
      api.get<PresetView[]>('/presets'),
    ]);
  }

  async function saveSettings(next: Settings): Promise<void> {
    takeSettings(await api.put<SettingsAnswer>('/settings', next));
  }

  return {
    ...{ marks, presets, deliveries, settings, configuredFolders, isLoaded, load },
    ...{ markOf, presetOf, deliveryOf, addMark, refreshMarks, changeMark, removeMark },
    ...{ replaceArtwork, decideBox, duplicateMark, takeMark },
    ...{ addPreset, savePreset, removePreset, favourPreset, orderPresets },
    ...{ addDelivery, saveDelivery, removeDelivery, saveSettings },
  };
});
