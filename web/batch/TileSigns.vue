<script setup lang="ts">
import { computed, ref } from 'vue';
import IconAdjusted from '~icons/tabler/pencil';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView } from '#core/contract/http';
import { adjustedParts } from '#core/placement/adjustment';
import { useDraft } from '../preset/draft.ts';
import ReadingCard from '../readability/ReadingCard.vue';
import ReadingSign from '../readability/ReadingSign.vue';
import { useReadings } from '../readability/readings.ts';
import { CLASS_WORDS } from '../readability/readingText.ts';

/** In a tile's corner: whether it is adjusted by hand, how its mark reads, and the figures of that. */
const props = defineProps<{
  photo: PhotoView;
  resize: ResizeRule | null;
  /** The tab key comes to it. */
  isCurrent: boolean;
  /** Near an edge of the wall, so that what opens beside it must open inwards. */
  opens: { readonly right: boolean; readonly up: boolean };
}>();

const draft = useDraft();
const readings = useReadings();
const reading = computed(() => readings.of(props.photo.id));
const kind = computed(() => readings.classFor(props.photo.id));
const adjusted = computed(() =>
  adjustedParts(draft.adjustments.get(props.photo.id)).filter((part) => part !== 'left out'),
);
const isReading = ref(false);
const signText = computed(() => {
  if (kind.value) return CLASS_WORDS[kind.value];
  return reading.value?.isEmpty ? 'The mark says nothing here' : 'Nothing of the mark lies on it';
});
</script>

<template>
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
      :data-class="kind ?? 'beside'"
      @pointerenter="isReading = true"
      @pointerleave="isReading = false"
      @focus="isReading = true"
      @blur="isReading = false"
      @click.stop="isReading = true"
      @keydown.esc.stop="isReading = false"
    >
      <ReadingSign :kind="kind ?? 'lost'" />
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
</template>

<style scoped>
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
</style>
