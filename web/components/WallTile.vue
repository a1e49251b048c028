<script setup lang="ts">
import IconCheck from '~icons/tabler/check';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import MarkedPhoto from './MarkedPhoto.vue';

/** One photo of the wall: a click makes it the current one, the corner selects it. */
const props = defineProps<{
  photo: PhotoView;
  width: number;
  height: number;
  resize: ResizeRule | null;
  hideMark: boolean;
  isSelected: boolean;
  isCurrent: boolean;
}>();
defineEmits<{ choose: [event: MouseEvent]; look: [] }>();
</script>

<template>
  <div
    class="tile"
    :class="{ selected: isSelected, current: isCurrent }"
    role="group"
    :aria-label="photo.name"
    :tabindex="isCurrent ? 0 : -1"
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
    <span class="name" aria-hidden="true">{{ photo.name }}</span>
  </div>
</template>

<style scoped>
.tile {
  cursor: default;
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
  background: rgb(246 243 236 / 88%);
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

.tile:hover .select,
.tile.selected .select,
.select:focus-within {
  opacity: 1;
}

.tile.selected .select {
  background: var(--lc-brass);
  color: #fffdf8;
}

.select:focus-within {
  outline: 2px solid var(--lc-brass-light);
  outline-offset: 1px;
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
  overflow: hidden;
  padding: 1px 6px;
  pointer-events: none;
  position: absolute;
  text-overflow: ellipsis;
  transition: opacity var(--lc-quick);
  white-space: nowrap;
}

.tile:hover .name {
  opacity: 1;
  transition-delay: 350ms;
}
</style>
