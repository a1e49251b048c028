import { computed, shallowRef, watch, type ComputedRef, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { lackedWords } from '#core/lettering/photoWords';
import type { WordToken } from '#core/lettering/words';
import { marksTouch } from '#core/placement/touching';
import { useDraft } from '../preset/draft.ts';
import { placed } from '../preset/usePlacing.ts';
import { useCalmPlaces } from '../readability/calmPlaces.ts';
import { useReadings } from '../readability/readings.ts';
import { usePhotoWords } from './photoWords.ts';

/** What may be wrong with the marks on some photos, so that those can be looked at. */
export type TroubleKind = 'busiest' | 'touching' | 'wordless' | 'letterless';

export interface Trouble {
  readonly kind: TroubleKind;
  readonly ids: ReadonlySet<number>;
  /** What it is about, after how many there are. */
  readonly text: string;
  readonly title: string;
}

/** What the wall says where it shows only those, and there is none any more. */
export const NO_TROUBLE: Readonly<Record<TroubleKind, string>> = Object.freeze({
  busiest: 'No photo has its mark on the busiest part',
  touching: 'No photo has marks that touch',
  wordless: 'No photo lacks words of its mark',
  letterless: 'No photo has letters missing',
});

const LACKED: Readonly<Record<WordToken, string>> = Object.freeze({
  ...{ year: 'capture date', date: 'capture date', time: 'capture date', name: 'name' },
  ...{ number: 'number', batch: 'batch', camera: 'camera', lens: 'lens', place: 'place' },
  ...{ caption: 'caption', artist: 'artist' },
});

/** Troubles as known when the hand last rested; only those that there are. */
export function useWallTroubles(photos: Ref<readonly PhotoView[]>): ComputedRef<Trouble[]> {
  const draft = useDraft();
  const readings = useReadings();
  const calm = useCalmPlaces();
  const words = usePhotoWords();
  const found = shallowRef<Trouble[]>([]);

  watch(
    () => [readings.rested, calm.onBusiest, photos.value] as const,
    () => {
      const all = [busiest(), touching(), wordless(), letterless()];
      found.value = all.filter(({ ids }) => ids.size > 0);
    },
    { immediate: true },
  );

  function busiest(): Trouble {
    const title = 'Photos of which the mark lies on the busiest part';
    return { kind: 'busiest', ids: calm.onBusiest, text: 'on the busiest', title };
  }

  /** Marks that are repeated lie everywhere, and are meant to. */
  function touching(): Trouble {
    const title = 'Photos on which two marks lie over each other';
    const several = draft.others.length > 0;
    const ids = several ? photos.value.filter(isTouched).map(({ id }) => id) : [];
    return { kind: 'touching', ids: new Set(ids), text: 'touching', title };
  }

  function isTouched(photo: PhotoView): boolean {
    const choices = readings.choicesFor(photo.id);
    const copies = draft.subjectsOf(photo.id).map(({ mark, rule, adjustment }, index) => {
      if (rule.repeat || readings.isLeftOut(photo.id, index)) return [];
      const own = { adjustment, choice: choices[index], words: words.of(photo) };
      return placed(photo, mark, rule, null, own).placement?.copies ?? [];
    });
    return marksTouch(copies);
  }

  function wordless(): Trouble {
    const marks = [draft.baseMark, ...draft.others.map(({ mark }) => mark)];
    const tokens = [...new Set(marks.flatMap((mark) => mark?.tokens ?? []))];
    const lacked = new Set<string>();
    const ids = photos.value.flatMap((photo) => {
      const lacks = tokens.length > 0 ? lackedWords(tokens, photo) : [];
      for (const token of lacks) lacked.add(LACKED[token]);
      return lacks.length > 0 ? [photo.id] : [];
    });
    const text = `without ${[...lacked].join(' or ')}`;
    const title = 'Photos that lack words which the mark takes of them';
    return { kind: 'wordless', ids: new Set(ids), text, title };
  }

  /** As far as photos were measured: until then nobody has looked at their words by the fonts. */
  function letterless(): Trouble {
    const title =
      'Photos with words whose letters the font of the mark lacks: boxes stand for them';
    const ids = photos.value.map(({ id }) => id).filter((id) => readings.lacksLetters(id));
    return { kind: 'letterless', ids: new Set(ids), text: 'with letters missing', title };
  }

  return computed(() => found.value);
}
