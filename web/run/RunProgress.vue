<script setup lang="ts">
import { computed } from 'vue';
import type { RunView } from '#core/contract/http';
import ToggleField from '../ui/ToggleField.vue';
import { useTellsEnd } from './useRunNews.ts';
import { useSpoken } from '../ui/spoken.ts';
import { counted, remainingText } from '../ui/format.ts';

/** How far a run under way is, what is in its way, and what can be done about it. */
const props = defineProps<{ run: RunView }>();
defineEmits<{ steer: [action: 'pause' | 'resume' | 'cancel'] }>();

const { isSupported, isOn, toggle } = useTellsEnd();

const SAID_EVERY_MS = 30_000;
const finished = computed(() => props.run.written + props.run.skipped + props.run.failed);
const text = computed(() => {
  const { total, state, remainingMs } = props.run;
  const done = `${finished.value} of ${counted(total, 'file')}`;
  if (state === 'paused') return `${done}, paused`;
  return remainingMs === null ? done : `${done}, ${remainingText(remainingMs)} left`;
});

useSpoken(() => text.value, SAID_EVERY_MS);
</script>

<template>
  <div class="going">
    <span class="number words">{{ text }}</span>
    <span v-if="run.problem" class="in-the-way" role="alert">{{ run.problem }}</span>
    <span
      class="bar"
      role="progressbar"
      aria-label="Photos exported"
      :aria-valuenow="finished"
      :aria-valuemax="run.total"
    >
      <i :style="{ width: `${(100 * finished) / Math.max(1, run.total)}%` }" />
    </span>
    <ToggleField
      v-if="isSupported"
      label="tell me at the end"
      title="A message of the system when the run ends while another window is in front"
      :model-value="isOn"
      @update:model-value="toggle"
    />
    <button
      v-if="run.state === 'running'"
      class="btn btn-outline-secondary"
      type="button"
      @click="$emit('steer', 'pause')"
    >
      Pause
    </button>
    <button v-else class="btn btn-primary" type="button" @click="$emit('steer', 'resume')">
      Go on
    </button>
    <button class="btn btn-outline-secondary" type="button" @click="$emit('steer', 'cancel')">
      Cancel
    </button>
  </div>
</template>

<style scoped>
.in-the-way {
  color: var(--lc-lost-deep);
  font-weight: 600;
}

.going {
  align-items: center;
  background: var(--lc-card);
  border-top: 1px solid var(--lc-hairline);
  display: flex;
  gap: 16px;
  padding: 10px 18px;
}

.words {
  min-width: 230px;
}

.bar {
  background: var(--lc-paper-deep);
  border-radius: 4px;
  flex: 1;
  height: 8px;
  overflow: hidden;
}

.bar i {
  background: var(--lc-clear);
  display: block;
  height: 100%;
  transition: width var(--lc-quick);
}

@media (max-width: 900px) {
  .going {
    flex-wrap: wrap;
  }
}
</style>
