<script setup lang="ts">
import { computed, ref } from 'vue';
import { counted } from '../ui/format.ts';
import { useBatches } from './batches.ts';
import { useNotices } from '../app/notices.ts';
import { useSpoken } from '../ui/spoken.ts';
import { useUploads } from './uploads.ts';
import TrayPanel from '../ui/TrayPanel.vue';

/** Photos on their way in: how far, what was left out and why, and the way to stop it. */
const props = defineProps<{ batchId: number }>();
const uploads = useUploads();
const batches = useBatches();
const notices = useNotices();
const isListOpen = ref(false);

const reading = computed(() => batches.reading);
const isUploading = computed(() => uploads.batchId === props.batchId && uploads.items.length > 0);
const isFolder = computed(() => reading.value?.batchId === props.batchId);
const refused = computed(() => [
  ...(isUploading.value ? uploads.refused.map(({ name, reason }) => ({ name, reason })) : []),
  ...(isFolder.value ? (reading.value?.refused ?? []) : []),
]);
const isBusy = computed(
  () =>
    (isUploading.value && uploads.isBusy) || (isFolder.value && reading.value?.state === 'reading'),
);
const done = computed(
  () => (isUploading.value ? uploads.done : 0) + (isFolder.value ? (reading.value?.done ?? 0) : 0),
);
const total = computed(
  () =>
    (isUploading.value ? uploads.items.length : 0) +
    (isFolder.value ? (reading.value?.total ?? 0) : 0),
);
const share = computed(() =>
  isUploading.value && !isFolder.value ? uploads.share : done.value / Math.max(1, total.value),
);
const sending = computed(() => uploads.items.filter((item) => item.state === 'sending'));
const already = computed(
  () =>
    (isUploading.value ? uploads.already : 0) +
    (isFolder.value ? (reading.value?.already ?? 0) : 0),
);
const isPaused = computed(() => isFolder.value && reading.value?.state === 'paused');
/** Refusals beyond the first are counted, not listed. */
const refusedCount = computed(
  () =>
    (isUploading.value ? uploads.refused.length : 0) +
    (isFolder.value ? (reading.value?.refusedCount ?? 0) : 0),
);
const isShown = computed(
  () => isBusy.value || isPaused.value || refused.value.length > 0 || already.value > 0,
);

const SAID_EVERY_MS = 20_000;
useSpoken(
  () => (isBusy.value ? `${done.value} of ${counted(total.value, 'photo')} are in` : ''),
  SAID_EVERY_MS,
);

function cancel(): void {
  if (isUploading.value) uploads.cancel();
  if (isFolder.value) void notices.attempt(() => batches.cancelReading(props.batchId));
}

function again(): void {
  if (isUploading.value) void uploads.retry();
  if (isFolder.value) void notices.attempt(() => batches.resumeReading(props.batchId));
}

function close(): void {
  uploads.clear();
  batches.reading = null;
  isListOpen.value = false;
}
</script>

<template>
  <TrayPanel v-if="isShown" label="Photos coming in">
    <template #line>
      <template v-if="isBusy">
        <span class="number"
          >Taking in {{ done }} of {{ total
          }}<template v-if="isUploading && uploads.held > 0"
            >, waiting for the server</template
          ></span
        >
        <span
          class="bar"
          role="progressbar"
          aria-label="Photos taken in"
          :aria-valuenow="Math.round(share * 100)"
        >
          <i :style="{ width: `${share * 100}%` }" />
        </span>
        <button
          v-if="isUploading"
          class="btn btn-link"
          type="button"
          :aria-expanded="isListOpen"
          @click="isListOpen = !isListOpen"
        >
          {{ isListOpen ? 'Hide files' : 'Show files' }}
        </button>
        <button class="btn btn-link" type="button" @click="cancel">Cancel</button>
      </template>
      <template v-else-if="isPaused">
        <span class="left-out" role="alert">{{ reading?.problem }}</span>
        <span class="number quiet">{{ done }} of {{ total }} taken in</span>
        <button class="btn btn-primary end" type="button" @click="again">Go on</button>
        <button class="btn btn-link" type="button" @click="cancel">Cancel</button>
      </template>
      <template v-else>
        <span v-if="already > 0">{{ counted(already, 'photo') }} already in the batch. </span>
        <span v-if="refused.length > 0" class="left-out"
          >{{ counted(refusedCount, 'file') }} left out</span
        >
        <button v-if="refused.length > 0" class="btn btn-link end" type="button" @click="again">
          Try these again
        </button>
        <button
          class="btn btn-link"
          :class="{ end: refused.length === 0 }"
          type="button"
          @click="close"
        >
          Close
        </button>
      </template>
    </template>
    <ul v-if="isListOpen && isBusy">
      <li v-for="item in sending" :key="item.name" class="number align-items-center d-flex">
        <span class="file text-truncate">{{ item.name }}</span>
        <span class="bar small"><i :style="{ width: `${item.share * 100}%` }" /></span>
        {{ Math.round(item.share * 100) }} %
      </li>
    </ul>
    <ul v-if="refused.length > 0">
      <li v-for="item in refused" :key="item.name" class="align-items-center d-flex">
        {{ item.reason }}
      </li>
    </ul>
  </TrayPanel>
</template>

<style scoped>
.bar {
  background: var(--lc-paper-deep);
  border-radius: 3px;
  flex: 1;
  height: 6px;
  overflow: hidden;
}

.bar.small {
  flex: 0 0 120px;
}

.bar i {
  background: var(--lc-clear);
  display: block;
  height: 100%;
}

.left-out {
  color: var(--lc-lost-deep);
  font-weight: 600;
}

.end {
  margin-left: auto;
}

li {
  gap: 10px;
}

.file {
  max-width: 320px;
}
</style>
