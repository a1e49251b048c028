<script setup lang="ts">
import { computed } from 'vue';
import type { RunView } from '#core/contract/http';
import { counted, remainingText } from '../ui/format.ts';

/** How a run stands: a sign of its own shape, and words. */
const props = defineProps<{ run: RunView }>();

const sign = computed(() => {
  const { state, failed, total, written, skipped } = props.run;
  const done = written + skipped + failed;
  switch (state) {
    case 'running': {
      const left =
        props.run.remainingMs === null ? '' : `, ${remainingText(props.run.remainingMs)}`;
      return { shape: 'half', text: `${done} of ${total}${left}` };
    }
    case 'paused':
      return { shape: 'half', text: `paused at ${done} of ${total}` };
    case 'cancelled':
      return { shape: 'ring', text: `cancelled at ${done} of ${total}` };
    case 'done':
      if (failed > 0) return { shape: 'ring', text: `${counted(failed, 'photo')} failed` };
      return { shape: 'disc', text: 'done' };
    default:
      throw new Error(`Unknown state ${state satisfies never}`);
  }
});
</script>

<template>
  <span class="sign number">
    <svg viewBox="0 0 14 14" width="14" height="14" aria-hidden="true" :class="sign.shape">
      <circle cx="7" cy="7" r="5.5" />
      <path v-if="sign.shape === 'half'" d="M7 1.5a5.5 5.5 0 0 1 0 11z" />
    </svg>
    {{ sign.text }}
  </span>
</template>

<style scoped>
.sign {
  align-items: center;
  display: inline-flex;
  gap: 8px;
  white-space: nowrap;
}

circle {
  fill: none;
  stroke-width: 2;
}

.disc circle {
  fill: var(--lc-clear);
  stroke: var(--lc-clear);
}

.half circle {
  stroke: var(--lc-faint);
}

.half path {
  fill: var(--lc-faint);
}

.ring circle {
  stroke: var(--lc-lost);
}
</style>
