import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type {
  DeliveryView,
  DeliveryWish,
  MarkView,
  PresetView,
  PresetWish,
} from '#core/contract/http';
import { api, TAB } from '../api/client.ts';
import { onReconnect, onServerEvent } from '../api/events.ts';
import { useSaving } from './saving.ts';
import { useSettings, type SettingsAnswer } from './settings.ts';

/** A phrase is typed letter by letter; it is saved when the hand rests. */
const REST_MS = 400;

/** Marks, presets, deliveries and settings: small, used everywhere, loaded once. */
export const useLibrary = defineStore('library', () => {
  // Replaced, never changed in place: what is made of them for every photo must not be proxies.
  const marks = shallowRef<MarkView[]>([]);
  const presets = shallowRef<PresetView[]>([]);
  const deliveries = shallowRef<DeliveryView[]>([]);
  const saving = useSaving();
  const isLoaded = ref(false);
  const { settings, configuredFolders, ...setting } = useSettings(() => refreshSoon('settings'));
  const { takeSettings, saveSettings, changeSettings, refreshSettings } = setting;
  let loading: Promise<void> | null = null;

  function load(): Promise<void> {
    loading ??= reload().catch((error: unknown) => {
      loading = null;
      throw error;
    });
    return loading;
  }

  // Other windows change the same things; what was told while the line was down is asked for again.
  onServerEvent('changed', ({ what, tab }) => {
    if (tab === TAB || !isLoaded.value) return;
    if (what !== 'batches' && what !== 'inboxes') refreshSoon(what);
  });
  onReconnect(() => {
    if (isLoaded.value) reload().catch(() => undefined);
  });

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

  function favourPreset(id: number, favourite: boolean): void {
    presets.value = presets.value.map((some) => (some.id === id ? { ...some, favourite } : some));
    saving.put<boolean>({
      key: `favourite ${id}`,
      value: favourite,
      send: async (value, { keepalive }) => {
        await api.patch(`/presets/${id}`, { favourite: value }, { keepalive: keepalive ?? false });
      },
      refused: () => refreshSoon('presets'),
    });
  }

  function orderPresets(ids: readonly number[]): void {
    const at = new Map(ids.map((id, index) => [id, index]));
    const place = (id: number): number => at.get(id) ?? ids.length;
    presets.value = [...presets.value].sort((a, b) => place(a.id) - place(b.id));
    saving.put<readonly number[]>({
      key: 'order of presets',
      value: ids,
      send: async (order, { keepalive }) => {
        await api.put('/presets-order', { ids: order }, { keepalive: keepalive ?? false });
      },
      refused: () => refreshSoon('presets'),
    });
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

  /** Changes a delivery at once in this window; it is saved when the hand rests. */
  function changeDelivery(id: number, part: Partial<DeliveryWish>): void {
    const known = deliveryOf(id);
    if (!known) return;
    const { version, ...before } = known;
    const next = { ...before, ...part };
    deliveries.value = deliveries.value.map((some) =>
      some.id === id ? { ...some, ...part } : some,
    );
    const { name, presetId, overIds, rule, folder, subfolder, zip, favourite } = next;
    saving.put<DeliveryWish>({
      key: `delivery ${id}`,
      value: { name, presetId, overIds, rule, folder, subfolder, zip, favourite },
      base: version,
      restMs: REST_MS,
      send: async (wish, { base, keepalive }) => {
        const baseVersion = base ?? version;
        const body = { ...wish, baseVersion };
        const saved = await api.put<DeliveryView>(`/deliveries/${id}`, body, {
          keepalive: keepalive ?? false,
        });
        // Whether the list follows is another matter: this one is saved.
        if (!keepalive) refreshSoon('deliveries');
        return saved.version;
      },
      theirs: () => refreshSoon('deliveries'),
      // What was entered stays to be mended; the server's is shown after a reload.
    });
  }

  async function refreshDeliveries(): Promise<void> {
    const [found, somePresets] = await Promise.all([
      api.get<DeliveryView[]>('/deliveries'),
      api.get<PresetView[]>('/presets'),
    ]);
    presets.value = somePresets;
    // What was changed in this window and is not saved yet stays.
    deliveries.value = found.map((delivery) => ({
      ...delivery,
      ...saving.valueOf<DeliveryWish>(`delivery ${delivery.id}`),
    }));
  }

  const refresh = {
    marks: refreshMarks,
    presets: refreshPresets,
    deliveries: refreshDeliveries,
    settings: refreshSettings,
  };

  /** In the background: what cannot be fetched now is asked for again once the server is back. */
  function refreshSoon(what: keyof typeof refresh): void {
    refresh[what]().catch(() => undefined);
  }

  return {
    ...{ refreshPresets, changeDelivery, changeSettings },
    ...{ marks, presets, deliveries, settings, configuredFolders, isLoaded, load, reload },
    ...{ markOf, presetOf, deliveryOf, addMark, refreshMarks, changeMark },
    ...{ replaceArtwork, decideBox, duplicateMark, takeMark },
    ...{ addPreset, savePreset, favourPreset, orderPresets },
    ...{ addDelivery, refreshDeliveries, saveSettings, refreshSettings },
  };
});
