<script setup lang="ts">
import { percentText } from '../readability/readingText.ts';
import { useReadings } from '../readability/readings.ts';
import ReadingBar from '../readability/ReadingBar.vue';
import SurroundSwitch from '../app/SurroundSwitch.vue';

/** Over a preset's wall: its name, and how it does on the whole batch. */
defineProps<{ name: string; batchName: string | null }>();
const readings = useReadings();
</script>

<template>
  <header class="head">
    <h1 class="text-truncate" :title="name">{{ name }}</h1>
    <span v-if="batchName" class="over number">over {{ batchName }}</span>
    <span
      v-if="readings.photos.length > 0"
      class="figures align-items-center align-self-center d-flex"
    >
      <ReadingBar class="counts" :counts="readings.counts" />
      <span
        v-if="readings.cleanCrops"
        class="crops number"
        title="The share of a frame that can be cropped free of the mark, on average and at most"
      >
        <b>{{ percentText(readings.cleanCrops.mean) }}</b> can be cropped free, at most
        {{ percentText(readings.cleanCrops.most) }}
      </span>
    </span>
    <span class="end"><SurroundSwitch /></span>
  </header>
</template>

<style scoped>
.head {
  align-items: baseline;
  display: flex;
  gap: 16px;
}

.over,
.crops {
  color: var(--lc-on-surround-quiet);
  font-size: 0.8125rem;
  white-space: nowrap;
}

.over {
  overflow: hidden;
  text-overflow: ellipsis;
}

.crops b {
  color: var(--lc-on-surround);
  font-weight: 650;
}

.figures {
  flex: none;
  gap: 14px;
  margin-left: auto;
}

.counts {
  width: 270px;
}

.end {
  color: var(--lc-on-surround-quiet);
  margin-left: auto;
}

.figures + .end {
  margin-left: 0;
}

@media (max-width: 900px) {
  .head {
    flex-wrap: wrap;
    gap: 4px 12px;
  }

  .figures {
    flex: 1 1 auto;
    flex-wrap: wrap;
    margin-left: 0;
  }
}
</style>
