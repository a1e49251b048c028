import { onScopeDispose, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import { isTemporary, sentenceOf } from './client.ts';
import { onBack } from './connection.ts';

export interface Resource<T> {
  /** What was answered last; it stays while the next answer is on its way, and if none comes. */
  readonly value: ShallowRef<T | null>;
  /** Why there is no answer to the question of now, or null. */
  readonly problem: Ref<string | null>;
  readonly isLoading: Ref<boolean>;
  /** Asks anew. */
  readonly load: () => Promise<void>;
}

/**
 * Something of the server that a part of the page shows. The last question counts: what comes late for
 * a former one, or after the part was left, changes nothing. What only had to wait for the server is
 * asked for again once that is back.
 * @param ask - the question; its signal tells that the answer is not wanted any more
 * @param about - what it depends on, compared as JSON; while it is null nothing is asked
 */
export function useResource<T>(
  ask: (signal: AbortSignal) => Promise<T>,
  about: () => unknown = () => true,
): Resource<T> {
  const value: ShallowRef<T | null> = shallowRef(null);
  const problem = ref<string | null>(null);
  const isLoading = ref(false);
  let asking: AbortController | null = null;
  let mayComeBack = false;

  async function load(): Promise<void> {
    forget();
    const mine = (asking = new AbortController());
    isLoading.value = true;
    try {
      const answer = await ask(mine.signal);
      if (asking !== mine) return;
      value.value = answer;
      problem.value = null;
    } catch (error) {
      if (asking !== mine) return;
      problem.value = sentenceOf(error);
      mayComeBack = isTemporary(error);
    } finally {
      if (asking === mine) isLoading.value = false;
    }
  }

  function forget(): void {
    asking?.abort();
    asking = null;
    isLoading.value = false;
    mayComeBack = false;
  }

  watch(
    () => JSON.stringify(about()),
    () => {
      problem.value = null;
      if (about() === null) forget();
      else void load();
    },
    { immediate: true },
  );
  onScopeDispose(onBack(() => mayComeBack && void load()));
  onScopeDispose(forget);

  return { value, problem, isLoading, load };
}
