<script setup lang="ts">
import { onMounted, onScopeDispose, watchEffect } from 'vue';
import { listening } from '../api/events.ts';
import { useResource } from '../api/useResource.ts';
import { watchViewLoading } from './viewLoading.ts';
import AskHost from '../ui/AskHost.vue';
import AppHeader from './AppHeader.vue';
import ErrorState from './ErrorState.vue';
import NoticeTray from './NoticeTray.vue';
import ShortcutList from './ShortcutList.vue';
import { useAdjustmentSync } from '../batch/adjustmentSync.ts';
import { loadViewsAhead, router } from './router.ts';
import { useLibrary } from './library.ts';
import { useNotices } from './notices.ts';
import { useBatches } from '../batch/batches.ts';
import { useIntake } from '../batch/useIntake.ts';
import { useDropTarget } from '../ui/windowDrop.ts';
import WindowDrop from '../ui/WindowDrop.vue';
import ViewSpeaker from './ViewSpeaker.vue';
import { useTheme } from './useTheme.ts';
import { useViewTitle } from './viewTitle.ts';
import { useRuns } from '../run/runs.ts';
import { useRunNews } from '../run/useRunNews.ts';

const library = useLibrary();
const runs = useRuns();
const notices = useNotices();
const batches = useBatches();

const { problem, load } = useResource(async () => {
  // What happens while the answers are on their way is told.
  await listening();
  await Promise.all([library.load(), runs.load(), batches.load()]);
  // What an earlier page could not get rid of is sent, whatever view comes first.
  useAdjustmentSync();
});
onMounted(() => router.isReady().then(loadViewsAhead, () => undefined));

const { missing, openAnew, stop } = watchViewLoading(
  router,
  (address) => window.location.assign(address),
  notices.problem,
);
onScopeDispose(stop);

useTheme();

// The window's own title tells of a run when another window is in front.
const news = useRunNews();
const title = useViewTitle();
watchEffect(() => {
  document.title = [news.value, title.value, 'Light Crest'].filter(Boolean).join(' · ');
});

// What no view has a place for becomes a batch.
const { takeFiles } = useIntake();
useDropTarget({ says: 'Make a batch of them', take: (dropped) => void takeFiles(dropped) });
</script>

<template>
  <div class="app">
    <a class="skip btn btn-primary" href="#main">Skip to the view</a>
    <AppHeader />
    <main id="main" class="main" tabindex="-1">
      <ErrorState v-if="problem" :text="problem" action="Try again" @act="load" />
      <ErrorState
        v-else-if="missing !== null"
        text="This view could not be loaded. It opens once the server answers."
        action="Load it now"
        @act="openAnew"
      />
      <RouterView v-else-if="library.isLoaded" v-slot="{ Component, route }">
        <component :is="Component" :key="String(route.name) + String(route.params.id ?? '')" />
      </RouterView>
    </main>
    <ViewSpeaker :title="title" />
    <WindowDrop />
    <NoticeTray />
    <AskHost />
    <ShortcutList />
  </div>
</template>

<style scoped>
.app {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: var(--lc-header) minmax(0, 1fr);
  height: 100%;
}

.main {
  min-height: 0;
  min-width: 0;
}

/* Hardly any height, as with much zoom: the view scrolls as a whole. */
@media (max-height: 460px) {
  .main {
    overflow: hidden auto;
  }
}

.main:focus {
  box-shadow: none !important;
  outline: none !important;
}

/* There for whoever comes by keyboard. */
.skip {
  left: 8px;
  position: absolute;
  top: -60px;
  z-index: 2000;
}

.skip:focus {
  top: 8px;
}
</style>
