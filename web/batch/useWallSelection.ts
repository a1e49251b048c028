import { computed, ref, watch, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';

/** Which photos are selected, and which one the keys speak to. */
/**
 * @param photos as the wall shows them
 * @param all of the batch; what is filtered out stays selected
 */
export function useWallSelection(
  photos: Ref<readonly PhotoView[]>,
  all: Ref<readonly PhotoView[]> = photos,
) {
  const selected = ref<ReadonlySet<number>>(new Set());
  const currentId = ref<number | null>(null);
  const current = computed(() => all.value.find((photo) => photo.id === currentId.value) ?? null);

  // Photos that have left the batch leave the selection too.
  watch(all, (now) => {
    if (selected.value.size === 0) return;
    const there = new Set(now.map((photo) => photo.id));
    selected.value = new Set([...selected.value].filter((id) => there.has(id)));
  });

  function toggle(id: number): void {
    const next = new Set(selected.value);
    if (!next.delete(id)) next.add(id);
    selected.value = next;
  }

  /** A click on the corner selects; with Shift everything from the current photo to this one. */
  function choose(photo: PhotoView, event: MouseEvent): void {
    const onCorner = event.target instanceof HTMLInputElement;
    if (event.shiftKey && currentId.value !== null) selectTo(photo.id);
    else if (onCorner || event.ctrlKey || event.metaKey) toggle(photo.id);
    currentId.value = photo.id;
  }

  function selectTo(id: number): void {
    const indexOf = (wanted: number | null): number =>
      photos.value.findIndex((photo) => photo.id === wanted);
    const [from, to] = [indexOf(currentId.value), indexOf(id)].sort((a, b) => a - b);
    const between = photos.value.slice(Math.max(0, from), to + 1).map((photo) => photo.id);
    selected.value = new Set([...selected.value, ...between]);
  }

  function selectAll(): void {
    selected.value = new Set(photos.value.map((photo) => photo.id));
  }

  function selectNone(): void {
    selected.value = new Set();
  }

  function step(by: 1 | -1): void {
    if (photos.value.length === 0) return;
    const at = photos.value.findIndex((photo) => photo.id === currentId.value);
    const next = at < 0 ? 0 : Math.min(photos.value.length - 1, Math.max(0, at + by));
    currentId.value = photos.value[next].id;
  }

  return { selected, currentId, current, toggle, choose, selectAll, selectNone, step };
}
