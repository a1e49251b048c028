import { createRouter, createWebHistory } from 'vue-router';
import StartView from './views/StartView.vue';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'start', component: StartView },
    { path: '/marks', name: 'marks', component: () => import('./views/MarksView.vue') },
    { path: '/presets', name: 'presets', component: () => import('./views/PresetsView.vue') },
    {
      path: '/presets/:id(\\d+)',
      name: 'preset',
      component: () => import('./views/PresetView.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    { path: '/batches', name: 'batches', component: () => import('./views/BatchesView.vue') },
    {
      path: '/batches/:id(\\d+)',
      name: 'batch',
      component: () => import('./views/BatchView.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    {
      path: '/deliveries',
      name: 'deliveries',
      component: () => import('./views/DeliveriesView.vue'),
    },
    { path: '/runs', name: 'runs', component: () => import('./views/RunsView.vue') },
    {
      path: '/runs/:id(\\d+)',
      name: 'run',
      component: () => import('./views/RunView.vue'),
      props: (route) => ({ id: Number(route.params.id) }),
    },
    { path: '/settings', name: 'settings', component: () => import('./views/SettingsView.vue') },
    { path: '/:rest(.*)*', name: 'nowhere', component: () => import('./views/NowhereView.vue') },
  ],
});
