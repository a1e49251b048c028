<script setup lang="ts">
import { photoAddress } from '../api/photoAddress.ts';
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { useDevicePixelRatio } from '@vueuse/core';
import { computed, ref, shallowRef, watchEffect } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { naturalBoxes } from '#core/design/markToSvg';
import { BACKDROPS, useBackdrops, type BackdropKind } from './useBackdrops.ts';
import { useDesk } from './useDesk.ts';
import { useRestPicture } from './useRestPicture.ts';
import InkSheets from './InkSheets.vue';
import ScaleStrip from './ScaleStrip.vue';

/** The mark on a bright, a dark and a busy photo, live; and at the sizes its presets really use. */
const desk = useDesk();
const { photos, all, isLoaded, choose } = useBackdrops();
const { pixelRatio } = useDevicePixelRatio();
const changing = ref<BackdropKind | null>(null);
const isChanging = computed({
  get: () => changing.value !== null,
  set: (open: boolean) => (changing.value = open ? changing.value : null),
});

/** Width of the mark on a backdrop, CSS px. */
const MARK_PX = 168;
const LABELS: Readonly<Record<BackdropKind, string>> = {
  bright: 'Bright photo',
  dark: 'Dark photo',
  busy: 'Busy photo',
};

/** Holds still while a hand is on the mark, as the stage does. */
const boxes = shallowRef<ReturnType<typeof naturalBoxes>>(null);
watchEffect(() => {
  const next = naturalBoxes(desk.design.value, desk.context.value);
  if (!desk.isHeld.value) boxes.value = next;
});
const scale = computed(() => {
  if (!boxes.value) return 0;
  const { width, height } = boxes.value.ink;
  // As wide as there is room for, but a tall mark is held by its height.
  return Math.min(MARK_PX / width, 78 / height);
});
const size = computed(() => {
  const natural = boxes.value?.natural ?? { width: 0, height: 0 };
  return {
    width: `${natural.width * scale.value}px`,
    height: `${natural.height * scale.value}px`,
  };
});
const rest = useRestPicture(desk, () => scale.value * pixelRatio.value);

function addressOf(kind: BackdropKind): string | undefined {
  const photo = photos.value[kind];
  return photo ? photoAddress(photo, 'tile') : undefined;
}

function take(photo: PhotoView): void {
  if (changing.value) choose(changing.value, photo);
  changing.value = null;
}
</script>

<template>
  <aside class="backdrops" aria-label="On photos" tabindex="0">
    <button
      v-for="kind in BACKDROPS"
      :key="kind"
      type="button"
      class="backdrop border-0 d-grid overflow-hidden p-0 position-relative"
      :class="kind"
      :title="photos[kind] ? `${LABELS[kind]}: ${photos[kind]?.name}. Change it` : LABELS[kind]"
      :aria-label="`${LABELS[kind]}, change it`"
      :disabled="all.length === 0"
      @click="changing = kind"
    >
      <img
        v-if="photos[kind]"
        class="photo h-100 object-fit-cover position-absolute w-100"
        :src="addressOf(kind)"
        alt=""
        draggable="false"
      />
      <img v-if="rest" class="shown" :src="rest.url" :style="size" alt="" draggable="false" />
      <span v-else-if="boxes" class="shown" :style="size">
        <InkSheets
          :drawn="desk.drawn.value"
          :view="boxes.natural"
          :scale="scale"
          :is-held="desk.isHeld.value"
        />
      </span>
    </button>
    <p v-if="isLoaded && all.length === 0" class="quiet none">
      Bring photos into a batch to see the mark on them.
    </p>
    <ScaleStrip />
    <BModal
      v-model="isChanging"
      title-tag="h2"
      title="Another photo to see it on"
      size="lg"
      centered
      no-footer
    >
      <div class="choices d-grid gap-2 overflow-auto">
        <button v-for="photo in all" :key="photo.id" type="button" @click="take(photo)">
          <img :src="photoAddress(photo, 'tile')" :alt="photo.name" loading="lazy" />
        </button>
      </div>
    </BModal>
  </aside>
</template>

<style scoped>
.backdrops {
  background: var(--lc-paper);
  border-left: 1px solid var(--lc-hairline);
  color: var(--lc-ink);
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  overflow: auto;
  padding: 12px;
}

.backdrop {
  background: #8a8f91;
  border-radius: 2px;
  flex: 1 1 0;
  max-height: 150px;
  min-height: 84px;
  place-items: center;
}

.backdrop.bright {
  background: #dcd7cc;
}

.backdrop.dark {
  background: #24333b;
}

.photo {
  inset: 0;
}

.shown {
  max-width: none;
  position: relative;
}

.none {
  font-size: 0.8125rem;
}

.choices {
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  max-height: 60vh;
  padding: 3px;
}

.choices button {
  background: none;
  border: 0;
  padding: 0;
}

.choices img {
  height: 104px;
  object-fit: cover;
  width: 100%;
}
</style>
