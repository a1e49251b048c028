<script setup lang="ts">
import { computed } from 'vue';
import IconStar from '~icons/tabler/star';
import IconStarred from '~icons/tabler/star-filled';
import IconGrip from '~icons/tabler/grip-vertical';
import type { PhotoView, PresetView } from '#core/contract/http';
import { counted } from '../ui/format.ts';
import { useLibrary } from '../app/library.ts';
import MarkCloseUp from './MarkCloseUp.vue';
import PresetPicture from './PresetPicture.vue';

/** A preset as a picture of itself, with its name, its mark and what it is used for. */
const props = defineProps<{
  preset: PresetView;
  /** What it is shown on; null while there is none. */
  photos: { readonly bright: PhotoView; readonly dark: PhotoView } | null;
  /** It can be dragged to another place. */
  isMovable: boolean;
}>();
const emit = defineEmits<{ move: [by: 1 | -1] }>();

const library = useLibrary();
const mark = computed(() => library.markOf(props.preset.markId));

function toggleFavourite(): void {
  const { id, favourite } = props.preset;
  library.favourPreset(id, !favourite);
}

function key(event: KeyboardEvent): void {
  const by = ({ ArrowLeft: -1, ArrowRight: 1 } as const)[event.key];
  if (!by) return;
  event.preventDefault();
  emit('move', by);
}
</script>

<template>
  <article class="card-plain preset" :class="{ photos }" :data-preset="preset.name">
    <RouterLink
      class="d-block position-relative"
      :to="`/presets/${preset.id}`"
      aria-hidden="true"
      tabindex="-1"
    >
      <span v-if="mark && photos" class="close-ups">
        <MarkCloseUp :mark="mark" :rule="preset.rule" :photo="photos.bright" />
        <MarkCloseUp :mark="mark" :rule="preset.rule" :photo="photos.dark" />
      </span>
      <PresetPicture v-else :mark="mark" :rule="preset.rule" :photo="null" />
    </RouterLink>
    <div class="text d-grid align-items-center">
      <PresetPicture
        v-if="photos"
        class="whole"
        :mark="mark"
        :rule="preset.rule"
        :photo="photos.bright"
      />
      <RouterLink class="name serif" :to="`/presets/${preset.id}`" :title="preset.name">
        {{ preset.name }}
      </RouterLink>
      <button
        class="star"
        type="button"
        :aria-pressed="preset.favourite"
        :aria-label="`${preset.name} is a favourite`"
        :title="preset.favourite ? 'A favourite' : 'Make it a favourite'"
        @click="toggleFavourite"
      >
        <IconStarred v-if="preset.favourite" /><IconStar v-else />
      </button>
      <span class="quiet of">
        {{ mark?.name }}{{ preset.usedBy.length > 0 ? `; for ${preset.usedBy.join(', ')}` : '' }}
      </span>
      <span class="quiet number uses">
        {{ preset.uses > 0 ? `used in ${counted(preset.uses, 'run')}` : '' }}
      </span>
    </div>
    <button
      v-if="isMovable"
      class="grip"
      type="button"
      :aria-label="`Place of ${preset.name}; arrow keys move it`"
      title="Drag to another place"
      @keydown="key"
    >
      <IconGrip />
    </button>
  </article>
</template>

<style scoped>
.preset {
  display: grid;
  overflow: hidden;
  position: relative;
}

.preset:hover {
  border-color: var(--lc-brass-light);
}

.close-ups {
  display: grid;
  gap: 2px;
  grid-template-columns: 1fr 1fr;
}

.close-ups > * {
  aspect-ratio: 5 / 4;
}

/* The whole frame, small, with the place the mark has in it. */
.whole {
  border-radius: 2px;
  grid-row: 1 / 3;
  margin-right: 4px;
  width: 66px;
}

.text {
  gap: 0 10px;
  grid-template-columns: minmax(0, 1fr) auto;
  padding: 10px 10px 10px 12px;
}

.photos .text {
  grid-template-columns: auto minmax(0, 1fr) auto;
}

.name {
  color: var(--lc-ink);
  font-size: 1.1rem;
  text-decoration: none;
}

.name,
.of {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.uses {
  font-size: 0.8125rem;
  white-space: nowrap;
}

.star,
.grip {
  align-items: center;
  background: none;
  border: 0;
  border-radius: 3px;
  color: var(--lc-ink-quiet);
  display: flex;
  font-size: 1.1rem;
  justify-content: center;
  padding: 4px;
}

.star[aria-pressed='true'] {
  color: var(--lc-brass);
}

.star:hover {
  color: var(--lc-brass-light);
}

.grip {
  background: rgb(var(--lc-veil) / 88%);
  color: var(--lc-ink);
  cursor: grab;
  left: 8px;
  opacity: 0;
  position: absolute;
  top: 8px;
  transition: opacity var(--lc-quick);
}

.preset:hover .grip,
.grip:focus-visible {
  opacity: 1;
}

@media (hover: none) {
  .grip {
    opacity: 1;
  }
}
</style>
