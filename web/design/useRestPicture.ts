import { watchDebounced } from '@vueuse/core';
import { onScopeDispose, ref, watch, type Ref } from 'vue';
import { naturalBoxes } from '#core/design/markToSvg';
import type { Box } from '#core/placement/geometry';
import type { Desk } from './useDesk.ts';

/** The hand rests: after this the server's own picture is fetched. */
const REST_MS = 260;

export interface RestPicture {
  readonly url: string;
  /** Units of the drawing that it shows. */
  readonly box: Box;
}

/**
 * The server's raster of a design as it is now, while nothing is being moved: what every wall and
 * export shows. Null as soon as anything changes, until the next is there and can be shown.
 */
export function useRestPicture(desk: Desk, scale: () => number): Ref<RestPicture | null> {
  const picture = ref<RestPicture | null>(null);
  let asked = 0;

  function forget(): void {
    asked++;
    if (picture.value) URL.revokeObjectURL(picture.value.url);
    picture.value = null;
  }

  async function fetchPicture(): Promise<void> {
    const boxes = naturalBoxes(desk.design.value, desk.context.value);
    if (desk.isHeld.value || !boxes || !(scale() > 0)) return;
    const mine = ++asked;
    const body = {
      ...{ design: desk.design.value, words: desk.words.value, scale: scale() },
      tone: desk.tone.value.replace('#', ''),
    };
    const response = await fetch('/api/designs/picture', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }).catch(() => null);
    if (!response?.ok || mine !== asked) return;
    const url = URL.createObjectURL(await response.blob());
    // Decoded before it takes the drawing's place, so that nothing blinks.
    const image = new Image();
    image.src = url;
    await image.decode().catch(() => undefined);
    if (mine === asked) picture.value = { url, box: boxes.natural };
    else URL.revokeObjectURL(url);
  }

  const sources = [desk.design, desk.tone, desk.words, desk.isHeld, scale] as const;
  watch([...sources], forget);
  watchDebounced([...sources], fetchPicture, { debounce: REST_MS, immediate: true });
  onScopeDispose(forget);
  return picture;
}
