<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import { LIFT_RANGES, type LiftSettings } from '#core/contract/lift';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { MOST_AMISS } from '#core/ink/liftArtwork';
import { HISTOGRAM_TO, LEAST_APART } from '#core/ink/levels';
import type { Lift } from './useLift.ts';
import BenchPanel from '../ui/BenchPanel.vue';
import PickOne from '../ui/PickOne.vue';
import RangeField from '../ui/RangeField.vue';

/** Paper, ink, edge, specks, line weight, keep. */
const props = defineProps<{
  lift: Lift;
  suggestedName: string;
  isKeeping: boolean;
  replaces: string | null;
}>();
const emit = defineEmits<{ keep: [name: string] }>();

const COLOURS = [
  { value: 'one', label: 'One ink', title: 'Tones come from the ink alone' },
  { value: 'keep', label: 'Keep colours', title: 'For a coloured logo on paper' },
] as const;
const FORMS = [
  { value: 'auto', label: 'Best', title: 'Outlines where they are true to the ink' },
  { value: 'outlines', label: 'Outlines', title: 'Sharp at any size' },
  { value: 'pixels', label: 'Pixels', title: 'As scanned' },
] as const;
const PERCENT_TICKS = [-100, -50, 0, 50, 100] as const;
const WEIGHT_TICKS = [-3, -2, -1, 0, 1, 2, 3] as const;
const SPECK_SLIDER_PX2 = 1_500;

const settings = computed(() => props.lift.settings.value);
const levels = computed(() => props.lift.levels.value);
const ink = computed(() => props.lift.look.value?.ink ?? null);
const name = ref(props.suggestedName);
watch(
  () => props.suggestedName,
  (next) => (name.value = next),
);

const change = (part: Partial<LiftSettings>): void => props.lift.change(part);
const percent = (value: number): number => value * 100;
const isAutomatic = computed(() => settings.value.ink === null && settings.value.paper === null);
const isCleaningByHand = computed(() => {
  const { specks, pinholes, strokes } = settings.value;
  return specks !== null || pinholes !== null || strokes.length > 0;
});
const speckCount = computed(() => ink.value?.specks.length ?? 0);
const kept = computed(() => {
  const outlines = props.lift.outlines.value;
  if (settings.value.colours === 'keep') return 'Kept as pixels, in its own colours';
  if (!ink.value) return '';
  if (!outlines) return 'Outlines follow when the hand rests';
  if (outlines.isKept) return `Kept as outlines, ${outlines.curves.toLocaleString('en')} curves`;
  const lost = `${(outlines.amiss * 100).toFixed(1)} %`;
  return outlines.amiss > MOST_AMISS ? `Kept as pixels: outlines lose ${lost}` : 'Kept as pixels';
});
const evenness = computed(() => {
  const value = props.lift.look.value?.evenness;
  return value === undefined ? '' : `light ${Math.round(value * 100)} % even`;
});

function setLevel(which: 'ink' | 'paper', value: number): void {
  const now = levels.value;
  if (!now) return;
  const level = value / 100;
  if (which === 'ink') change({ ink: Math.min(level, now.paper - LEAST_APART) });
  else change({ paper: Math.max(level, now.ink + LEAST_APART) });
}
</script>

<template>
  <div class="bench work-bench" aria-label="Bench">
    <BenchPanel title="Paper, ink">
      <template #end>
        <span v-if="isAutomatic">{{ evenness }}</span>
        <button
          v-else
          class="btn btn-link again"
          type="button"
          @click="change({ ink: null, paper: null, inkColour: null })"
        >
          Find again
        </button>
      </template>
      <div class="rows">
        <span class="quiet">paper</span>
        <RangeField
          label="Paper level"
          :model-value="percent(levels?.paper ?? 1)"
          unit="%"
          :from="0"
          :to="HISTOGRAM_TO * 100"
          :step="0.5"
          @update:model-value="setLevel('paper', $event)"
        />
        <span class="quiet">ink</span>
        <RangeField
          label="Ink level"
          :model-value="percent(levels?.ink ?? 0)"
          unit="%"
          :from="0"
          :to="HISTOGRAM_TO * 100"
          :step="0.5"
          @update:model-value="setLevel('ink', $event)"
        />
      </div>
      <PickOne
        label="Colours of the ink"
        :options="COLOURS"
        :model-value="settings.colours"
        @update:model-value="change({ colours: $event })"
      />
    </BenchPanel>
    <BenchPanel title="Edge">
      <template #end><span class="ends">soft to crisp</span></template>
      <RangeField
        label="Edge"
        :model-value="percent(settings.edge)"
        unit="%"
        :from="-100"
        :to="100"
        :ticks="PERCENT_TICKS"
        @update:model-value="change({ edge: $event / 100 })"
      />
      <div class="rows">
        <span class="quiet">weight</span>
        <RangeField
          label="Line weight"
          :model-value="settings.weight"
          unit="px"
          :from="-LIFT_RANGES.weightPx"
          :to="LIFT_RANGES.weightPx"
          :step="0.1"
          :ticks="WEIGHT_TICKS"
          @update:model-value="change({ weight: $event })"
        />
      </div>
    </BenchPanel>
    <BenchPanel title="Specks">
      <template #end>
        <span class="number">{{ speckCount }} removed</span>
      </template>
      <RangeField
        class="wide-number"
        label="Specks up to"
        :model-value="settings.specks ?? ink?.speckPx2 ?? 0"
        unit="px²"
        :from="0"
        :to="SPECK_SLIDER_PX2"
        :min="0"
        :max="LIFT_RANGES.speckPx2"
        :decimals="0"
        @update:model-value="change({ specks: $event })"
      />
      <div class="rows" title="Holes in the ink up to this size are filled">
        <span class="quiet">holes</span>
        <RangeField
          class="wide-number"
          label="Holes filled up to"
          :model-value="settings.pinholes ?? ink?.pinholePx2 ?? 0"
          unit="px²"
          :from="0"
          :to="SPECK_SLIDER_PX2"
          :min="0"
          :max="LIFT_RANGES.pinholePx2"
          :decimals="0"
          @update:model-value="change({ pinholes: $event })"
        />
      </div>
      <button
        class="btn btn-link again"
        type="button"
        :disabled="!isCleaningByHand"
        @click="change({ specks: null, pinholes: null, strokes: [] })"
      >
        {{ settings.strokes.length ? 'Start over' : 'Find again' }}
      </button>
    </BenchPanel>
    <BenchPanel title="Outlines">
      <template #end><span class="ends">faithful to smooth</span></template>
      <RangeField
        label="Smoothing"
        :model-value="percent(settings.smoothing)"
        unit="%"
        :from="0"
        :to="100"
        @update:model-value="change({ smoothing: $event / 100 })"
      />
      <PickOne
        label="What is kept"
        :options="FORMS"
        :model-value="settings.form"
        @update:model-value="change({ form: $event })"
      />
    </BenchPanel>
    <BenchPanel title="Keep">
      <template #end>
        <span class="undo">
          <button
            class="btn btn-link again"
            type="button"
            :disabled="!lift.canUndo.value"
            @click="lift.undo()"
          >
            Undo
          </button>
          <button
            class="btn btn-link again"
            type="button"
            :disabled="!lift.canRedo.value"
            @click="lift.redo()"
          >
            Redo
          </button>
        </span>
      </template>
      <input
        v-if="!replaces"
        v-model.trim="name"
        class="form-control"
        aria-label="Name of the mark"
        :maxlength="NAME_MAX_LENGTH"
      />
      <span v-else class="replaces">Changes {{ replaces }}</span>
      <p class="quiet kept" :title="kept">{{ kept }}</p>
      <BButton
        class="go"
        variant="primary"
        :disabled="!ink || isKeeping || name === ''"
        @click="emit('keep', name)"
      >
        {{ isKeeping ? 'Keeping' : replaces ? 'Keep changes' : 'Keep as a mark' }}
      </BButton>
    </BenchPanel>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: 1.15fr 1.05fr 1.1fr 0.95fr 1.05fr;
}

.bench > * {
  min-width: 0;
}

.rows {
  align-items: center;
  display: grid;
  gap: 6px 10px;
  grid-template-columns: auto minmax(0, 1fr);
}

.again {
  align-self: flex-start;
  margin-left: -0.35rem;
}

.undo {
  display: flex;
  gap: 4px;
}

.kept {
  font-size: 0.8125rem;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.replaces {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.wide-number :deep(.field) {
  width: 80px;
}

@media (max-width: 1160px) {
  .ends {
    display: none;
  }
}

.go {
  font-size: 1rem;
  margin-top: auto;
  padding-block: 8px;
}
</style>
