<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import IconSettings from '~icons/tabler/adjustments-horizontal';
import { remainingText } from '../ui/format.ts';
import { useRuns } from '../run/runs.ts';
import CrestLogo from './CrestLogo.vue';
import MenuButton from '../ui/MenuButton.vue';
import ProgressRing from '../ui/ProgressRing.vue';
import StepStrip from '../start/StepStrip.vue';
import SavingSign from './SavingSign.vue';

const LINKS = [
  { to: '/marks', label: 'Marks', names: ['marks', 'from-paper', 'pen'] },
  { to: '/presets', label: 'Presets', names: ['presets', 'preset'] },
  { to: '/batches', label: 'Batches', names: ['batches', 'batch'] },
  { to: '/deliveries', label: 'Deliveries', names: ['deliveries'] },
  { to: '/runs', label: 'Runs', names: ['runs', 'run'] },
] as const;

const isNarrow = useMediaQuery('(max-width: 900px)');
const entries = [...LINKS, { to: '/settings', label: 'Settings' }].map(({ to, label }) => ({
  to,
  label,
}));
const route = useRoute();
const runs = useRuns();
const isHere = (names: readonly string[]): boolean => names.includes(String(route.name));
const current = computed(() => runs.underWay[0] ?? null);
const finished = computed(() => {
  const run = current.value;
  return run ? run.written + run.skipped + run.failed : 0;
});
const state = computed(() => {
  const run = current.value;
  if (!run) return '';
  if (run.state === 'paused') return run.problem === null ? 'paused' : 'needs a look';
  return run.remainingMs === null ? 'starting' : remainingText(run.remainingMs);
});
</script>

<template>
  <header class="head">
    <RouterLink
      to="/"
      class="home serif align-items-center d-flex text-decoration-none text-nowrap"
      :aria-current="route.name === 'start' ? 'page' : undefined"
    >
      <CrestLogo /> <span class="word">Light Crest</span>
    </RouterLink>
    <nav v-if="!isNarrow" class="d-flex gap-1" aria-label="Main">
      <RouterLink
        v-for="link in LINKS"
        :key="link.to"
        :to="link.to"
        class="link"
        :class="{ here: isHere(link.names) }"
        :aria-current="isHere(link.names) ? 'page' : undefined"
      >
        {{ link.label }}
      </RouterLink>
    </nav>
    <StepStrip />
    <SavingSign />
    <RouterLink v-if="current" :to="`/runs/${current.id}`" class="run number">
      <ProgressRing :share="finished / Math.max(1, current.total)" />
      <span class="run-name">{{ current.batchName }}:</span>
      <span>{{ finished }} of {{ current.total }}, {{ state }}</span>
    </RouterLink>
    <nav v-if="isNarrow" class="d-flex gap-1 align-items-center ms-auto" aria-label="Main">
      <MenuButton text="Menu" :entries="entries" placement="bottom-end" />
    </nav>
    <RouterLink v-else to="/settings" class="settings" :class="{ here: route.name === 'settings' }">
      <IconSettings aria-hidden="true" /> Settings
    </RouterLink>
  </header>
</template>

<style scoped>
.head {
  align-items: stretch;
  background: var(--lc-paper);
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  gap: 26px;
  height: var(--lc-header);
  padding: 0 18px;
}

.home {
  color: var(--lc-ink);
  font-size: 1.3rem;
  gap: 10px;
}

.link,
.settings {
  align-items: center;
  color: var(--lc-ink-quiet);
  display: flex;
  font-weight: 500;
  gap: 6px;
  padding: 2px 12px 0;
  position: relative;
  text-decoration: none;
}

.link:hover,
.settings:hover,
.link.here,
.settings.here {
  color: var(--lc-ink);
}

.link.here::after,
.settings.here::after {
  background: var(--lc-brass-light);
  bottom: -1px;
  content: '';
  height: 3px;
  left: 12px;
  position: absolute;
  right: 12px;
}

.run {
  align-items: center;
  color: var(--lc-ink-quiet);
  display: flex;
  gap: 7px;
  min-width: 0;
  text-decoration: none;
  white-space: nowrap;
}

.run-name {
  overflow: hidden;
  text-overflow: ellipsis;
}

@media (max-width: 900px) {
  .head {
    gap: 12px;
    padding: 0 12px;
  }
}

@media (max-width: 480px) {
  .home {
    font-size: 1.1rem;
    gap: 7px;
  }

  .run {
    font-size: 0.8125rem;
  }
}

@media (max-width: 1100px) {
  .run-name {
    display: none;
  }
}

/* The crest stands for the name; it is still said. */
@media (max-width: 480px) {
  .home .word {
    clip-path: inset(50%);
    position: absolute;
  }
}
</style>
