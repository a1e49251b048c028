<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import { LIFT_RANGES, type LiftSettings } from '#core/contract/lift';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { MOST_AMISS } from '#core/ink/liftArtwork';
import { HISTOGRAM_TO, LEAST_APART } from '#core/ink/levels';
import type { Lift } from './useLift.ts';
import BenchFrame from '../ui/BenchFrame.vue';
import BenchPanel from '../ui/BenchPanel.vue';
import FieldRows from '../ui/FieldRows.vue';
import { shareField, type FieldSpec } from '../ui/fields.ts';

/** Paper, ink, edge, specks, line weight, keep. */
const props = defineProps<{
  lift: Lift;
  suggestedName: string;
  isKeeping: boolean;
  replaces: string | null;
}>();
const emit = defineEmits<{ keep: [name: string] }>();

const LEVEL = { kind: 'range', unit: '%', from: 0, to: HISTOGRAM_TO * 100, step: 0.5 } as const;
const AREA = {
  kind: 'range' as const,
  ...{ unit: 'px²', from: 0, to: 1_500, min: 0, max: LIFT_RANGES.speckPx2, decimals: 0 },
};
const LEVEL_FIELDS: readonly FieldSpec[] = [
  { ...LEVEL, key: 'paper', word: 'paper', label: 'Paper level', times: 100 },
  { ...LEVEL, key: 'ink', word: 'ink', label: 'Ink level', times: 100 },
  {
    ...{ kind: 'choice', key: 'colours', word: '', label: 'Colours of the ink' },
    options: [
      { value: 'one', label: 'One ink', title: 'Tones come from the ink alone' },
      { value: 'keep', label: 'Keep colours', title: 'For a coloured logo on paper' },
    ],
  },
];
const EDGE_FIELDS: readonly FieldSpec[] = [
  shareField('edge', 'edge', { label: 'Edge', from: -100, ticks: [-100, -50, 0, 50, 100] }),
  {
    ...{ kind: 'range', key: 'weight', word: 'weight', label: 'Line weight', unit: 'px' },
    ...{ from: -LIFT_RANGES.weightPx, to: LIFT_RANGES.weightPx, step: 0.1 },
    ticks: [-3, -2, -1, 0, 1, 2, 3],
  },
];
const SPECK_FIELDS: readonly FieldSpec[] = [
  { ...AREA, key: 'specks', word: 'specks', label: 'Specks up to' },
  { ...AREA, key: 'pinholes', word: 'holes', label: 'Holes filled up to' },
];
const OUTLINE_FIELDS: readonly FieldSpec[] = [
  shareField('smoothing', '', { label: 'Smoothing' }),
  {
    ...{ kind: 'choice', key: 'form', word: '', label: 'What is kept' },
    options: [
      { value: 'auto', label: 'Best', title: 'Outlines where they are true to the ink' },
      { value: 'outlines', label: 'Outlines', title: 'Sharp at any size' },
      { value: 'pixels', label: 'Pixels', title: 'As scanned' },
    ],
  },
];

const settings = computed(() => props.lift.settings.value);
const levels = computed(() => props.lift.levels.value);
const ink = computed(() => props.lift.look.value?.ink ?? null);
const name = ref(props.suggestedName);
watch(
  () => props.suggestedName,
  (next) => (name.value = next),
);

const change = (part: Partial<LiftSettings>): void => props.lift.change(part);
/** What is found by itself stands where nothing was set. */
const values = computed(() => ({
  ...settings.value,
  paper: levels.value?.paper ?? 1,
  ink: levels.value?.ink ?? 0,
  specks: settings.value.specks ?? ink.value?.speckPx2 ?? 0,
  pinholes: settings.value.pinholes ?? ink.value?.pinholePx2 ?? 0,
}));

function set(key: string, value: unknown): void {
  if (key === 'ink' || key === 'paper') setLevel(key, Number(value));
  else change({ [key]: value });
}
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
  if (outlines.isKept) return 'Kept as outlines, sharp at any size';
  const lost = `${(outlines.amiss * 100).toFixed(1)} %`;
  return outlines.amiss > MOST_AMISS
    ? `Kept as pixels: outlines would lose ${lost} of it`
    : 'Kept as pixels';
});
const evenness = computed(() => {
  const value = props.lift.look.value?.evenness;
  return value === undefined ? '' : `light ${Math.round(value * 100)} % even`;
});

function setLevel(which: 'ink' | 'paper', level: number): void {
  const now = levels.value;
  if (!now) return;
  if (which === 'ink') change({ ink: Math.min(level, now.paper - LEAST_APART) });
  else change({ paper: Math.max(level, now.ink + LEAST_APART) });
}
</script>

<template>
  <BenchFrame columns="1.15fr 1.05fr 1.1fr 0.95fr 1.05fr">
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
      <FieldRows layout="bench" :fields="LEVEL_FIELDS" :values="values" @change="set" />
    </BenchPanel>
    <BenchPanel title="Edge">
      <template #end><span class="ends">soft to crisp</span></template>
      <FieldRows layout="bench" :fields="EDGE_FIELDS" :values="values" @change="set" />
    </BenchPanel>
    <BenchPanel title="Specks">
      <template #end>
        <span class="number">{{ speckCount }} removed</span>
      </template>
      <FieldRows
        class="wide-number"
        layout="bench"
        :fields="SPECK_FIELDS"
        :values="values"
        @change="set"
      />
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
      <FieldRows layout="bench" :fields="OUTLINE_FIELDS" :values="values" @change="set" />
    </BenchPanel>
    <BenchPanel title="Keep">
      <template #end>
        <span class="d-flex gap-1">
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
      <span v-else class="text-truncate">Changes {{ replaces }}</span>
      <p class="quiet kept text-truncate" :title="kept">{{ kept }}</p>
      <template #go>
        <BButton
          variant="primary"
          :disabled="!ink || isKeeping || name === ''"
          @click="emit('keep', name)"
        >
          {{ isKeeping ? 'Keeping' : replaces ? 'Keep changes' : 'Keep as a mark' }}
        </BButton>
      </template>
    </BenchPanel>
  </BenchFrame>
</template>

<style scoped>
.again {
  align-self: flex-start;
  margin-left: -0.35rem;
}

.kept {
  font-size: 0.8125rem;
}

.wide-number :deep(.field) {
  width: 80px;
}

@media (max-width: 1160px) {
  .ends {
    display: none;
  }
}
</style>
