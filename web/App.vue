<script setup lang="ts">
import { computed, onMounted, onScopeDispose, ref, watch } from 'vue';
import { START_LOCATION } from 'vue-router';
import { api, sentenceOf } from './api/client.ts';
import { onServerEvent } from './api/events.ts';
import ConflictDialog from './components/ConflictDialog.vue';
import AppHeader from './components/AppHeader.vue';
import ErrorState from './components/ErrorState.vue';
import NoticeTray from './components/NoticeTray.vue';
import ShortcutList from './components/ShortcutList.vue';
import { counted } from './composables/format.ts';
import { useAdjustmentSync } from './stores/adjustmentSync.ts';
import { loadViewsAhead, router } from './router.ts';
import { useLibrary } from './stores/library.ts';
import { useNotices } from './stores/notices.ts';
import { useRuns } from './stores/runs.ts';

const library = useLibrary();
const runs = useRuns();
const notices = useNotices();
const problem = ref<string | null>(null);

async function load(): Promise<void> {
  problem.value = null;
  try {
    await Promise.all([library.load(), runs.load()]);
    // What an earlier page could not get rid of is sent, whatever view comes first.
    useAdjustmentSync();
  } catch (error) {
    problem.value = sentenceOf(error);
  }
}
onMounted(load);
onMounted(() => void router.isReady().then(loadViewsAhead));
onScopeDispose(
  router.onError(async (_error, to, from) => {
    // A browser remembers that a part of the page failed, so asking it again is of no use: the page
    // is loaded anew at the view, but only once, lest it goes round and round.
    if (from !== START_LOCATION && (await serverAnswers()))
      return window.location.assign(to.fullPath);
    notices.problem('This view could not be loaded, since the server does not answer. Try again.');
  }),
);

const serverAnswers = (): Promise<boolean> =>
  api.get('/settings').then(
    () => true,
    () => false,
  );

watch(
  () => library.settings.surround,
  (surround) => document.documentElement.setAttribute('data-surround', surround),
  { immediate: true },
);

// The window's own title tells of a run when another window is in front.
const running = computed(() => runs.underWay.find((run) => run.state === 'running') ?? null);
watch(running, (run) => {
  document.title = run
    ? `${run.written + run.failed} of ${run.total} · Light Crest`
    : 'Light Crest';
});

const told = new Set<number>();
onServerEvent('run', (run) => {
  if (run.state === 'running') told.delete(run.id);
  if (run.state !== 'done' || told.has(run.id)) return;
  told.add(run.id);
  const failed = run.failed > 0 ? `, ${counted(run.failed, 'photo')} failed` : '';
  notices.done(`${run.batchName}: ${counted(run.written, 'file')} written${failed}.`, {
    to: `/runs/${run.id}`,
    label: 'See them',
  });
});
</script>

<template>
  <div class="app">
    <AppHeader />
    <main class="main">
      <ErrorState v-if="problem" :text="problem" action="Try again" @act="load" />
      <RouterView v-else-if="library.isLoaded" v-slot="{ Component, route }">
        <component :is="Component" :key="String(route.name) + String(route.params.id ?? '')" />
      </RouterView>
    </main>
    <NoticeTray />
    <ConflictDialog />
    <ShortcutList />
  </div>
</template>

<style scoped>
.app {
  display: grid;
  grid-template-rows: var(--lc-header) minmax(0, 1fr);
  height: 100%;
}

.main {
  min-height: 0;
}
</style>
