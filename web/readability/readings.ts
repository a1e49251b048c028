import { useDebounceFn, useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { ResizeRule } from '#core/contract/delivery';
import type { PhotoView } from '#core/contract/http';
import { ANCHORS } from '#core/contract/preset';
import type { ReadingsWish, ReadingView, ReadingWish } from '#core/contract/readability';
import { READINGS_AT_ONCE } from '#core/contract/readability';
import { adjustedRule } from '#core/placement/adjustment';
import { ESTIMATE, ESTIMATE_NUMBERS, inkLightnessOf } from '#core/readability/batchEstimate';
import { allowedTones, firstChoice, rescueColour, type Choice } from '#core/readability/choice';
import type { HardFacts } from '#core/readability/hardPhotos';
import { classOf, type ReadabilityClass } from '#core/readability/measure';
import { api } from '../api/client.ts';
import { onBack } from '../api/connection.ts';
import { useEstimates } from './useEstimates.ts';
import { useDraft, type Subject } from '../preset/draft.ts';

/** How the mark reads on a photo, as far as it is known. */
export interface PhotoReading {
  readonly choice: Choice;
  /** Null where nothing of the mark lies on the photo. */
  readonly class: ReadabilityClass | null;
  readonly share: number;
  readonly contrast: number;
  readonly bustle: number;
  /** Measured by the definition; else estimated from the light map. */
  readonly isMeasured: boolean;
  /** Why it could not be measured. */
  readonly problem: string | null;
}

export type ReadingCounts = Readonly<Record<ReadabilityClass, number>>;

interface Measured {
  readonly question: string;
  readonly view: ReadingView;
}

/** The measure follows when nothing has changed for this long. */
const REST_MS = 240;
const FIRST_RETRY_MS = 1_000;
const LONGEST_RETRY_MS = 20_000;
/** Portions are small, so that the photos in sight are known first. */
const PORTION = Math.min(24, READINGS_AT_ONCE);

/** Colour that stands for a mark's own, for the look of an estimated rescue alone. */
const MIDDLE_INK = [90, 90, 90] as const;

/**
 * Readability of all photos that a view shows. While something moves a worker estimates it, once a
 * frame; when it rests the server measures it, the photos in sight first.
 */
export const useReadings = defineStore('readings', () => {
  const draft = useDraft();
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
    adjustments: draft.adjustments,
    resize: resize.value,
    photos: photos.value,
  }));
  watch(situation, () => {
    measuring++;
    void estimating.ask();
    void atRest();
  });

  /** @param all photos of a view, from now on */
  function follow(all: readonly PhotoView[], size: ResizeRule | null): void {
    resize.value = size;
    if (photos.value === all) return;
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

  const atRest = useDebounceFn(() => {
    comeToRest();
    void measureAll();
  }, REST_MS);

  /** While a button is down the hand only pauses: nothing that it holds may be exchanged. */
  let isPressed = false;
  let isRestDue = false;
  useEventListener(window, 'pointerdown', () => (isPressed = true), { capture: true });
  useEventListener(window, ['pointerup', 'pointercancel'], () => {
    isPressed = false;
    if (isRestDue) comeToRest();
  });

  function comeToRest(): void {
    isRestDue = isPressed;
    if (!isPressed) rested.value++;
  }

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
        measured.set(view.photoId, { question: questions.get(view.photoId) ?? '', view });
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
    const { mark, rule, adjustment } = draft.subjectOf(photoId);
    return mark && { photoId, markId: mark.id, rule, adjustment };
  }

  /** What each photo has to have been measured for: one text for most of them. */
  const questions = computed(() => {
    const { adjustments } = situation.value;
    const own = new Map<number, string>();
    for (const id of adjustments.keys()) own.set(id, questionText(draft.subjectOf(id)));
    return { shared: questionText(draft.subjectOf(null)), own };
  });

  function questionOf(photoId: number): string {
    const { own, shared } = questions.value;
    return own.get(photoId) ?? shared;
  }

  function questionText({ mark, rule, adjustment }: Subject): string {
    return JSON.stringify([mark?.id, mark?.version, resize.value, rule, adjustment]);
  }

  /** What could not be measured is asked for again when the batch is measured the next time. */
  function isMeasuredNow(photoId: number): boolean {
    const answer = measured.get(photoId);
    return answer?.question === questionOf(photoId) && answer.view.problem === null;
  }

  /** Null while nothing is known yet. */
  function of(photoId: number): PhotoReading | null {
    return measuredReading(photoId) ?? estimatedReading(photoId);
  }

  function measuredReading(photoId: number): PhotoReading | null {
    void measuredCount.value;
    const answer = measured.get(photoId);
    if (answer?.question !== questionOf(photoId)) return null;
    const { choice, readability, problem } = answer.view;
    return {
      choice,
      class: readability?.class ?? null,
      share: readability?.share ?? 0,
      contrast: readability?.contrast ?? 0,
      bustle: readability?.bustle ?? 0,
      isMeasured: true,
      problem,
    };
  }

  function estimatedReading(photoId: number): PhotoReading | null {
    const place = places.value.get(photoId);
    const numbers = estimates.value;
    if (place === undefined || !numbers) return null;
    const at = place * ESTIMATE_NUMBERS;
    const share = numbers[at + ESTIMATE.share];
    if (Number.isNaN(share)) return null;
    const { rule: preset, adjustment } = draft.subjectOf(photoId);
    const rule = adjustedRule(preset, adjustment);
    const tones = allowedTones(rule);
    const tone = tones[numbers[at + ESTIMATE.tone]] ?? tones[0];
    const strength = numbers[at + ESTIMATE.rescue];
    const colour = rescueColour(inkLightnessOf(tone, MIDDLE_INK));
    const kind = strength > 0 && rule.rescue !== 'none' ? rule.rescue : null;
    return {
      choice: {
        anchor: ANCHORS[numbers[at + ESTIMATE.anchor]],
        tone,
        rescue: kind && { kind, strength, colour },
      },
      class: share < 0 ? null : classOf(share),
      share: Math.max(0, share),
      contrast: numbers[at + ESTIMATE.contrast],
      bustle: numbers[at + ESTIMATE.bustle],
      isMeasured: false,
      problem: null,
    };
  }

  /** What is drawn on a photo: as it was chosen, or what the rule names first until that is known. */
  function choiceFor(photoId: number): Choice {
    const reading = of(photoId);
    if (reading) return reading.choice;
    const { rule, adjustment } = draft.subjectOf(photoId);
    return firstChoice(adjustedRule(rule, adjustment));
  }

  /** What is known of all photos, gone through once a frame. */
  const known = computed(() => {
    void measuredCount.value;
    const numbers = estimates.value;
    const { own, shared } = questions.value;
    const at = places.value;
    let measuredNow = 0;
    const found = photos.value.map(({ id }) => {
      const answer = measured.get(id);
      if (answer && answer.question === (own.get(id) ?? shared)) {
        measuredNow++;
        return answer.view.readability?.share ?? -1;
      }
      const place = at.get(id);
      if (!numbers || place === undefined) return NaN;
      return numbers[place * ESTIMATE_NUMBERS + ESTIMATE.share];
    });
    return { shares: found, measured: measuredNow };
  });
  /** Share of ink that reads by photo; −1 where nothing lies on it, NaN where nothing is known. */
  const shares = computed(() => known.value.shares);
  /** How many photos the definition itself has been measured on. */
  const progress = computed(() => known.value.measured);

  const counts = computed<ReadingCounts>(() => countsOf(null));

  /**
   * How many photos are clear, faint and lost; those that are left out do not count.
   *
   * @param among ids of the photos that count, or null for all
   */
  function countsOf(among: ReadonlySet<number> | null): ReadingCounts {
    const found = { clear: 0, faint: 0, lost: 0 };
    const all = shares.value;
    const { adjustments } = draft;
    photos.value.forEach(({ id }, index) => {
      const share = all[index];
      if (Number.isNaN(share) || (among && !among.has(id))) return;
      if (!adjustments.get(id)?.leftOut) found[classOf(share)]++;
    });
    return found;
  }

  /** Mean share of a frame that can be cropped free of the mark, and the largest; null while unknown. */
  const cleanCrops = computed(() => {
    const numbers = estimates.value;
    if (!numbers || numbers.length === 0) return null;
    let sum = 0;
    let most = 0;
    let count = 0;
    for (let at = 0; at < numbers.length; at += ESTIMATE_NUMBERS) {
      if (Number.isNaN(numbers[at + ESTIMATE.share])) continue;
      count++;
      sum += numbers[at + ESTIMATE.cleanCrop];
      most = Math.max(most, numbers[at + ESTIMATE.cleanCrop]);
    }
    return count > 0 ? { mean: sum / count, most } : null;
  });

  /** What makes a photo hard, for all photos there are estimates of. */
  function hardFacts(): HardFacts[] {
    const numbers = estimates.value;
    return photos.value.flatMap(({ id, width, height }) => {
      const place = places.value.get(id);
      if (!numbers || place === undefined) return [];
      const at = place * ESTIMATE_NUMBERS;
      if (Number.isNaN(numbers[at + ESTIMATE.share])) return [];
      const lightness = numbers[at + ESTIMATE.lightness];
      return [{ id, aspect: width / height, lightness, bustle: numbers[at + ESTIMATE.bustle] }];
    });
  }

  /** Ids of the photos in sight: they are measured first. */
  function setVisible(ids: readonly number[]): void {
    visible = ids;
  }

  return {
    ...{ photos, estimates, measuredCount, rested, shares, counts, progress, cleanCrops },
    ...{ follow, of, choiceFor, countsOf, hardFacts, setVisible },
  };
});
