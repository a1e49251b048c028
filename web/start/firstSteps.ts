import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useLibrary } from '../app/library.ts';
import { useBatches } from '../batch/batches.ts';
import { useRuns } from '../run/runs.ts';

export interface FirstStep {
  readonly word: string;
  readonly to: string;
  readonly isDone: boolean;
}

/** The way to the first export: shown until it was gone once, and led along by itself. */
export function useFirstSteps() {
  const library = useLibrary();
  const batches = useBatches();
  const runs = useRuns();
  const router = useRouter();

  // A preset counts its runs, also those that were taken off the list.
  const hasExported = computed(
    () => runs.runs.length > 0 || library.presets.some(({ uses }) => uses > 0),
  );
  const isFirst = computed(() => batches.isLoaded && runs.isLoaded && !hasExported.value);
  const newest = computed(() => batches.batches[0] ?? null);
  const steps = computed((): FirstStep[] => {
    const hasMark = library.marks.length > 0;
    const batch = newest.value && `/batches/${newest.value.id}`;
    return [
      { word: 'mark', to: hasMark ? '/marks' : '/', isDone: hasMark },
      { word: 'photos', to: '/', isDone: batch !== null },
      { word: 'look', to: batch ?? '/', isDone: false },
      { word: 'export', to: batch ?? '/', isDone: false },
    ];
  });

  /** From a mark that was just made to what comes next; once the way is known, to the marks. */
  async function goOn(markId: number): Promise<void> {
    if (!isFirst.value) return void (await router.push({ name: 'marks', hash: `#mark-${markId}` }));
    await router.push(newest.value ? `/batches/${newest.value.id}` : '/');
  }

  return { isFirst, steps, goOn };
}
