<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
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
import { classOf } from '#core/readability/measure';
import { useThemeColours } from '../app/useTheme.ts';
import { counted } from '../ui/format.ts';

/** How many photos have how much of the mark's ink readable. */
const props = defineProps<{ shares: readonly number[] }>();
const isOpen = defineModel<boolean>({ required: true });

Chart.register(BarElement, CategoryScale, LinearScale, Tooltip);

const BINS = 20;
const colours = useThemeColours();

const known = computed(() => props.shares.filter((share) => share >= 0));
const bins = computed(() => {
  const counts = Array.from({ length: BINS }, () => 0);
  for (const share of known.value) counts[Math.min(BINS - 1, Math.floor(share * BINS))]++;
  return counts;
});
const data = computed<ChartData<'bar'>>(() => ({
  labels: bins.value.map((_, bin) => `${bin * 5} to ${bin * 5 + 5} %`),
  datasets: [
    {
      data: bins.value,
      backgroundColor: bins.value.map((_, bin) => colours.value[classOf(bin / BINS + 0.001, 1)]),
      barPercentage: 1,
      categoryPercentage: 0.92,
    },
  ],
}));
/** What the bars show, for whoever does not see them. */
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
        title: (items) => `${items[0]?.label} of the mark can be read`,
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
  <BModal
    v-model="isOpen"
    title-tag="h2"
    title="How much of the mark can be read"
    size="lg"
    centered
    no-footer
  >
    <p class="quiet">
      {{ counted(known.length, 'photo') }}, each by the share of the mark that stands out from the
      photo round it. From 90 % on a mark is clear, from 60 % faint, below that lost.
    </p>
    <div class="chart">
      <Bar
        v-if="isOpen"
        :data="data"
        :options="options"
        :aria-label="`On how many photos how much of the mark can be read: ${words}`"
      />
    </div>
  </BModal>
</template>

<style scoped>
.chart {
  height: 280px;
  margin-top: 14px;
}
</style>
