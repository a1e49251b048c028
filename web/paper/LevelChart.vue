<script setup lang="ts">
import { BarController, BarElement, CategoryScale, Chart, LogarithmicScale } from 'chart.js';
import { computed, ref } from 'vue';
import { Bar } from 'vue-chartjs';
import { HISTOGRAM_TO, LEAST_APART, type Levels } from '#core/ink/levels';
import { clamp } from '#core/placement/geometry';

/**
 * How bright the sheet is, from no light at the bottom to brighter than paper at the top, with the
 * two levels between which coverage runs.
 */
const props = defineProps<{ histogram: Uint32Array | null; levels: Levels | null }>();
const emit = defineEmits<{ change: [part: { ink?: number; paper?: number }] }>();

Chart.register(BarController, BarElement, CategoryScale, LogarithmicScale);

/** Fewer bars than bins: a bar is about two screen pixels. */
const BARS = 160;
const STEP = 0.005;
const FAST = 10;

const track = ref<HTMLElement | null>(null);
const dragged = ref<'ink' | 'paper' | null>(null);

const bars = computed(() => {
  const { histogram } = props;
  if (!histogram) return [];
  const each = histogram.length / BARS;
  return Array.from({ length: BARS }, (_, bar) => {
    let sum = 0;
    for (let bin = bar * each; bin < (bar + 1) * each; bin++) sum += histogram[bin];
    return sum + 1;
  }).reverse();
});
const data = computed(() => ({
  labels: bars.value.map((_, index) => index),
  datasets: [
    { data: bars.value, backgroundColor: '#14303d', barPercentage: 1, categoryPercentage: 1 },
  ],
}));
const options = {
  indexAxis: 'y' as const,
  animation: false as const,
  responsive: true,
  maintainAspectRatio: false,
  events: [],
  scales: {
    x: { type: 'logarithmic' as const, display: false, min: 1 },
    y: { display: false },
  },
  plugins: { legend: { display: false }, tooltip: { enabled: false } },
};

const HANDLES = [
  { which: 'paper', label: 'Paper level' },
  { which: 'ink', label: 'Ink level' },
] as const;

const topOf = (level: number): string => `${(1 - clamp(level / HISTOGRAM_TO, 0, 1)) * 100}%`;
const percent = (level: number): string => `${Math.round(level * 100)} %`;

function set(which: 'ink' | 'paper', level: number): void {
  const { levels } = props;
  if (!levels) return;
  if (which === 'ink') emit('change', { ink: clamp(level, 0, levels.paper - LEAST_APART) });
  else emit('change', { paper: clamp(level, levels.ink + LEAST_APART, HISTOGRAM_TO) });
}

function down(which: 'ink' | 'paper', event: PointerEvent): void {
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  dragged.value = which;
}

function move(event: PointerEvent): void {
  const frame = track.value?.getBoundingClientRect();
  if (!dragged.value || !frame) return;
  set(dragged.value, (1 - (event.clientY - frame.top) / frame.height) * HISTOGRAM_TO);
}

function key(which: 'ink' | 'paper', event: KeyboardEvent): void {
  const direction = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
  if (!direction || !props.levels) return;
  event.preventDefault();
  event.stopPropagation();
  set(which, props.levels[which] + direction * STEP * (event.shiftKey ? FAST : 1));
}
</script>

<template>
  <section class="chart" aria-label="Brightness of the sheet">
    <h2 class="visually-hidden">Brightness of the sheet</h2>
    <div ref="track" class="track h-100 position-relative">
      <Bar v-if="histogram" :data="data" :options="options" aria-hidden="true" />
      <template v-if="levels">
        <button
          v-for="{ which, label } in HANDLES"
          :key="which"
          type="button"
          role="slider"
          class="handle"
          :class="which"
          :aria-label="label"
          :aria-valuenow="Math.round(levels[which] * 100)"
          aria-valuemin="0"
          :aria-valuemax="HISTOGRAM_TO * 100"
          :aria-valuetext="percent(levels[which])"
          aria-orientation="vertical"
          :style="{ top: topOf(levels[which]) }"
          @pointerdown.prevent="down(which, $event)"
          @pointermove="move"
          @pointerup="dragged = null"
          @pointercancel="dragged = null"
          @keydown="key(which, $event)"
        >
          <span>{{ which }}</span>
        </button>
      </template>
    </div>
  </section>
</template>

<style scoped>
.chart {
  min-height: 0;
  width: 92px;
}

.track {
  background: rgb(var(--lc-veil) / 55%);
  border-radius: 3px;
}

.handle {
  background: none;
  border: 0;
  border-top: 2px solid var(--lc-brass);
  color: var(--lc-ink);
  cursor: ns-resize;
  height: 22px;
  left: 0;
  margin-top: -1px;
  padding: 0;
  position: absolute;
  text-align: right;
  touch-action: none;
  width: 100%;
}

/* Paper is bright and lies high up: its word stands under the line, that of the ink above it. */
.handle.ink {
  border-bottom: 2px solid var(--lc-brass);
  border-top: 0;
  margin-top: -21px;
}

.handle span {
  background: var(--lc-card);
  border-radius: 2px;
  font-size: 0.75rem;
  padding: 1px 5px;
}
</style>
