import { computed, type ComputedRef } from 'vue';
import { useRoute } from 'vue-router';
import { useBatches } from '../batch/batches.ts';
import { useRuns } from '../run/runs.ts';
import { useLibrary } from './library.ts';

const WORDS: Readonly<Record<string, string>> = {
  start: 'Start',
  marks: 'Marks',
  'from-paper': 'From paper',
  pen: 'Sign with a pen',
  compose: 'Compose a mark',
  presets: 'Presets',
  batches: 'Batches',
  deliveries: 'Deliveries',
  runs: 'Runs',
  settings: 'Settings',
  nowhere: 'Not here',
};

/** What the view is called: its subject by name, where it has one. */
export function useViewTitle(): ComputedRef<string> {
  const route = useRoute();
  const library = useLibrary();
  const batches = useBatches();
  const runs = useRuns();
  return computed(() => {
    const id = Number(route.params.id);
    switch (route.name) {
      case 'batch':
        return batches.open?.id === id ? batches.open.name : 'Batch';
      case 'preset':
        return library.presetOf(id)?.name ?? 'New preset';
      case 'design':
        return `Design of ${library.markOf(id)?.name ?? 'a mark'}`;
      case 'run':
        return `Run of ${runs.runOf(id)?.batchName ?? 'a batch'}`;
      default:
        return WORDS[String(route.name)] ?? '';
    }
  });
}
