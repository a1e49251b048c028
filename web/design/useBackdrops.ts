import { photoAddress } from '../api/photoAddress.ts';
import { computed, ref, watch, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { useLastBatch } from '../preset/useLastBatch.ts';

export const BACKDROPS = ['bright', 'dark', 'busy'] as const;
export type BackdropKind = (typeof BACKDROPS)[number];

/** Photos whose bustle is looked at, and the width at which it is, px. */
const LOOKED_AT = 24;
const LOOK_PX = 48;

/** Three photos to see a mark on: the brightest, the darkest, the busiest; each can be changed. */
export function useBackdrops(): {
  photos: Ref<Readonly<Record<BackdropKind, PhotoView | null>>>;
  all: Ref<readonly PhotoView[]>;
  isLoaded: Ref<boolean>;
  choose: (kind: BackdropKind, photo: PhotoView) => void;
} {
  const { all, isLoaded } = useLastBatch();
  const found = ref<Partial<Record<BackdropKind, PhotoView>>>({});
  const chosen = ref<Partial<Record<BackdropKind, PhotoView>>>({});

  watch(all, async (photos) => {
    if (photos.length === 0) return;
    const byLightness = [...photos].sort((a, b) => a.lightness - b.lightness);
    const dark = byLightness[0];
    const bright = byLightness[byLightness.length - 1];
    found.value = { dark, bright };
    const rest = photos.filter((photo) => photo !== dark && photo !== bright).slice(0, LOOKED_AT);
    const looks = await Promise.all(
      rest.map(async (photo) => ({ photo, is: await bustle(photo) })),
    );
    const busiest = looks.sort((a, b) => b.is - a.is)[0]?.photo ?? bright;
    found.value = { dark, bright, busy: busiest };
  });

  return {
    ...{ all, isLoaded },
    photos: computed(() => ({
      bright: chosen.value.bright ?? found.value.bright ?? null,
      dark: chosen.value.dark ?? found.value.dark ?? null,
      busy: chosen.value.busy ?? found.value.busy ?? null,
    })),
    choose: (kind, photo) => (chosen.value = { ...chosen.value, [kind]: photo }),
  };
}

/** How much neighbouring pixels of a small picture differ, on average. */
async function bustle(photo: PhotoView): Promise<number> {
  const image = new Image();
  image.src = photoAddress(photo, 'tile');
  try {
    await image.decode();
  } catch {
    return 0;
  }
  const height = Math.max(1, Math.round((LOOK_PX * image.height) / image.width));
  const canvas = new OffscreenCanvas(LOOK_PX, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) return 0;
  context.drawImage(image, 0, 0, LOOK_PX, height);
  const { data } = context.getImageData(0, 0, LOOK_PX, height);
  let sum = 0;
  for (let at = 4; at < data.length; at += 4) sum += Math.abs(data[at + 1] - data[at - 3]);
  return sum / (LOOK_PX * height);
}
