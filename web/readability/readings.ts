import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView } from '#core/contract/http';
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
import { onBack } from '../api/connection.ts';
import { leastShare, readingOf, worstOf } from './measuredMarks.ts';
import { useEstimates } from './useEstimates.ts';
import { textOf, useMeasures } from './useMeasures.ts';
import { useRest } from './useRest.ts';
import { useWantedShapes } from './useWantedShapes.ts';
import { useDraft } from '../preset/draft.ts';
import { subjectRule } from '../preset/subject.ts';

/** The measure follows when nothing has changed for this long. */
const REST_MS = 240;

/**
 * Readability of all photos that a view shows. While something moves a worker estimates it, once a
 * frame; when it rests the server measures it, the photos in sight first.
 */
export const useReadings = defineStore('readings', () => {
  const draft = useDraft();
  const photos = shallowRef<readonly PhotoView[]>([]);
  const resize = shallowRef<ResizeRule | null>(null);
  /** Counted up when nothing has moved for a moment and the estimates have followed. */
  const rested = ref(0);
  const estimating = useEstimates(() => resize.value);
  const { estimates, places } = estimating;

  const wantShapes = useWantedShapes(photos, () => void estimating.ask());

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
    measures.interrupt();
    void estimating.ask();
    void atRest();
  });

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
    measures.keepOnly(same);
    photos.value = all;
    void estimating.take(all);
  }

  const comeToRest = useRest(() => rested.value++);
  const atRest = useDebounceFn(() => {
    comeToRest();
    void measures.measureAll();
  }, REST_MS);
  const measures = useMeasures({ photos, resize, allMeasured: comeToRest });
  onBack(() => {
    if (photos.value.length > 0) void estimating.take(photos.value);
  });

  /** Null while nothing is known yet. */
  function of(photoId: number): PhotoReading | null {
    return measuredReading(photoId) ?? estimated(photoId);
  }

  function measuredReading(photoId: number): PhotoReading | null {
    const view = measures.measuredNow(photoId);
    return view && readingOf(view, draft.handAt);
  }

  /**
   * How the marks beside the one in hand read on a photo, null for one that is left out there; none until they
   * are measured.
   */
  function besideOf(photoId: number): { name: string; class: ReadabilityClass | null }[] {
    const view = measures.measuredNow(photoId);
    const read = view?.marks.filter((_, index) => index !== draft.handAt) ?? [];
    return read.map(({ readability, isEmpty }, index) => ({
      name: draft.others[index]?.name ?? '',
      class: isEmpty ? null : (readability?.class ?? 'lost'),
    }));
  }

  /** What should be known of the words that the marks take of a photo; null until that is known. */
  function wordsNoteOf(photoId: number): string | null {
    return measures.measuredNow(photoId)?.wordsNote ?? null;
  }

  /** Whether a mark, by its place from the lowest, says nothing on a photo and is left out; as far as known. */
  function isLeftOut(photoId: number, index: number): boolean {
    return measures.measuredNow(photoId)?.marks[index]?.isEmpty === true;
  }

  /** Whether boxes stand for letters that the fonts lack; by the last answer, since where a mark lies matters not. */
  function lacksLetters(photoId: number): boolean {
    return measures.last(photoId)?.view.lacksLetters === true;
  }

  /** With several marks the class of the one that reads worst; null where nothing lies on the photo. */
  function classFor(photoId: number): ReadabilityClass | null {
    const marks = measures.measuredNow(photoId)?.marks ?? [];
    return marks.length > 1 ? worstOf(marks) : (of(photoId)?.class ?? null);
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
    const before = measures.last(photoId);
    return draft.subjectsOf(photoId).map((subject, index) => {
      if (index === draft.handAt) return choiceFor(photoId);
      const isSame = before?.subjects[index] === textOf(subject);
      const last = isSame ? before?.view.marks[index]?.choice : undefined;
      return last ?? firstChoice(subjectRule(subject));
    });
  }

  /** What is known of all photos, gone through once a frame. */
  const known = computed(() => {
    const numbers = estimates.value;
    const at = places.value;
    const hand = draft.handAt;
    let measuredNow = 0;
    const classes: (ReadabilityClass | null)[] = [];
    const opacities: number[] = [];
    const found = photos.value.map(({ id }) => {
      const answer = measures.measuredNow(id);
      if (answer) {
        measuredNow++;
        const { marks } = answer;
        classes.push(worstOf(marks));
        opacities.push((marks[hand] ?? marks[0]).choice.opacity);
        return leastShare(marks);
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

  return {
    ...{
      photos,
      estimates,
      measuredCount: measures.count,
      rested,
      shares,
      classes,
      opacities,
      counts,
      progress,
      cleanCrops,
      lightsTaken: estimating.lightsTaken,
      askCalm: estimating.calm,
    },
    ...{
      follow,
      of,
      classFor,
      besideOf,
      wordsNoteOf,
      isLeftOut,
      lacksLetters,
      choiceFor,
      choicesFor,
      countsOf,
      hardFacts,
      setVisible: measures.setVisible,
    },
  };
});
