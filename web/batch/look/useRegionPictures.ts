import { useDebounceFn } from '@vueuse/core';
import { onBeforeUnmount, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import type { RegionWish } from '#core/contract/readability';
import type { Box } from '#core/placement/geometry';
import { toApiError } from '../../api/client.ts';

/** Part of an output as the engine made it. */
export interface RegionPicture {
  readonly address: string;
  /** Where it lies, px of the output. */
  readonly box: Box;
}

interface RegionSource {
  readonly photoId: () => number;
  /** Its position among those that are exported, which a mark may write. */
  readonly number: () => number;
  readonly resize: () => RegionWish['resize'];
  /** The lowest first. */
  readonly marks: () => RegionWish['marks'];
  readonly box: () => Box;
  readonly isShown: () => boolean;
}

/** A pan asks many times a second; the last wish counts. */
const REST_MS = 70;

/** Pictures of what is seen, marked and bare, asked of the engine whenever that changes. */
export function useRegionPictures(source: RegionSource): {
  after: ShallowRef<RegionPicture | null>;
  before: ShallowRef<RegionPicture | null>;
  problem: Ref<string | null>;
  isWaiting: Ref<boolean>;
} {
  const after = shallowRef<RegionPicture | null>(null);
  const before = shallowRef<RegionPicture | null>(null);
  const problem = ref<string | null>(null);
  const isWaiting = ref(false);
  let asked = 0;

  const ask = useDebounceFn(async () => {
    if (!source.isShown()) return;
    const mine = ++asked;
    const marks = source.marks();
    const box = source.box();
    isWaiting.value = true;
    try {
      if (marks.length > 0) await take(after, box, marks, mine);
      // For the wipe and for the key that hides the mark: it must be there at once.
      if (mine === asked) await take(before, box, [], mine);
      if (mine === asked) problem.value = null;
    } catch (error) {
      if (mine === asked) problem.value = (error as Error).message;
    } finally {
      if (mine === asked) isWaiting.value = false;
    }
  }, REST_MS);

  watch(
    () =>
      JSON.stringify([
        source.photoId(),
        source.number(),
        source.resize(),
        source.box(),
        source.marks(),
      ]) + String(source.isShown()),
    () => void ask(),
    { immediate: true },
  );
  watch(source.photoId, clear);
  onBeforeUnmount(() => {
    asked++;
    clear();
  });

  async function take(
    shown: ShallowRef<RegionPicture | null>,
    box: Box,
    marks: RegionWish['marks'],
    mine: number,
  ): Promise<void> {
    const wish = {
      resize: source.resize(),
      number: source.number(),
      marks,
      ...box,
    } satisfies RegionWish;
    const answer = await fetch(`/api/photos/${source.photoId()}/region`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(wish),
    });
    if (!answer.ok) throw toApiError(await answer.text());
    const bytes = await answer.blob();
    if (mine === asked) show(shown, { address: URL.createObjectURL(bytes), box });
  }

  function clear(): void {
    for (const shown of [after, before]) show(shown, null);
  }

  return { after, before, problem, isWaiting };
}

function show(shown: ShallowRef<RegionPicture | null>, picture: RegionPicture | null): void {
  if (shown.value) URL.revokeObjectURL(shown.value.address);
  shown.value = picture;
}
