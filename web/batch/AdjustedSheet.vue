<script setup lang="ts">
import { computed } from 'vue';
import IconTakeBack from '~icons/tabler/x';
import type { PhotoView } from '#core/contract/http';
import { adjustedParts, type AdjustedPart } from '#core/placement/adjustment';
import { counted } from '../ui/format.ts';
import { useDraft } from '../preset/draft.ts';

/** What the photos in hand have of their own, each part to be taken back; or given to others. */
const props = defineProps<{
  photos: readonly PhotoView[];
  /** An adjusted photo beside them, whose adjustment they could have, too. */
  source: PhotoView | null;
}>();
const draft = useDraft();

const ids = computed(() => props.photos.map(({ id }) => id));
/** Every part that any of them has, with how many have it. */
const parts = computed(() => {
  const counts = new Map<AdjustedPart, number>();
  for (const id of ids.value) {
    const { adjustment } = draft.subjectOf(id);
    const leftOut = draft.adjustments.get(id)?.leftOut;
    for (const part of adjustedParts({ ...adjustment, ...(leftOut ? { leftOut } : {}) })) {
      counts.set(part, (counts.get(part) ?? 0) + 1);
    }
  }
  return [...counts].map(([part, count]) => ({ part, count }));
});
const subject = computed(() =>
  props.photos.length === 1 ? props.photos[0].name : counted(props.photos.length, 'photo'),
);
</script>

<template>
  <section v-if="parts.length > 0 || source" class="sheet" aria-label="Adjusted by hand">
    <span v-if="parts.length > 0" class="words text-truncate">
      <b>{{ subject }}</b> {{ photos.length === 1 ? 'has' : 'have' }} of
      {{ photos.length === 1 ? 'its' : 'their' }} own:
    </span>
    <button
      v-for="{ part, count } in parts"
      :key="part"
      class="chip align-items-center d-inline-flex"
      type="button"
      :aria-label="`Take back: ${part}`"
      :title="`Take back: ${part} follows the preset again`"
      @click="draft.takeBack(ids, part)"
    >
      {{ part }}
      <span v-if="photos.length > 1" class="number quiet">{{ count }}</span>
      <IconTakeBack aria-hidden="true" />
    </button>
    <button v-if="parts.length > 0" class="btn btn-link" type="button" @click="draft.takeBack(ids)">
      Take all back
    </button>
    <button
      v-if="source"
      class="btn btn-link copy"
      type="button"
      @click="draft.copyAdjustment(source.id, ids)"
    >
      Copy what {{ source.name }} has to the {{ ids.length }} selected
    </button>
  </section>
</template>

<style scoped>
.sheet {
  align-items: center;
  background: var(--lc-paper);
  border-bottom: 1px solid var(--lc-hairline);
  border-top: 1px solid var(--lc-hairline);
  bottom: 100%;
  display: flex;
  flex-wrap: wrap;
  font-size: 0.8125rem;
  gap: 4px 8px;
  left: 0;
  min-height: 36px;
  padding: 4px 18px;
  /* Over the wall: what is shown must not move when a photo is chosen or adjusted. */
  position: absolute;
  right: 0;
  z-index: 3;
}

.words {
  max-width: 420px;
}

.words b {
  font-weight: 600;
}

.chip {
  background: var(--lc-card);
  border: 1px solid var(--lc-hairline);
  border-radius: 12px;
  color: var(--lc-ink);
  gap: 5px;
  padding: 1px 7px 1px 10px;
}

.chip:hover {
  border-color: var(--lc-brass-light);
}

.btn {
  font-size: inherit;
  padding: 2px 4px;
}
</style>
