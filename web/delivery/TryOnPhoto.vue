<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import type { DeliveryView, PhotoView, TryView } from '#core/contract/http';
import { centreOf } from '#core/placement/geometry';
import { api } from '../api/client.ts';
import { useAttempt } from '../api/useAttempt.ts';
import { useSaving } from '../app/saving.ts';
import { bytesText } from '../ui/format.ts';

/** The very file that a delivery makes of one photo, at 100 % beside the photo, with its measured bytes. */
const props = defineProps<{ delivery: DeliveryView; photo: PhotoView }>();

const made = ref<TryView | null>(null);
const { problem, isBusy: isMaking, attempt } = useAttempt();
const panes = ref<HTMLElement[]>([]);
/** One pixel of the file is one pixel of the screen, whatever the screen's density. */
const density = window.devicePixelRatio || 1;
const saving = useSaving();

function make(): Promise<void> {
  return attempt(async () => {
    // What was set a moment ago belongs to the file.
    await saving.flush();
    const wanted = about.value;
    const path = `/deliveries/${props.delivery.id}/try`;
    const answer = await api.post<TryView>(path, { photoId: props.photo.id });
    // It may have been changed meanwhile; then it is another file that is wanted.
    if (about.value !== wanted) return;
    made.value = answer;
    await nextTick();
    showMark();
  });
}

/** Both show the same part: where the mark is, or the middle. */
function showMark(): void {
  const { frame, markBox } = made.value ?? {};
  if (!frame) return;
  const centre = centreOf(markBox ?? { x: 0, y: 0, ...frame });
  for (const pane of panes.value) {
    pane.scrollTo(
      centre.x / density - pane.clientWidth / 2,
      centre.y / density - pane.clientHeight / 2,
    );
  }
}

function follow(event: Event): void {
  const moved = event.target as HTMLElement;
  for (const pane of panes.value) {
    if (pane === moved) continue;
    if (pane.scrollLeft !== moved.scrollLeft) pane.scrollLeft = moved.scrollLeft;
    if (pane.scrollTop !== moved.scrollTop) pane.scrollTop = moved.scrollTop;
  }
}

/** What a file is made by. */
const about = computed(() => {
  const { id, rule, presetId } = props.delivery;
  return JSON.stringify([id, rule, presetId, props.photo.id]);
});
watch(about, () => (made.value = null));
</script>

<template>
  <div class="try d-grid">
    <div class="d-flex align-items-baseline line">
      <button class="btn btn-outline-secondary" type="button" :disabled="isMaking" @click="make">
        {{ isMaking ? 'Making the file' : made ? 'Try it again' : 'Try it on one photo' }}
      </button>
      <span v-if="made" class="number" role="status">
        <b>{{ made.name }}</b>, {{ made.frame.width }} × {{ made.frame.height }} px,
        <b>{{ bytesText(made.bytesAfter) }}</b> of {{ bytesText(made.bytesBefore) }},
        {{ made.problem === null ? 'verified' : `not verified: ${made.problem}` }}
      </span>
      <span v-if="problem" class="problem" role="alert">{{ problem }}</span>
    </div>
    <p v-if="made?.note" class="quiet m-0">{{ made.note }}</p>
    <div v-if="made" class="panes">
      <figure v-for="side in ['before', 'after'] as const" :key="side" class="m-0">
        <figcaption class="quiet">
          {{ side === 'before' ? 'the photo, in this size' : 'the file, at 100 %' }}
        </figcaption>
        <div
          ref="panes"
          class="pane"
          tabindex="0"
          :aria-label="side === 'before' ? 'The photo at 100 %' : 'The file at 100 %'"
          @scroll="follow"
        >
          <img
            :src="`/api/tries/${made.key}/${side}`"
            :alt="side === 'before' ? photo.name : made.name"
            :style="{
              width: `${made.frame.width / density}px`,
              height: `${made.frame.height / density}px`,
            }"
            @load="showMark"
          />
        </div>
      </figure>
    </div>
  </div>
</template>

<style scoped>
.try {
  gap: 8px;
}

.line {
  flex-wrap: wrap;
  gap: 6px 14px;
}

.panes {
  display: grid;
  gap: 10px;
  grid-template-columns: repeat(2, minmax(0, 1fr));
}

figcaption {
  font-size: 0.8125rem;
}

.pane {
  background: var(--lc-surround);
  height: 260px;
  overflow: auto;
}

.pane img {
  display: block;
  max-width: none;
}

.problem {
  color: var(--lc-lost-deep);
}

@media (max-width: 700px) {
  .panes {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
