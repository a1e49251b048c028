import { computed, ref, type ShallowRef } from 'vue';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView } from '#core/contract/http';
import {
  READINGS_AT_ONCE,
  type ReadingsWish,
  type ReadingView,
  type ReadingWish,
} from '#core/contract/readability';
import { api } from '../api/client.ts';
import { onBack } from '../api/connection.ts';
import { usePhotoWords } from '../batch/photoWords.ts';
import { useDraft } from '../preset/draft.ts';
import type { Subject } from '../preset/subject.ts';

const FIRST_RETRY_MS = 1_000;
const LONGEST_RETRY_MS = 20_000;
/** Portions are small, so that the photos in sight are known first. */
const PORTION = Math.min(24, READINGS_AT_ONCE);

/** A photo as it was measured, and what was asked: of all marks together, and of each. */
export interface Measured {
  readonly question: string;
  readonly subjects: readonly string[];
  readonly view: ReadingView;
}

export function textOf({ mark, rule, adjustment }: Subject): string {
  return JSON.stringify([mark?.id, mark?.version, rule, adjustment]);
}

interface MeasuredPhotos {
  readonly photos: ShallowRef<readonly PhotoView[]>;
  readonly resize: ShallowRef<ResizeRule | null>;
  readonly allMeasured: () => void;
}

/** The photos of a view, measured by the server by the definition, those in sight first. */
export function useMeasures(view: MeasuredPhotos) {
  const draft = useDraft();
  const photoWords = usePhotoWords();
  const measured = new Map<number, Measured>();
  /** Counted up when some were measured. */
  const count = ref(0);
  let visible: readonly number[] = [];
  let measuring = 0;

  /** Portion after portion, until all are measured or something has changed. */
  async function measureAll(): Promise<void> {
    const mine = ++measuring;
    const shown = new Set(visible);
    const wanted = view.photos.value
      .filter(({ id }) => !isMeasuredNow(id))
      .sort((a, b) => Number(shown.has(b.id)) - Number(shown.has(a.id)));
    for (let at = 0; at < wanted.length && mine === measuring; at += PORTION) {
      const portion = wanted.slice(at, at + PORTION).flatMap(({ id }) => readingWish(id) ?? []);
      if (portion.length === 0) continue;
      const wish: ReadingsWish = { resize: view.resize.value, photos: portion };
      const asked = new Map(portion.map(({ photoId }) => [photoId, questionOf(photoId)]));
      const answer = await api.post<ReadingView[]>('/readings', wish).catch(() => null);
      if (mine !== measuring) return;
      if (!answer) return void againAfter(retryMs);
      retryMs = FIRST_RETRY_MS;
      for (const reading of answer) {
        const { photoId } = reading;
        const subjects = draft.subjectsOf(photoId).map(textOf);
        const question = asked.get(photoId) ?? '';
        measured.set(photoId, { question, subjects, view: reading });
      }
      count.value++;
    }
    view.allMeasured();
  }

  let retrying: ReturnType<typeof setTimeout> | undefined;
  let retryMs = FIRST_RETRY_MS;

  /** The server is away or failed: what is not measured is asked for again. */
  function againAfter(delayMs: number): void {
    clearTimeout(retrying);
    retryMs = Math.min(LONGEST_RETRY_MS, retryMs * 2);
    retrying = setTimeout(() => void measureAll(), delayMs);
  }
  onBack(() => {
    if (view.photos.value.length === 0) return;
    retryMs = FIRST_RETRY_MS;
    againAfter(0);
  });

  function readingWish(photoId: number): ReadingWish | null {
    const marks = draft.subjectsOf(photoId).flatMap(({ mark, rule, adjustment }) => {
      return mark ? [{ markId: mark.id, rule, adjustment }] : [];
    });
    if (marks.length === 0) return null;
    return { photoId, number: photoWords.numberOf(photoId), marks };
  }

  /** What each photo has to have been measured for: one text for most of them. */
  const questions = computed(() => {
    const { adjustments } = draft;
    const own = new Map<number, string>();
    for (const id of adjustments.keys()) own.set(id, questionText(draft.subjectsOf(id)));
    return { shared: questionText(draft.subjectsOf(null)), own };
  });

  function questionOf(photoId: number): string {
    const { own, shared } = questions.value;
    return own.get(photoId) ?? shared;
  }

  function questionText(subjects: readonly Subject[]): string {
    return JSON.stringify([view.resize.value, subjects.map(textOf)]);
  }

  /** What could not be measured is asked for again when the batch is measured the next time. */
  function isMeasuredNow(photoId: number): boolean {
    const answer = measured.get(photoId);
    return answer?.question === questionOf(photoId) && answer.view.problem === null;
  }

  /** The answer of a photo as it is marked now. */
  function measuredNow(photoId: number): ReadingView | null {
    void count.value;
    const answer = measured.get(photoId);
    return answer?.question === questionOf(photoId) ? answer.view : null;
  }

  /** The last answer of a photo, whatever was asked. */
  function last(photoId: number): Measured | null {
    void count.value;
    return measured.get(photoId) ?? null;
  }

  /** Only these stay known. */
  function keepOnly(ids: ReadonlySet<number>): void {
    for (const id of measured.keys()) if (!ids.has(id)) measured.delete(id);
  }

  return {
    ...{ count, measureAll, measuredNow, last, keepOnly },
    /** What is being measured is out of date. */
    interrupt: (): void => void measuring++,
    /** Ids of the photos in sight: they are measured first. */
    setVisible: (ids: readonly number[]): void => void (visible = ids),
  };
}
