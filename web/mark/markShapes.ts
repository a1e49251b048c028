import { defineStore } from 'pinia';
import { ref } from 'vue';
import type { MarkShapeView, MarkView } from '#core/contract/http';
import { wordsKey, type PhotoWords } from '#core/lettering/words';
import { api, isTemporary } from '../api/client.ts';
import { onBack } from '../api/connection.ts';

/** Words of so many photos are asked for at once. */
const AT_ONCE = 200;
/** The server failed: it is asked again after this. */
const RETRY_MS = 5_000;

/** The shapes that marks have with the words of photos: they are set by the server, once for each text. */
export const useMarkShapes = defineStore('markShapes', () => {
  const known = new Map<string, MarkShapeView>();
  /** Counted up when shapes have come. */
  const count = ref(0);
  const asked = new Map<string, { readonly mark: MarkView; readonly words: PhotoWords }>();
  let isAsking = false;
  let retrying: ReturnType<typeof setTimeout> | undefined;

  /** Until it is known, the shape it has with the words of an example. */
  function of(mark: MarkView, words: PhotoWords | null): MarkShapeView {
    if (mark.tokens.length === 0 || !words) return mark;
    void count.value;
    return known.get(keyOf(mark, words)) ?? mark;
  }

  function want(mark: MarkView, all: readonly PhotoWords[]): void {
    if (mark.tokens.length === 0 || mark.isPending) return;
    for (const words of all) {
      const key = keyOf(mark, words);
      if (!known.has(key)) asked.set(key, { mark, words });
    }
    void ask();
  }

  async function ask(): Promise<void> {
    if (isAsking) return;
    isAsking = true;
    try {
      while (asked.size > 0) await askSome();
    } catch {
      // What is wanted is asked for again, at the latest when the server is back.
      clearTimeout(retrying);
      retrying = setTimeout(() => void ask(), RETRY_MS);
    } finally {
      isAsking = false;
    }
  }

  /** Of one mark at a time. */
  async function askSome(): Promise<void> {
    const [[, { mark }]] = asked;
    const some = [...asked].filter(([, wish]) => wish.mark === mark).slice(0, AT_ONCE);
    const words = some.map(([, wish]) => wordsOf(mark, wish.words));
    const wish = { version: mark.version, words };
    const shapes = await api
      .post<MarkShapeView[]>(`/marks/${mark.id}/shapes`, wish)
      .catch((error: Error) => {
        // A version that is gone is not waited for: others wait behind it.
        if (!isTemporary(error)) for (const [key] of some) asked.delete(key);
        throw error;
      });
    some.forEach(([key], at) => {
      known.set(key, shapes[at]);
      asked.delete(key);
    });
    count.value++;
  }
  onBack(() => void ask());

  return { count, of, want };
});

function keyOf(mark: MarkView, words: PhotoWords): string {
  return `${mark.id}|${mark.version}|${wordsKey(mark.tokens, words)}`;
}

/** The words that a mark takes, in its order. */
export function wordsOf({ tokens }: MarkView, words: PhotoWords): string[] {
  return tokens.map((token) => words[token]);
}

/** Those of the first photo that has any, since without them a mark may say nothing; null: none has. */
export function wordsOfAny(mark: MarkView, all: readonly PhotoWords[]): string[] | null {
  for (const words of all) {
    const some = wordsOf(mark, words);
    if (some.some((word) => word !== '')) return some;
  }
  return null;
}
