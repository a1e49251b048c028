<script setup lang="ts">
import { computed } from 'vue';
import { READABILITY_CLASSES, type ReadabilityClass } from '#core/readability/measure';
import type { ReadingCounts } from '#core/readability/estimates';
import ReadingSign from './ReadingSign.vue';

/** How many photos are clear, faint and lost, as a bar; each part of it is a filter. */
const props = defineProps<{
  counts: ReadingCounts;
  /** The class that is shown alone. */
  only?: ReadabilityClass | null;
  isFilter?: boolean;
}>();
const emit = defineEmits<{ only: [kind: ReadabilityClass | null] }>();

const parts = computed(() =>
  READABILITY_CLASSES.map((kind) => ({ kind, count: props.counts[kind] })),
);

function toggle(kind: ReadabilityClass): void {
  emit('only', props.only === kind ? null : kind);
}
</script>

<template>
  <div class="bar number" role="group" aria-label="Readability of the batch">
    <component
      :is="isFilter ? 'button' : 'span'"
      v-for="{ kind, count } in parts"
      :key="kind"
      class="part align-items-center text-nowrap"
      :class="[kind, { on: only === kind, none: count === 0 }]"
      :style="{ flexGrow: count }"
      :type="isFilter ? 'button' : undefined"
      :aria-pressed="isFilter ? only === kind : undefined"
      :title="isFilter ? `Show only what is ${kind}` : undefined"
      :data-testid="`count-${kind}`"
      @click="isFilter && toggle(kind)"
    >
      <ReadingSign :kind="kind" /> <b>{{ count.toLocaleString('en') }}</b> {{ kind }}
    </component>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 2px;
  min-width: 0;
}

.part {
  background: var(--lc-paper);
  border: 0;
  border-bottom: 3px solid currentcolor;
  color: var(--lc-ink);
  display: flex;
  flex: 0 1 auto;
  font-size: 0.8125rem;
  gap: 5px;
  min-width: 66px;
  overflow: hidden;
  padding: 3px 8px 2px;
  transition: flex-grow var(--lc-quick);
}

.part:first-child {
  border-radius: 4px 0 0 4px;
}

.part:last-child {
  border-radius: 0 4px 4px 0;
}

button.part:hover {
  background: var(--lc-card);
}

.part b {
  font-weight: 650;
}

.clear {
  border-color: var(--lc-clear);
}

.faint {
  border-color: var(--lc-faint);
}

.lost {
  border-color: var(--lc-lost);
}

.none:not(.on) {
  border-color: var(--lc-hairline);
  color: var(--lc-ink-quiet);
}

.on {
  background: var(--lc-ink);
  color: var(--lc-card);
}

.on .reading-sign {
  background: var(--lc-card);
  border-radius: 50%;
  box-shadow: 0 0 0 2px var(--lc-card);
}

@media (prefers-reduced-motion: reduce) {
  .part {
    transition: none;
  }
}
</style>
