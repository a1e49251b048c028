<script setup lang="ts">
import { useFileDialog } from '@vueuse/core';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import IconCursive from '~icons/tabler/writing-sign';
import IconLogo from '~icons/tabler/shape';
import IconName from '~icons/tabler/letter-case';
import IconPen from '~icons/tabler/pencil';
import type { ExamplesView } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useLibrary } from '../app/library.ts';
import { useBatches } from '../batch/batches.ts';
import { useNotices } from '../app/notices.ts';
import { useFirstSteps } from './firstSteps.ts';

/** Nothing is here yet: something to try it with, or what one has got. */
const router = useRouter();
const library = useLibrary();
const notices = useNotices();
const batches = useBatches();
const { goOn } = useFirstSteps();
const isLaying = ref(false);
const isReading = ref(false);

async function layExamples(): Promise<void> {
  isLaying.value = true;
  await notices.attempt(async () => {
    const { batchId } = await api.post<ExamplesView>('/examples');
    await Promise.all([library.reload(), batches.load()]);
    await router.push(`/batches/${batchId}`);
  });
  isLaying.value = false;
}

const logo = useFileDialog({ multiple: false, reset: true });
logo.onChange((files) => {
  const file = files?.[0];
  if (!file) return;
  isReading.value = true;
  void notices
    .attempt(async () => {
      const { id, box } = await library.addMark(file);
      // A box round it is asked about where the mark is.
      if (box) await router.push({ name: 'marks', hash: `#mark-${id}` });
      else await goOn(id);
    })
    .finally(() => (isReading.value = false));
});

const WAYS = [
  {
    what: 'ink on paper',
    how: 'a scan, or a photo of it',
    icon: IconCursive,
    to: '/marks/from-paper',
  },
  { what: 'a logo file', how: 'SVG, PNG, PDF or a picture', icon: IconLogo, to: null },
  {
    what: 'just my name',
    how: 'set in letters that suit it',
    icon: IconName,
    to: '/marks/compose',
  },
  { what: 'a stylus', how: 'or a finger, or a mouse', icon: IconPen, to: '/marks/pen' },
] as const;

function begin(to: string | null): void {
  if (to) void router.push(to);
  else logo.open();
}
</script>

<template>
  <section class="first" aria-label="First steps">
    <div class="own">
      <h2>Begin with your own mark. What have you got?</h2>
      <ul class="list-unstyled d-grid">
        <li v-for="{ what, how, icon, to } in WAYS" :key="what">
          <button
            type="button"
            class="way card-plain d-grid gap-1 h-100 text-start w-100"
            :disabled="isReading"
            @click="begin(to)"
          >
            <component :is="icon" class="icon" aria-hidden="true" />
            <b class="serif">{{ isReading && !to ? 'Reading it' : what }}</b>
            <span class="quiet">{{ how }}</span>
          </button>
        </li>
      </ul>
    </div>
    <div class="try align-items-start d-flex flex-column">
      <h2>Or look around first</h2>
      <p class="quiet">Photos, marks and presets of a made-up studio; gone again at one click.</p>
      <BButton variant="outline-secondary" :disabled="isLaying" @click="layExamples">
        {{ isLaying ? 'Laying them out' : 'Try it with example photos' }}
      </BButton>
    </div>
  </section>
</template>

<style scoped>
.first {
  display: flex;
  flex-wrap: wrap;
  gap: 24px 48px;
}

.own {
  flex: 3 1 560px;
}

.try {
  border-left: 1px solid var(--lc-hairline);
  flex: 1 1 240px;
  gap: 10px;
  padding-left: 36px;
}

h2 {
  margin-bottom: 4px;
}

ul {
  gap: 14px;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  margin: 10px 0 0;
}

.way {
  align-content: start;
  color: var(--lc-ink);
  justify-items: start;
  padding: 16px 16px 14px;
  transition: border-color var(--lc-quick);
}

.way:hover:enabled {
  border-color: var(--lc-brass-light);
}

.way b {
  font-size: 1.15rem;
  font-weight: 500;
}

.icon {
  color: var(--lc-brass);
  font-size: 30px;
  stroke-width: 1.4;
}
</style>
