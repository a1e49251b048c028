<script setup lang="ts">
import { useObjectUrl } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import IconLeft from '~icons/tabler/chevron-left';
import IconRight from '~icons/tabler/chevron-right';
import type { RunWish } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useResource } from '../api/useResource.ts';
import { counted } from '../ui/format.ts';
import { useRuns } from './runs.ts';

/** The sheets of a run before it begins, as they will come out, one at a time. */
const props = defineProps<{ wish: RunWish }>();

const runs = useRuns();
const { value: plan, problem: planProblem } = useResource(
  () => runs.plan(props.wish),
  () => props.wish,
);
const sheet = ref(0);

/** The first delivery to paper, by its number in the run. */
const number = computed(() => {
  const at = plan.value?.deliveries.findIndex(({ paper }) => paper !== null) ?? -1;
  return at + 1;
});
const delivery = computed(() => plan.value?.deliveries.at(number.value - 1) ?? null);
const paper = computed(() => (number.value > 0 ? (delivery.value?.paper ?? null) : null));
const paperWords = computed(() => {
  if (!paper.value) return '';
  const { width, height, room } = paper.value;
  const printed = room > 0 ? `, printed on ${width + 2 * room} × ${height + 2 * room}` : '';
  return `${Math.round(width)} × ${Math.round(height)} mm${printed}`;
});

watch(paper, (next) => {
  sheet.value = Math.min(sheet.value, Math.max(0, (next?.sheets ?? 1) - 1));
});

const {
  value: picture,
  problem: pictureProblem,
  isLoading: isComing,
} = useResource(
  (signal) => {
    const body = { run: props.wish, delivery: number.value, sheet: sheet.value };
    return api.picture('/runs/sheet', body, signal);
  },
  () => (paper.value && !plan.value?.problem ? [props.wish, plan.value, sheet.value] : null),
);
const address = useObjectUrl(picture);
const problem = computed(() => planProblem.value ?? pictureProblem.value);

function turn(by: number): void {
  const last = (paper.value?.sheets ?? 1) - 1;
  sheet.value = Math.min(last, Math.max(0, sheet.value + by));
}
</script>

<template>
  <section class="sheets d-grid" aria-label="The sheets">
    <div class="table d-grid">
      <img
        v-if="address && !problem"
        :src="address"
        :class="{ coming: isComing }"
        :alt="`Sheet ${sheet + 1} as it will be printed`"
      />
      <p v-else-if="problem" role="alert" class="m-0">{{ problem }}</p>
      <p v-else class="quiet m-0">The sheet is being drawn</p>
    </div>
    <footer v-if="paper" class="foot align-items-center d-flex">
      <button
        type="button"
        class="turn"
        aria-label="Sheet before"
        :disabled="sheet === 0"
        @click="turn(-1)"
      >
        <IconLeft />
      </button>
      <span class="number" role="status">sheet {{ sheet + 1 }} of {{ paper.sheets }}</span>
      <button
        type="button"
        class="turn"
        aria-label="Sheet after"
        :disabled="sheet + 1 >= paper.sheets"
        @click="turn(1)"
      >
        <IconRight />
      </button>
      <span class="quiet number"
        >{{ counted(paper.sheets, 'sheet') }} of {{ paperWords }}, {{ delivery?.name }}</span
      >
    </footer>
  </section>
</template>

<style scoped>
.sheets {
  gap: 8px;
  grid-template-rows: minmax(0, 1fr) auto;
  padding-bottom: 10px;
}

.table {
  align-items: center;
  justify-items: center;
  min-height: 0;
}

img {
  box-shadow:
    0 1px 2px rgb(0 0 0 / 25%),
    0 6px 18px rgb(0 0 0 / 18%);
  max-height: 100%;
  max-width: 100%;
  min-height: 0;
}

.coming {
  opacity: 0.6;
}

.foot {
  gap: 10px;
  justify-content: center;
}

.quiet {
  color: var(--lc-on-surround-quiet);
}

.turn {
  background: none;
  border: 0;
  border-radius: var(--lc-radius);
  color: inherit;
  display: flex;
  padding: 5px;
}

.turn:hover:not(:disabled) {
  background: rgb(0 0 0 / 12%);
}

.turn:disabled {
  opacity: 0.35;
}
</style>
