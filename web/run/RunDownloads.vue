<script setup lang="ts">
import { computed } from 'vue';
import type { RunView } from '#core/contract/http';
import { counted } from '../ui/format.ts';
import type { RunResult } from './runResult.ts';

/** What a run has written and is still there, as one download and as pages of contacts. */
const props = defineProps<{
  run: RunView;
  result: RunResult;
  isUnderWay: boolean;
  /** Files that are not where they were written. */
  away: number;
}>();

const there = computed(() => Math.max(0, props.result.files - props.away));
</script>

<template>
  <a
    v-if="there > 0"
    class="btn zip"
    :class="isUnderWay ? 'btn-outline-secondary' : 'btn-primary'"
    :href="`/api/runs/${run.id}/zip`"
    download
  >
    Download {{ counted(there, 'file') }} as ZIP
  </a>
  <a
    v-if="result.written.length > 0 && there > 0 && !isUnderWay"
    class="btn btn-link"
    :href="`/api/runs/${run.id}/contacts`"
    download
    >Contacts as PDF</a
  >
</template>

<style scoped>
.zip {
  font-size: 0.95rem;
  margin-top: auto;
  padding-block: 8px;
}
</style>
