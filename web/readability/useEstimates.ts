import { wrap } from 'comlink';
import { ref, shallowRef, type Ref, type ShallowRef } from 'vue';
import type { ResizeRule } from '#core/contract/delivery';
import type { MarkView, PhotoView } from '#core/contract/http';
import { ESTIMATE_NUMBERS } from '#core/readability/batchEstimate';
import { usePhotoWords } from '../batch/photoWords.ts';
import { aspectOf } from '../mark/markPicture.ts';
import { wordsOfAny } from '../mark/markShapes.ts';
import { useDraft } from '../preset/draft.ts';
import type { EstimateDeskApi } from '../workers/estimate.worker.ts';
import type { DeskMark, DeskQuestion } from '../workers/estimateDesk.ts';

/** Estimates of all photos by a worker, asked again whenever something has changed. */
export function useEstimates(resize: () => ResizeRule | null): {
  /** As `ESTIMATE` says, in the order of the photos; null while there are none. */
  estimates: ShallowRef<Float32Array | null>;
  /** Position of each photo in them. */
  places: ShallowRef<ReadonlyMap<number, number>>;
  /** Counted up when the light of the photos has come, as far as it could be had. */
  lightsTaken: Ref<number>;
  /** The photos from here on. */
  take: (photos: readonly PhotoView[]) => Promise<void>;
  ask: () => Promise<void>;
  /** How calm each place of each photo is, as it is now; null while nothing is known. */
  calm: () => Promise<Float32Array | null>;
} {
  const draft = useDraft();
  const estimates = shallowRef<Float32Array | null>(null);
  const places = shallowRef<ReadonlyMap<number, number>>(new Map());
  const lightsTaken = ref(0);
  let desk: ReturnType<typeof wrap<EstimateDeskApi>> | null = null;
  let photos: readonly PhotoView[] = [];
  let placed: readonly PhotoView[] = [];
  let isAsking = false;
  let asksAgain = false;

  async function take(all: readonly PhotoView[]): Promise<void> {
    photos = all;
    await untilIdle();
    if (photos !== all) return;
    desk ??= wrap<EstimateDeskApi>(
      new Worker(new URL('../workers/estimate.worker.ts', import.meta.url), { type: 'module' }),
    );
    const wanted = all.map(({ id, version, width, height }) => ({ id, version, width, height }));
    // Photos whose light is not known yet are left open in the answers.
    await desk.take(wanted).catch(() => undefined);
    if (photos !== all) return;
    lightsTaken.value++;
    await ask();
  }

  /** One question at a time: what changed meanwhile is asked as it is then. */
  async function ask(): Promise<void> {
    if (isAsking) {
      asksAgain = true;
      return;
    }
    isAsking = true;
    try {
      do {
        asksAgain = false;
        await askOnce();
      } while (asksAgain);
    } finally {
      isAsking = false;
    }
  }

  async function askOnce(): Promise<void> {
    const asked = photos;
    const question = deskQuestion();
    if (!desk || !question || asked.length === 0) {
      estimates.value = null;
      return;
    }
    const numbers = await desk.answer(question).catch(() => null);
    if (photos !== asked || numbers?.length !== asked.length * ESTIMATE_NUMBERS) return;
    if (placed !== asked) {
      placed = asked;
      places.value = new Map(asked.map(({ id }, index) => [id, index]));
    }
    estimates.value = numbers;
  }

  async function calm(): Promise<Float32Array | null> {
    const asked = photos;
    const question = deskQuestion();
    if (!desk || !question || asked.length === 0) return null;
    const numbers = await desk.calm(question).catch(() => null);
    return photos === asked ? numbers : null;
  }

  function deskQuestion(): DeskQuestion | null {
    const mark = draft.baseMark;
    if (!mark) return null;
    const marks = new Map([[mark.id, deskMark(mark, photos)]]);
    const own = [...draft.adjustments.keys()].flatMap((photoId) => {
      const subject = draft.subjectOf(photoId);
      if (!subject.mark) return [];
      marks.set(subject.mark.id, deskMark(subject.mark, photos));
      const { rule, adjustment } = subject;
      return [{ photoId, markId: subject.mark.id, rule, adjustment }];
    });
    const question: DeskQuestion = {
      ...{ resize: resize(), rule: draft.baseRule, markId: mark.id, own },
      marks: [...marks.values()],
    };
    // The worker is sent plain copies; what Vue makes of nested objects cannot be cloned.
    return JSON.parse(JSON.stringify(question)) as DeskQuestion;
  }

  return { estimates, places, lightsTaken, take, ask, calm };
}

/** Photos and marks come first: what estimates need is some megabytes on the same connections. */
const MOST_WAIT_MS = 400;

function untilIdle(): Promise<void> {
  return new Promise((done) => {
    if (!('requestIdleCallback' in window)) setTimeout(done, 0);
    else requestIdleCallback(() => done(), { timeout: MOST_WAIT_MS });
  });
}

function deskMark(mark: MarkView, photos: readonly PhotoView[]): DeskMark {
  const { id, version } = mark;
  if (mark.tokens.length === 0)
    return { id, version, aspect: aspectOf(mark), aspects: null, words: null };
  const photoWords = usePhotoWords();
  const said = photos.map((photo) => photoWords.of(photo));
  return {
    ...{ id, version, aspect: aspectOf(mark) },
    aspects: said.map((words) => aspectOf(mark, words)),
    words: wordsOfAny(mark, said),
  };
}
