<script setup lang="ts">
import { computed } from 'vue';
import IconAlone from '~icons/tabler/photo-share';
import IconCheck from '~icons/tabler/check';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import { useDraft } from '../preset/draft.ts';
import MarkedPhoto from '../preset/MarkedPhoto.vue';
import TileSigns from './TileSigns.vue';

/** One photo of the wall: a click makes it the current one, the corner selects it. */
const props = defineProps<{
  photo: PhotoView;
  width: number;
  height: number;
  resize: ResizeRule | null;
  hideMark: boolean;
  isSelected: boolean;
  isCurrent: boolean;
  /** The one photo of the wall that the tab key comes to. */
  isTabStop: boolean;
  /** Near an edge of the wall, so that what opens beside it must open inwards. */
  opens: { readonly right: boolean; readonly up: boolean };
}>();
defineEmits<{ choose: [event: MouseEvent]; look: []; export: [] }>();

const draft = useDraft();
const adjustment = computed(() => draft.adjustments.get(props.photo.id));
</script>

<template>
  <div
    class="tile"
    :class="{ selected: isSelected, current: isCurrent }"
    role="group"
    :aria-label="photo.name"
    :tabindex="isTabStop ? 0 : -1"
    :data-photo="photo.id"
    @click="$emit('choose', $event)"
    @dblclick="$emit('look')"
  >
    <MarkedPhoto
      :photo="photo"
      :width="props.width"
      :height="props.height"
      picture="tile"
      :resize="resize"
      :hide-mark="hideMark"
    />
    <label class="select" :title="`Select ${photo.name}`" @click.stop>
      <input
        type="checkbox"
        :checked="isSelected"
        :aria-label="`Select ${photo.name}`"
        @click.stop="$emit('choose', $event)"
      />
      <IconCheck aria-hidden="true" />
    </label>
    <span v-if="adjustment?.leftOut" class="out d-grid pe-none position-absolute">left out</span>
    <TileSigns :photo="photo" :resize="resize" :is-current="isCurrent" :opens="opens" />
    <button
      class="alone align-items-center border-0 d-flex justify-content-center p-0 position-absolute"
      type="button"
      :tabindex="isCurrent ? 0 : -1"
      :title="`${photo.name} goes out alone`"
      :aria-label="`${photo.name} goes out alone`"
      @click.stop="$emit('export')"
      @dblclick.stop
    >
      <IconAlone aria-hidden="true" />
    </button>
    <span class="name text-truncate pe-none position-absolute" aria-hidden="true">{{
      photo.name
    }}</span>
  </div>
</template>

<style scoped>
.tile {
  cursor: default;
  position: relative;
}

.tile:focus {
  outline: none;
}

.tile.current::after,
.tile.selected::after {
  content: '';
  inset: 0;
  pointer-events: none;
  position: absolute;
}

.tile.current::after {
  box-shadow:
    inset 0 0 0 2px #fffdf8,
    inset 0 0 0 4px var(--lc-ink);
}

.tile.selected::after {
  box-shadow:
    inset 0 0 0 3px var(--lc-brass-light),
    inset 0 0 0 4px rgb(20 36 44 / 55%);
}

.tile.current.selected::after {
  box-shadow:
    inset 0 0 0 2px #fffdf8,
    inset 0 0 0 5px var(--lc-brass-light),
    inset 0 0 0 6px rgb(20 36 44 / 55%);
}

.select {
  background: rgb(var(--lc-veil) / 88%);
  border-radius: 3px;
  color: transparent;
  display: flex;
  font-size: 15px;
  left: 7px;
  opacity: 0;
  padding: 3px;
  position: absolute;
  top: 7px;
  transition: opacity var(--lc-quick);
}

.select input {
  cursor: pointer;
  inset: 0;
  margin: 0;
  opacity: 0;
  position: absolute;
}

.alone {
  background: rgb(var(--lc-veil) / 88%);
  border-radius: 3px;
  color: var(--lc-ink);
  font-size: 15px;
  height: 24px;
  left: 38px;
  opacity: 0;
  top: 7px;
  transition: opacity var(--lc-quick);
  width: 24px;
}

.tile:hover .alone,
.tile.current .alone,
.alone:focus-visible {
  opacity: 1;
}

.tile:hover .select,
.tile.selected .select,
.select:focus-within {
  opacity: 1;
}

.tile.selected .select {
  background: var(--lc-brass);
  color: var(--lc-on-brass);
}

.select:focus-within {
  outline: 2px solid var(--lc-brass-light);
  outline-offset: 1px;
}

.out {
  background: rgb(20 36 44 / 62%);
  color: #f6f3ec;
  font-size: 0.8125rem;
  inset: 0;
  place-items: center;
}

.name {
  background: rgb(20 36 44 / 78%);
  border-radius: 3px;
  bottom: 6px;
  color: #f6f3ec;
  font-size: 0.72rem;
  left: 6px;
  max-width: calc(100% - 12px);
  opacity: 0;
  padding: 1px 6px;
  transition: opacity var(--lc-quick);
}

.tile:hover .name {
  opacity: 1;
  transition-delay: 350ms;
}

/* A finger does not hover. */
@media (hover: none) {
  .select,
  .tile.current .name {
    opacity: 1;
  }

  .select {
    padding: 6px;
  }
}
</style>
