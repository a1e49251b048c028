<script setup lang="ts">
import { useObjectUrl } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import IconLeft from '~icons/tabler/chevron-left';
import IconRight from '~icons/tabler/chevron-right';
import type { RunPlanView, RunWish } from '#core/contract/http';
import { api, sentenceOf } from '../api/client.ts';
import { counted } from '../ui/format.ts';
import { useRuns } from './runs.ts';

/** The sheets of a run before it begins, as they will come out, one at a time. */
const props = defineProps<{ wish: RunWish }>();

const runs = useRuns();
const plan = ref<RunPlanView | null>(null);
const sheet = ref(0);
const picture = shallowRef<Blob | null>(null);
const address = useObjectUrl(picture);
const problem = ref<string | null>(null);
const isComing = ref(false);

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

const wished = computed(() => JSON.stringify(props.wish));
watch(
  wished,
  async (asked) => {
    try {
      const answer = await runs.plan(props.wish);
      if (wished.value !== asked) return;
      plan.value = answer;
      sheet.value = Math.min(sheet.value, Math.max(0, (paper.value?.sheets ?? 1) - 1));
    } catch (error) {
      problem.value = sentenceOf(error);
    }
  },
  { immediate: true },
);

let asking: AbortController | null = null;
watch(
  [wished, plan, sheet],
  async () => {
    if (!paper.value || plan.value?.problem) return;
    asking?.abort();
    const mine = (asking = new AbortController());
    isComing.value = true;
    problem.value = null;
    try {
      const body = { run: props.wish, delivery: number.value, sheet: sheet.value };
      const answer = await api.picture('/runs/sheet', body, mine.signal);
      if (asking === mine) picture.value = answer;
    } catch (error) {
      if (asking === mine) problem.value = sentenceOf(error);
    } finally {
      if (asking === mine) isComing.value = false;
    }
  },
  { immediate: true },
);

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
