<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import IconPin from '~icons/tabler/pin';
import IconPinned from '~icons/tabler/pin-filled';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import type { HardKind } from '#core/readability/hardPhotos';
import { HARD_WORDS, type HardView } from './useHardPhotos.ts';
import { useReadings } from './readings.ts';
import MarkedPhoto from '../preset/MarkedPhoto.vue';
import ReadingSign from './ReadingSign.vue';

/** The five hard photos in a row: what goes wrong first is always in sight. */
const props = defineProps<{
  hard: readonly HardView[];
  resize: ResizeRule | null;
  hideMark: boolean;
  /** The photo that a pin would put into a place. */
  current: PhotoView | null;
}>();
const emit = defineEmits<{ look: [photo: PhotoView]; pin: [kind: HardKind, id: number | null] }>();

const GAP_PX = 8;
/** Large screens have room for larger ones. */
const LEAST_TALL_PX = 64;
const MOST_TALL_PX = 104;
const SHARE_OF_WIDTH = 0.075;
/** Below this a caption would not fit under its photo. */
const NARROWEST_PX = 68;
const readings = useReadings();
const strip = ref<HTMLElement | null>(null);
const { width } = useElementSize(strip);
const height = computed(() => {
  const aspects = props.hard.reduce((sum, { photo }) => sum + photo.width / photo.height, 0);
  const narrow = props.hard.filter((item) => item.photo.width < item.photo.height).length;
  const room = width.value - GAP_PX * (props.hard.length - 1) - (narrow * NARROWEST_PX) / 3;
  const tall = Math.min(MOST_TALL_PX, Math.max(LEAST_TALL_PX, width.value * SHARE_OF_WIDTH));
  return Math.min(tall, room / Math.max(aspects, 0.1));
});

const replacing = (item: HardView): boolean =>
  !item.isPinned && props.current !== null && props.current.id !== item.id;

function pin(item: HardView): void {
  if (item.isPinned) emit('pin', item.kind, null);
  else emit('pin', item.kind, replacing(item) ? (props.current?.id ?? item.id) : item.id);
}

function pinTitle(item: HardView): string {
  if (item.isPinned) return `Pinned. Look for the ${item.kind} again`;
  return replacing(item)
    ? `Put ${props.current?.name} here instead`
    : 'Keep this photo here, wherever the mark goes';
}
</script>

<template>
  <div
    ref="strip"
    class="strip"
    role="group"
    aria-label="The five hard photos"
    data-testid="hard-strip"
  >
    <template v-if="height > 0">
      <div v-for="item in hard" :key="item.kind" class="one" :data-hard="item.kind">
        <MarkedPhoto
          :photo="item.photo"
          :width="(height * item.photo.width) / item.photo.height"
          :height="height"
          picture="tile"
          :resize="resize"
          :hide-mark="hideMark"
          @dblclick="emit('look', item.photo)"
        />
        <button
          class="caption align-items-center border-0 d-flex text-nowrap"
          type="button"
          :title="`${item.photo.name}, ${HARD_WORDS[item.kind]}: look closer`"
          @click="emit('look', item.photo)"
        >
          <ReadingSign v-if="readings.of(item.id)" :kind="readings.classFor(item.id) ?? 'lost'" />
          {{ item.kind }}
        </button>
        <button
          class="pin"
          :class="{ on: item.isPinned }"
          type="button"
          :aria-pressed="item.isPinned"
          :aria-label="pinTitle(item)"
          :title="pinTitle(item)"
          @click="pin(item)"
        >
          <IconPinned v-if="item.isPinned" /><IconPin v-else />
        </button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  gap: 8px;
  min-height: 84px;
  min-width: 0;
}

.one {
  flex: none;
  min-width: 68px;
  position: relative;
}

.caption {
  background: none;
  border-radius: 3px;
  color: var(--lc-on-surround);
  font-size: 0.75rem;
  gap: 5px;
  line-height: 1.2;
  margin-top: 3px;
  padding: 0 2px;
}

.caption:hover {
  text-decoration: underline;
}

.caption .reading-sign {
  background: var(--lc-paper);
  border-radius: 50%;
  box-shadow: 0 0 0 1.5px var(--lc-paper);
}

.pin {
  background: rgb(var(--lc-veil) / 88%);
  border: 0;
  border-radius: 3px;
  color: var(--lc-ink);
  display: flex;
  font-size: 13px;
  opacity: 0;
  padding: 3px;
  position: absolute;
  left: 4px;
  top: 4px;
  transition: opacity var(--lc-quick);
}

.one:hover .pin,
.pin:focus-visible,
.pin.on {
  opacity: 1;
}

.pin.on {
  color: var(--lc-brass);
}

@media (hover: none) {
  .pin {
    opacity: 1;
  }
}
</style>
