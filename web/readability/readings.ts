import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView } from '#core/contract/http';
import type { ReadingsWish, ReadingView, ReadingWish } from '#core/contract/readability';
import { READINGS_AT_ONCE } from '#core/contract/readability';
import { firstChoice, type Choice } from '#core/readability/choice';
import {
  cleanCropsOf,
  countReadings,
  estimatedClass,
  estimatedOpacity,
  estimatedReading,
  estimatedShare,
  hardFactsOf,
  type PhotoReading,
  type ReadingCounts,
} from '#core/readability/estimates';
import type { ReadabilityClass } from '#core/readability/measure';
import type { HardFacts } from '#core/readability/hardPhotos';
import { api } from '../api/client.ts';
import { onBack } from '../api/connection.ts';
import { useEstimates } from './useEstimates.ts';
import { useRest } from './useRest.ts';
import { usePhotoWords } from '../batch/photoWords.ts';
import { useMarkShapes } from '../mark/markShapes.ts';
import { useDraft } from '../preset/draft.ts';
import { subjectRule, type Subject } from '../preset/subject.ts';

/** The measure follows when nothing has changed for this long. */
const REST_MS = 240;
const FIRST_RETRY_MS = 1_000;
const LONGEST_RETRY_MS = 20_000;
/** Portions are small, so that the photos in sight are known first. */
const PORTION = Math.min(24, READINGS_AT_ONCE);

/** A photo as it was measured, and what was asked: of all marks together, and of each. */
interface Measured {
  readonly question: string;
  readonly subjects: readonly string[];
  readonly view: ReadingView;
}

function textOf({ mark, rule, adjustment }: Subject): string {
  return JSON.stringify([mark?.id, mark?.version, rule, adjustment]);
}

/** With several marks a photo is as good as the one that reads worst. */
function worstOf(classes: readonly ReadabilityClass[]): ReadabilityClass {
  if (classes.includes('lost')) return 'lost';
  return classes.includes('faint') ? 'faint' : 'clear';
}

/**
 * Readability of all photos that a view shows. While something moves a worker estimates it, once a
 * frame; when it rests the server measures it, the photos in sight first.
 */
export const useReadings = defineStore('readings', () => {
  const draft = useDraft();
  const shapes = useMarkShapes();
  const photoWords = usePhotoWords();
  const photos = shallowRef<readonly PhotoView[]>([]);
  const resize = shallowRef<ResizeRule | null>(null);
  const measured = new Map<number, Measured>();
  const measuredCount = ref(0);
  /** Counted up when nothing has moved for a moment and the estimates have followed. */
  const rested = ref(0);
  let visible: readonly number[] = [];
  const estimating = useEstimates(() => resize.value);
  const { estimates, places } = estimating;

  let measuring = 0;

  /** What every estimate depends on; it is looked at, not computed with. */
  const situation = computed(() => ({
    rule: draft.baseRule,
    mark: draft.baseMark,
    others: draft.others,
    handAt: draft.handAt,
    adjustments: draft.adjustments,
    resize: resize.value,
    photos: photos.value,
  }));
  watch(situation, () => {
    wantShapes();
    measuring++;
    void estimating.ask();
    void atRest();
  });

  /** Marks that hold words of the photo have a shape of their own on each. */
  function wantShapes(): void {
    const laid = draft.others.map(({ mark }) => mark);
    const marks = new Set([draft.baseMark, ...laid, ...[...draft.adjustments.keys()].map(markOf)]);
    for (const mark of marks) {
      if (mark?.tokens.length) shapes.want(mark, photos.value.map(photoWords.of));
    }
  }
  const markOf = (photoId: number) => draft.subjectOf(photoId).mark;
  watch(
    () => shapes.count,
    () => void estimating.ask(),
  );

  /** @param all photos of a view, from now on */
  function follow(all: readonly PhotoView[], size: ResizeRule | null): void {
    resize.value = size;
    if (photos.value === all) return;
    draft.knowShapes(all);
    const versions = new Map(photos.value.map(({ id, version }) => [id, version]));
    const same = new Set(
      all
        .filter(({ id, version }) => (versions.get(id) ?? version) === version)
        .map(({ id }) => id),
    );
    for (const id of measured.keys()) if (!same.has(id)) measured.delete(id);
    photos.value = all;
    void estimating.take(all);
  }

  const comeToRest = useRest(() => rested.value++);
  const atRest = useDebounceFn(() => {
    comeToRest();
    void measureAll();
  }, REST_MS);

  /** Portion after portion, until all are measured or something has changed. */
  async function measureAll(): Promise<void> {
    const mine = ++measuring;
    const shown = new Set(visible);
    const wanted = photos.value
      .filter(({ id }) => !isMeasuredNow(id))
      .sort((a, b) => Number(shown.has(b.id)) - Number(shown.has(a.id)));
    for (let at = 0; at < wanted.length && mine === measuring; at += PORTION) {
      const portion = wanted.slice(at, at + PORTION).flatMap(({ id }) => readingWish(id) ?? []);
      if (portion.length === 0) continue;
      const wish: ReadingsWish = { resize: resize.value, photos: portion };
      const questions = new Map(portion.map(({ photoId }) => [photoId, questionOf(photoId)]));
      const answer = await api.post<ReadingView[]>('/readings', wish).catch(() => null);
      if (mine !== measuring) return;
      if (!answer) return void againAfter(retryMs);
      retryMs = FIRST_RETRY_MS;
      for (const view of answer) {
        const subjects = draft.subjectsOf(view.photoId).map(textOf);
        measured.set(view.photoId, {
          ...{ question: questions.get(view.photoId) ?? '', subjects, view },
        });
      }
      measuredCount.value++;
    }
    comeToRest();
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
    if (photos.value.length === 0) return;
    retryMs = FIRST_RETRY_MS;
    againAfter(0);
    void estimating.take(photos.value);
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
    const { adjustments } = situation.value;
    const own = new Map<number, string>();
    for (const id of adjustments.keys()) own.set(id, questionText(draft.subjectsOf(id)));
    return { shared: questionText(draft.subjectsOf(null)), own };
  });

  function questionOf(photoId: number): string {
    const { own, shared } = questions.value;
    return own.get(photoId) ?? shared;
  }

  function questionText(subjects: readonly Subject[]): string {
    return JSON.stringify([resize.value, subjects.map(textOf)]);
  }

  /** What could not be measured is asked for again when the batch is measured the next time. */
  function isMeasuredNow(photoId: number): boolean {
    const answer = measured.get(photoId);
    return answer?.question === questionOf(photoId) && answer.view.problem === null;
  }

  /** Null while nothing is known yet. */
  function of(photoId: number): PhotoReading | null {
    return measuredReading(photoId) ?? estimated(photoId);
  }

  function measuredReading(photoId: number): PhotoReading | null {
    void measuredCount.value;
    const answer = measured.get(photoId);
    if (answer?.question !== questionOf(photoId)) return null;
    const { problem } = answer.view;
    const { choice, readability } = answer.view.marks[draft.handAt] ?? answer.view.marks[0];
    return {
      choice,
      class: readability?.class ?? null,
      share: readability?.share ?? 0,
      contrast: readability?.contrast ?? 0,
      weakest: readability?.weakest ?? 0,
      weakestBox: readability?.weakestBox ?? null,
      bustle: readability?.bustle ?? 0,
      isMeasured: true,
      problem,
    };
  }

  function estimated(photoId: number): PhotoReading | null {
    const place = places.value.get(photoId);
    if (place === undefined || !estimates.value) return null;
    return estimatedReading(estimates.value, place, subjectRule(draft.subjectOf(photoId)));
  }

  /** What is drawn on a photo: as it was chosen, or what the rule names first until that is known. */
  function choiceFor(photoId: number): Choice {
    const reading = of(photoId);
    if (reading) return reading.choice;
    return firstChoice(subjectRule(draft.subjectOf(photoId)));
  }

  /** The same for every mark of the bench, the lowest first; others than the one in hand stay as measured. */
  function choicesFor(photoId: number): Choice[] {
    void measuredCount.value;
    const before = measured.get(photoId);
    return draft.subjectsOf(photoId).map((subject, index) => {
      if (index === draft.handAt) return choiceFor(photoId);
      const isSame = before?.subjects[index] === textOf(subject);
      const last = isSame ? before?.view.marks[index]?.choice : undefined;
      return last ?? firstChoice(subjectRule(subject));
    });
  }

  /** What is known of all photos, gone through once a frame. */
  const known = computed(() => {
    void measuredCount.value;
    const numbers = estimates.value;
    const { own, shared } = questions.value;
    const at = places.value;
    const hand = draft.handAt;
    let measuredNow = 0;
    const classes: (ReadabilityClass | null)[] = [];
    const opacities: number[] = [];
    const found = photos.value.map(({ id }) => {
      const answer = measured.get(id);
      if (answer && answer.question === (own.get(id) ?? shared)) {
        measuredNow++;
        const { marks } = answer.view;
        const all = marks.map(({ readability }) => readability?.class ?? 'lost');
        classes.push(worstOf(all));
        opacities.push((marks[hand] ?? marks[0]).choice.opacity);
        return Math.min(...marks.map(({ readability }) => readability?.share ?? -1));
      }
      classes.push(estimatedClass(numbers, at.get(id)));
      opacities.push(estimatedOpacity(numbers, at.get(id)));
      return estimatedShare(numbers, at.get(id));
    });
    return { shares: found, classes, opacities, measured: measuredNow };
  });
  /** Share of ink that reads by photo; −1 where nothing lies on it, NaN where nothing is known. */
  const shares = computed(() => known.value.shares);
  /** By photo; null where nothing is known. */
  const classes = computed(() => known.value.classes);
  /** By photo, how strong the mark is drawn; NaN where nothing is known. */
  const opacities = computed(() => known.value.opacities);
  /** How many photos the definition itself has been measured on. */
  const progress = computed(() => known.value.measured);

  const counts = computed<ReadingCounts>(() => countsOf(null));

  /**
   * How many photos are clear, faint and lost; those that are left out do not count.
   *
   * @param among ids of the photos that count, or null for all
   */
  function countsOf(among: ReadonlySet<number> | null): ReadingCounts {
    const { adjustments } = draft;
    const all = photos.value;
    const isCounted = (index: number): boolean => {
      const { id } = all[index];
      return (!among || among.has(id)) && !adjustments.get(id)?.leftOut;
    };
    return countReadings(classes.value, isCounted);
  }

  const cleanCrops = computed(() => cleanCropsOf(estimates.value));

  /** What makes a photo hard, for all photos there are estimates of. */
  function hardFacts(): HardFacts[] {
    return photos.value.flatMap(
      (photo) => hardFactsOf(estimates.value, places.value.get(photo.id), photo) ?? [],
    );
  }

  /** Ids of the photos in sight: they are measured first. */
  function setVisible(ids: readonly number[]): void {
    visible = ids;
  }

  return {
    ...{
      photos,
      estimates,
      measuredCount,
      rested,
      shares,
      classes,
      opacities,
      counts,
      progress,
      cleanCrops,
    },
    ...{ follow, of, choiceFor, choicesFor, countsOf, hardFacts, setVisible },
  };
});
