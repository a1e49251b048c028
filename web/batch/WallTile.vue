<script setup lang="ts">
import { computed, ref } from 'vue';
import IconAdjusted from '~icons/tabler/pencil';
import IconCheck from '~icons/tabler/check';
import type { PhotoView } from '#core/contract/http';
import type { ResizeRule } from '#core/contract/delivery';
import { adjustedParts } from '#core/placement/adjustment';
import { CLASS_WORDS } from '../readability/readingText.ts';
import { useDraft } from '../preset/draft.ts';
import { useReadings } from '../readability/readings.ts';
import MarkedPhoto from '../preset/MarkedPhoto.vue';
import ReadingCard from '../readability/ReadingCard.vue';
import ReadingSign from '../readability/ReadingSign.vue';

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
defineEmits<{ choose: [event: MouseEvent]; look: [] }>();

const draft = useDraft();
const readings = useReadings();
const reading = computed(() => readings.of(props.photo.id));
const adjustment = computed(() => draft.adjustments.get(props.photo.id));
const adjusted = computed(() =>
  adjustedParts(adjustment.value).filter((part) => part !== 'left out'),
);
const isReading = ref(false);
const signText = computed(() => {
  if (!reading.value) return 'Readability is not known yet';
  return reading.value.class ? CLASS_WORDS[reading.value.class] : 'Nothing of the mark lies on it';
});
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
    <span class="signs d-flex gap-1 position-absolute">
      <span
        v-if="adjusted.length > 0"
        class="sign adjusted align-items-center border-0 rounded-circle d-flex justify-content-center p-0"
        :title="`Adjusted by hand: ${adjusted.join(', ')}`"
        data-testid="adjusted"
      >
        <IconAdjusted aria-hidden="true" />
      </span>
      <button
        v-if="reading"
        class="sign align-items-center border-0 rounded-circle d-flex justify-content-center p-0"
        type="button"
        :tabindex="isCurrent ? 0 : -1"
        :aria-label="`${signText}: figures`"
        :aria-expanded="isReading"
        :data-class="reading.class ?? 'beside'"
        @pointerenter="isReading = true"
        @pointerleave="isReading = false"
        @focus="isReading = true"
        @blur="isReading = false"
        @click.stop="isReading = true"
        @keydown.esc.stop="isReading = false"
      >
        <ReadingSign :kind="reading.class ?? 'lost'" />
      </button>
      <span
        v-if="isReading"
        class="figures"
        :class="{ right: opens.right, up: opens.up }"
        @pointerenter="isReading = true"
        @pointerleave="isReading = false"
        @pointerdown.stop.prevent
        @click.stop
        @dblclick.stop
      >
        <ReadingCard :photo="photo" :resize="resize" />
      </span>
    </span>
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

.signs {
  right: 7px;
  top: 7px;
}

.sign {
  background: rgb(var(--lc-veil) / 92%);
  box-shadow: 0 0 0 1px rgb(20 36 44 / 18%);
  color: var(--lc-ink);
  font-size: 14px;
  height: 22px;
  width: 22px;
}

button.sign:hover {
  background: var(--lc-card);
}

.figures {
  background: var(--lc-card);
  border: 1px solid var(--lc-hairline);
  border-radius: var(--lc-radius);
  box-shadow: var(--lc-lift);
  cursor: default;
  padding: 11px 14px 12px;
  position: absolute;
  right: -2px;
  top: 26px;
  width: 292px;
  z-index: 4;
}

/* A bridge, so that the way from the sign to the card does not close it. */
.figures::before {
  content: '';
  height: 12px;
  inset: -12px 0 auto;
  position: absolute;
}

.figures.right {
  left: calc(100% - 24px);
  right: auto;
}

.figures.up {
  bottom: 26px;
  top: auto;
}

.figures.up::before {
  inset: auto 0 -12px;
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
