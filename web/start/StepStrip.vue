<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useFirstSteps } from './firstSteps.ts';

/** Where one is on the way to the first export. */
const route = useRoute();
const { isFirst, steps } = useFirstSteps();
/** The first that is not done; on a batch with its mark one looks, or exports. */
const current = computed(() => {
  const next = steps.value.findIndex(({ isDone }) => !isDone);
  return next === 2 && route.query.confirm !== undefined ? 3 : next;
});
</script>

<template>
  <nav v-if="isFirst" class="strip" aria-label="First steps">
    <ol class="list-unstyled d-flex gap-1 m-0">
      <li v-for="({ word, to, isDone }, index) in steps" :key="word">
        <RouterLink
          :to="to"
          :class="{ done: isDone, here: index === current }"
          :aria-current="index === current ? 'step' : undefined"
        >
          <i class="rounded-circle d-grid" aria-hidden="true">{{ isDone ? '✓' : index + 1 }}</i>{{
            word
          }}
          <span v-if="isDone" class="visually-hidden">, done</span>
        </RouterLink>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
.strip {
  align-self: center;
  margin-left: auto;
}

a {
  align-items: center;
  border-radius: 14px;
  color: var(--lc-ink-quiet);
  display: flex;
  font-size: 0.8125rem;
  gap: 6px;
  min-height: 26px;
  padding: 0 10px 0 4px;
  text-decoration: none;
}

i {
  border: 1px solid var(--lc-swatch-rim);
  font-size: 0.75rem;
  font-style: normal;
  height: 20px;
  place-items: center;
  width: 20px;
}

.here {
  background: var(--lc-paper-deep);
  color: var(--lc-ink);
  font-weight: 600;
}

.here i {
  background: var(--lc-brass);
  border-color: var(--lc-brass);
  color: var(--lc-card);
}

.done i {
  border-color: var(--lc-clear);
  color: var(--lc-clear);
}

@media (max-width: 1100px) {
  a:not(.here) {
    font-size: 0;
    gap: 0;
    padding-right: 4px;
  }
}
</style>
