import { readonly, ref, type Ref } from 'vue';
import type { Router } from 'vue-router';
import { START_LOCATION } from 'vue-router';
import { api } from '../api/client.ts';
import { onBack } from '../api/connection.ts';

/** Nobody is taken round and round: a view that was loaded anew and still fails waits to be asked. */
const AGAIN_MS = 10_000;
const LOADED_ANEW = 'light-crest-loaded-anew';

export interface ViewLoading {
  /** The address of the view that should be seen and could not be loaded, while nothing else is. */
  readonly missing: Readonly<Ref<string | null>>;
  /** Loads the page at the missing view. */
  readonly openAnew: () => void;
}

/**
 * Opens views whose code could not be loaded once the server answers. A browser remembers that a part of
 * the page failed, so asking it again is of no use: the page is loaded anew at the view.
 */
export function watchViewLoading(
  router: Router,
  load: (address: string) => void,
  tell: (sentence: string) => void,
): ViewLoading & { readonly stop: () => void } {
  const missing = ref<string | null>(null);

  const openAnew = (): void => {
    if (missing.value !== null) load(missing.value);
  };

  async function take(address: string, isFirst: boolean): Promise<void> {
    if (isFirst) missing.value = address;
    const mayLoad = !isFirst || Date.now() - loadedAnewAt(address) > AGAIN_MS;
    if (mayLoad && (await serverAnswers())) {
      sessionStorage.setItem(LOADED_ANEW, JSON.stringify({ address, at: Date.now() }));
      load(address);
    } else if (!isFirst) {
      tell('This view could not be loaded, since the server does not answer. Try again.');
    }
  }

  const stops = [
    router.onError((_error, to, from) => void take(to.fullPath, from === START_LOCATION)),
    router.afterEach((_to, _from, failure) => {
      if (!failure) missing.value = null;
    }),
    onBack(openAnew),
  ];
  return { missing: readonly(missing), openAnew, stop: () => stops.forEach((stop) => stop()) };
}

function loadedAnewAt(address: string): number {
  const last = JSON.parse(sessionStorage.getItem(LOADED_ANEW) ?? 'null') as Last | null;
  return last?.address === address ? last.at : 0;
}

interface Last {
  readonly address: string;
  readonly at: number;
}

const serverAnswers = (): Promise<boolean> =>
  api.get('/settings').then(
    () => true,
    () => false,
  );
