<script setup lang="ts">
import {
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  Tooltip,
  type ChartData,
  type ChartOptions,
} from 'chart.js';
import { computed } from 'vue';
import { Bar } from 'vue-chartjs';
import type { RunItemView, RunView } from '#core/contract/http';
import { useThemeColours } from '../app/useTheme.ts';
import { bytesText } from '../ui/format.ts';

/** Bytes of each photo before and after, in the order of the run. */
const props = defineProps<{ run: RunView; items: readonly RunItemView[] }>();

Chart.register(BarElement, CategoryScale, LinearScale, Tooltip);

/** More bars than this are thinner than a pixel; then each stands for several photos. */
const MOST_BARS = 80;

const colours = useThemeColours();

interface Group {
  label: string;
  before: number;
  after: number;
}

const groups = computed<Group[]>(() => {
  const size = Math.ceil(props.items.length / MOST_BARS) || 1;
  const result: Group[] = [];
  for (let at = 0; at < props.items.length; at += size) {
    const some = props.items.slice(at, at + size);
    const mean = (bytes: (item: RunItemView) => number | null): number =>
      some.reduce((sum, item) => sum + (bytes(item) ?? 0), 0) / some.length;
    const label = size === 1 ? some[0].sourceName : `${at + 1} to ${at + some.length}`;
    result.push({ label, before: mean((i) => i.bytesBefore), after: mean((i) => i.bytesAfter) });
  }
  return result;
});

const data = computed<ChartData<'bar'>>(() => ({
  labels: groups.value.map((group) => group.label),
  datasets: [
    {
      label: 'before',
      data: groups.value.map((g) => g.before),
      backgroundColor: colours.value.line,
    },
    {
      label: 'after',
      data: groups.value.map((g) => g.after),
      backgroundColor: colours.value.clear,
    },
  ],
}));

const options = computed<ChartOptions<'bar'>>(() => ({
  animation: false,
  maintainAspectRatio: false,
  plugins: {
    tooltip: {
      callbacks: { label: ({ dataset, raw }) => `${dataset.label}: ${bytesText(Number(raw))}` },
    },
  },
  scales: {
    x: { display: false },
    y: {
      border: { display: false },
      grid: { color: colours.value.hairline },
      ticks: {
        color: colours.value['ink-quiet'],
        maxTicksLimit: 4,
        callback: (value) => bytesText(Number(value)),
      },
    },
  },
}));
</script>

<template>
  <header>
    <h2 class="minor">Before and after</h2>
    <span class="number quiet">
      <i class="before" aria-hidden="true" />{{ bytesText(run.bytesBefore) }}
      <i class="after" aria-hidden="true" />{{ bytesText(run.bytesAfter) }}
    </span>
  </header>
  <div v-if="items.length > 0" class="chart">
    <Bar :data="data" :options="options" aria-label="Bytes of each photo before and after" />
  </div>
</template>

<style scoped>
header {
  align-items: baseline;
  display: flex;
  gap: 14px;
  justify-content: space-between;
}

i {
  display: inline-block;
  height: 10px;
  margin: 0 5px 0 10px;
  width: 10px;
}

.before {
  background: var(--lc-line);
}

.after {
  background: var(--lc-clear);
}

.chart {
  flex: 1;
  min-height: 0;
  position: relative;
}
</style>
