import type { MarkReading, ReadingView } from '#core/contract/readability';
import type { PhotoReading } from '#core/readability/estimates';
import type { ReadabilityClass } from '#core/readability/measure';

/** What the marks on a photo come to, as the server measured them. */

/** With several marks a photo is as good as the one that reads worst; those left out on it do not count. */
export function worstOf(marks: readonly MarkReading[]): ReadabilityClass {
  const laid = marks.filter(({ isEmpty }) => !isEmpty);
  const classes = laid.map(({ readability }) => readability?.class ?? 'lost');
  if (classes.length === 0 || classes.includes('lost')) return 'lost';
  return classes.includes('faint') ? 'faint' : 'clear';
}

/** The least share of ink that reads of any; −1 where nothing lies on the photo. */
export function leastShare(marks: readonly MarkReading[]): number {
  const laid = marks.filter(({ isEmpty }) => !isEmpty);
  if (laid.length === 0) return -1;
  return Math.min(...laid.map(({ readability }) => readability?.share ?? -1));
}

/** How one of them reads. @param at its place from the lowest */
export function readingOf({ marks, problem }: ReadingView, at: number): PhotoReading {
  const { choice, readability, isEmpty } = marks[at] ?? marks[0];
  return {
    choice,
    class: readability?.class ?? null,
    share: readability?.share ?? 0,
    contrast: readability?.contrast ?? 0,
    weakest: readability?.weakest ?? 0,
    weakestBox: readability?.weakestBox ?? null,
    bustle: readability?.bustle ?? 0,
    ...{ isEmpty, isMeasured: true, problem },
  };
}
