import { createRouter, createWebHistory } from 'vue-router';
import StartView from '../start/StartView.vue';

/** A number from an address, where there is one. */
function numberOrNull(part: unknown): number | null {
  const number = typeof part === 'string' ? Number(part) : NaN;
  return Number.isInteger(number) && number > 0 ? number : null;
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'start', component: StartView },
    { path: '/marks', name: 'marks', component: () => import('../mark/MarksView.vue') },
    {
      path: '/marks/from-paper/:scanId(\\d+)?',
      name: 'from-paper',
      component: () => import('../paper/FromPaperView.vue'),
      props: ({ params, query }) => ({
        scanId: numberOrNull(params.scanId),
        page: numberOrNull(query.page),
        markId: numberOrNull(query.mark),
      }),
    },
    {
      path: '/marks/pen',
      name: 'pen',
      component: () => import('../pen/PenView.vue'),
      props: ({ query }) => ({ markId: numberOrNull(query.mark) }),
    },
    {
      path: '/marks/compose',
      name: 'compose',
      component: () => import('../design/DesignView.vue'),
      props: { id: null },
    },
    {
      path: '/marks/:id(\\d+)/design',
      name: 'design',
      component: () => import('../design/DesignView.vue'),
      props: ({ params }) => ({ id: Number(params.id) }),
    },
    { path: '/presets', name: 'presets', component: () => import('../preset/PresetsView.vue') },
    {
      path: '/presets/:id(\\d+)',
      name: 'preset',
      component: () => import('../preset/PresetView.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    { path: '/batches', name: 'batches', component: () => import('../batch/BatchesView.vue') },
    {
      path: '/batches/:id(\\d+)',
      name: 'batch',
      component: () => import('../batch/BatchView.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    {
      path: '/deliveries',
      name: 'deliveries',
      component: () => import('../delivery/DeliveriesView.vue'),
    },
    { path: '/runs', name: 'runs', component: () => import('../run/RunsView.vue') },
    {
      path: '/runs/:id(\\d+)',
      name: 'run',
      component: () => import('../run/RunView.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    {
      path: '/settings',
      name: 'settings',
      component: () => import('../settings/SettingsView.vue'),
    },
    { path: '/:rest(.*)*', name: 'nowhere', component: () => import('./NowhereView.vue') },
  ],
});

/**
 * Loads the parts of all views while nothing else is to be done: whoever changes the view while the
 * server is away is not left standing.
 */
export function loadViewsAhead(): void {
  const load = (): void => {
    for (const { components } of router.getRoutes()) {
      const view = components?.default as unknown;
      // What is loaded already is an object; a view that is not is a function that loads it.
      if (typeof view === 'function') (view as () => Promise<unknown>)().catch(() => undefined);
    }
  };
  if ('requestIdleCallback' in window) requestIdleCallback(load, { timeout: AHEAD_MS });
  else setTimeout(load, AHEAD_MS);
}

const AHEAD_MS = 3_000;
