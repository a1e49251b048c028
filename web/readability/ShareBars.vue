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
import { useThemeColours } from '../app/useTheme.ts';
import { counted } from '../ui/format.ts';

/** How many photos have which share of something, in twentieths. */
const props = defineProps<{
  shares: readonly number[];
  /** What the bars are about, for whoever does not see them. */
  label: string;
  /** What a share is of, after its figures. */
  of: string;
  colourOf: (share: number) => string;
}>();

Chart.register(BarElement, CategoryScale, LinearScale, Tooltip);

const BINS = 20;
/** Shares are sums of twentieths: one that lies on a border belongs to what begins there. */
const NOISE = 1e-6;
const colours = useThemeColours();

const bins = computed(() => {
  const counts = Array.from({ length: BINS }, () => 0);
  for (const share of props.shares) {
    counts[Math.min(BINS - 1, Math.floor(share * BINS + NOISE))]++;
  }
  return counts;
});
const data = computed<ChartData<'bar'>>(() => ({
  labels: bins.value.map((_, bin) => `${bin * 5} to ${bin * 5 + 5} %`),
  datasets: [
    {
      data: bins.value,
      backgroundColor: bins.value.map((_, bin) => props.colourOf(bin / BINS + 0.001)),
      barPercentage: 1,
      categoryPercentage: 0.92,
    },
  ],
}));
const words = computed(() =>
  bins.value
    .flatMap((count, bin) =>
      count > 0 ? [`${counted(count, 'photo')} at ${bin * 5} to ${bin * 5 + 5} %`] : [],
    )
    .join(', '),
);
const options = computed<ChartOptions<'bar'>>(() => ({
  animation: false,
  maintainAspectRatio: false,
  plugins: {
    tooltip: {
      callbacks: {
        title: (items) => `${items[0]?.label} ${props.of}`,
        label: ({ raw }) => counted(Number(raw), 'photo'),
      },
    },
  },
  scales: {
    x: {
      border: { display: false },
      grid: { display: false },
      ticks: {
        color: colours.value['ink-quiet'],
        maxRotation: 0,
        callback: (_, bin) => (bin % 4 === 0 ? `${bin * 5} %` : ''),
      },
    },
    y: {
      beginAtZero: true,
      border: { display: false },
      grid: { color: colours.value.hairline },
      ticks: { color: colours.value['ink-quiet'], precision: 0, maxTicksLimit: 5 },
    },
  },
}));
</script>

<template>
  <div class="chart">
    <Bar :data="data" :options="options" :aria-label="`${label}: ${words}`" />
  </div>
</template>

<style scoped>
.chart {
  height: 240px;
  margin-top: 10px;
}
</style>
