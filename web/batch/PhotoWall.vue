<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { nextTick, ref, watch } from 'vue';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import { useReadings } from '../readability/readings.ts';
import JustifiedWall from '../ui/JustifiedWall.vue';
import { tileHeight, useTileSize } from './useTileSize.ts';
import WallTile from './WallTile.vue';

/** The batch as a wall; Ctrl and the wheel make its photos larger or smaller. */
const props = defineProps<{
  photos: readonly PhotoView[];
  selected: ReadonlySet<number>;
  /** The photo that keys speak to. */
  currentId: number | null;
  resize: ResizeRule | null;
  hideMark: boolean;
}>();
defineEmits<{
  choose: [photo: PhotoView, event: MouseEvent];
  look: [photo: PhotoView];
  export: [photo: PhotoView];
}>();

/** What opens from a tile is this wide. */
const CARD_PX = 300;

const frame = ref<HTMLElement | null>(null);
const wall = ref<{ show: (key: number) => HTMLElement | null } | null>(null);
const { size, step } = useTileSize();
const readings = useReadings();

useEventListener(
  frame,
  'wheel',
  (event: WheelEvent) => {
    if (!event.ctrlKey) return;
    event.preventDefault();
    step(event.deltaY < 0 ? 1 : -1);
  },
  { passive: false },
);

watch(
  () => props.currentId,
  async (id) => {
    const element = id === null ? null : wall.value?.show(id);
    if (!element) return;
    await nextTick();
    element.querySelector<HTMLElement>(`[data-photo="${id}"]`)?.focus({ preventScroll: true });
  },
);
</script>

<template>
  <div ref="frame">
    <JustifiedWall
      ref="wall"
      v-slot="{ box, isLastRow }"
      testid="wall"
      :items="photos"
      :item-key="(photo: PhotoView) => photo.id"
      :row-height="(width: number) => tileHeight(width, size)"
      @visible="readings.setVisible($event.map(({ id }) => id))"
    >
      <WallTile
        :photo="box.item"
        :width="box.width"
        :height="box.height"
        :opens="{ right: box.left + box.width < CARD_PX, up: isLastRow }"
        :resize="resize"
        :hide-mark="hideMark"
        :is-selected="selected.has(box.item.id)"
        :is-current="currentId === box.item.id"
        :is-tab-stop="currentId === null ? box.item === photos[0] : currentId === box.item.id"
        @choose="$emit('choose', box.item, $event)"
        @look="$emit('look', box.item)"
        @export="$emit('export', box.item)"
      />
    </JustifiedWall>
  </div>
</template>
