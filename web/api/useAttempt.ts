import { ref, type Ref } from 'vue';
import { sentenceOf } from './client.ts';

export interface Attempt {
  /** Why the last one could not be done, or null. */
  readonly problem: Ref<string | null>;
  readonly isBusy: Ref<boolean>;
  /** Does it, and says why it could not be done. One at a time: asked twice, it is done once. */
  readonly attempt: (work: () => Promise<void>) => Promise<void>;
}

/** Something that a part of the page does and answers for in its own place. */
export function useAttempt(): Attempt {
  const problem = ref<string | null>(null);
  const isBusy = ref(false);

  async function attempt(work: () => Promise<void>): Promise<void> {
    if (isBusy.value) return;
    problem.value = null;
    isBusy.value = true;
    try {
      await work();
    } catch (error) {
      problem.value = sentenceOf(error);
    } finally {
      isBusy.value = false;
    }
  }

  return { problem, isBusy, attempt };
}
