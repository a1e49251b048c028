<script setup lang="ts">
import { computed, ref } from 'vue';
import IconHistogram from '~icons/tabler/chart-histogram';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView, Pins } from '#core/contract/http';
import { READABILITY_CLASSES, type ReadabilityClass } from '#core/readability/measure';
import type { HardKind } from '#core/readability/hardPhotos';
import WallTools from '../batch/WallTools.vue';
import { useHardPhotos } from './useHardPhotos.ts';
import type { WallShow, WallSort } from '../batch/useWallFilter.ts';
import { useSpoken } from '../ui/spoken.ts';
import { useDraft } from '../preset/draft.ts';
import type { Trouble, TroubleKind } from '../batch/useWallTroubles.ts';
import { useReadings } from './readings.ts';
import HardStrip from './HardStrip.vue';
import ReadingBar from './ReadingBar.vue';
import ReadingHistogram from './ReadingHistogram.vue';

/** Above the wall: the five hard photos, how the batch reads, and what of it is shown. */
const props = defineProps<{
  resize: ResizeRule | null;
  hideMark: boolean;
  current: PhotoView | null;
  pins: Pins;
  adjusted: number;
  leftOut: number;
  troubles: readonly Trouble[];
}>();
const emit = defineEmits<{ look: [photo: PhotoView]; pins: [pins: Pins] }>();
const show = defineModel<WallShow>('show', { required: true });
const sort = defineModel<WallSort>('sort', { required: true });
const find = defineModel<string>('find', { required: true });

const readings = useReadings();
const draft = useDraft();
const hard = useHardPhotos(() => props.pins);
const isQuiet = computed(() => typeof draft.baseRule.opacity !== 'number');
const isHistogramOpen = ref(false);
const only = computed(() => READABILITY_CLASSES.find((kind) => kind === show.value) ?? null);
const isMeasuring = computed(() => readings.progress < readings.photos.length);

useSpoken(() => {
  const { clear, faint, lost } = readings.counts;
  return readings.photos.length > 0 ? `${clear} clear, ${faint} faint, ${lost} lost` : '';
});

function filter(kind: ReadabilityClass | null): void {
  show.value = kind ?? 'all';
}

function toggle(which: 'adjusted' | 'left out' | TroubleKind): void {
  show.value = show.value === which ? 'all' : which;
}

function pin(kind: HardKind, id: number | null): void {
  const rest = Object.entries(props.pins).filter(([some]) => some !== kind);
  emit('pins', Object.fromEntries(id === null ? rest : [...rest, [kind, id]]));
}
</script>

<template>
  <div class="overview">
    <HardStrip
      class="hard"
      :hard="hard"
      :resize="resize"
      :hide-mark="hideMark"
      :current="current"
      @look="emit('look', $event)"
      @pin="pin"
    />
    <div class="how">
      <div class="line align-items-center d-flex">
        <ReadingBar
          class="counts"
          :counts="readings.counts"
          :only="only"
          is-filter
          @only="filter"
        />
        <button
          class="chip icon border-0 text-nowrap align-items-center d-flex"
          type="button"
          title="How much of the mark can be read, as a chart"
          aria-label="How much of the mark can be read, as a chart"
          @click="isHistogramOpen = true"
        >
          <IconHistogram />
        </button>
      </div>
      <div class="line align-items-center d-flex">
        <button
          class="chip number border-0 text-nowrap"
          type="button"
          :class="{ on: show === 'adjusted' }"
          :aria-pressed="show === 'adjusted'"
          :disabled="adjusted === 0 && show !== 'adjusted'"
          @click="toggle('adjusted')"
        >
          {{ adjusted }} adjusted
        </button>
        <button
          class="chip number border-0 text-nowrap"
          type="button"
          :class="{ on: show === 'left out' }"
          :aria-pressed="show === 'left out'"
          :disabled="leftOut === 0 && show !== 'left out'"
          @click="toggle('left out')"
        >
          {{ leftOut }} left out
        </button>
        <button
          v-for="trouble in troubles"
          :key="trouble.kind"
          class="chip number border-0 text-nowrap"
          type="button"
          :title="trouble.title"
          :class="{ on: show === trouble.kind }"
          :aria-pressed="show === trouble.kind"
          @click="toggle(trouble.kind)"
        >
          {{ trouble.ids.size }} {{ trouble.text }}
        </button>
        <span
          class="progress-words number ms-auto text-nowrap d-none d-xl-inline"
          :class="{ 'visually-hidden': troubles.length > 1 }"
          role="status"
        >
          <template v-if="isMeasuring">
            measured {{ readings.progress }} of {{ readings.photos.length }}
          </template>
        </span>
      </div>
      <WallTools v-model:find="find" v-model:sort="sort" class="line" />
    </div>
    <ReadingHistogram
      v-model="isHistogramOpen"
      :shares="readings.shares"
      :opacities="isQuiet ? readings.opacities : []"
    />
  </div>
</template>

<style scoped>
.overview {
  align-items: center;
  display: flex;
  gap: 20px;
  padding-right: 12px;
}

.hard {
  flex: 1 1 60%;
}

.how {
  display: grid;
  flex: 0 1 400px;
  gap: 5px;
  grid-template-columns: minmax(0, 1fr);
  min-width: 330px;
}

.line {
  flex-wrap: wrap;
  gap: 6px;
}

.counts {
  flex: 1;
}

.chip {
  background: rgb(var(--lc-veil) / 72%);
  border-radius: 12px;
  color: var(--lc-ink);
  font-size: 0.8125rem;
  padding: 2px 10px;
}

.chip:hover:not(:disabled, .on) {
  background: var(--lc-card);
}

.chip:disabled {
  background: rgb(var(--lc-veil) / 40%);
  color: var(--lc-ink-quiet);
}

.chip.on {
  background: var(--lc-ink);
  color: var(--lc-card);
}

.icon {
  border-radius: 4px;
  font-size: 17px;
  padding: 4px 6px;
}

.progress-words {
  color: var(--lc-on-surround-quiet);
  font-size: 0.75rem;
}

@media (max-width: 900px) {
  .overview {
    flex-direction: column;
    align-items: stretch;
    gap: 8px;
  }

  .hard {
    flex: none;
    overflow: auto hidden;
  }

  .how {
    flex: none;
    gap: 6px;
    min-width: 0;
  }
}

/* The wall has what room there is. */
@media (max-width: 640px) or (max-height: 600px) {
  .hard {
    display: none;
  }

  .overview {
    flex-direction: row;
    flex-wrap: wrap;
  }

  .how {
    display: flex;
    flex: 1 1 auto;
    flex-wrap: wrap;
  }

  .line:first-child {
    flex: 1 1 300px;
  }
}
</style>
