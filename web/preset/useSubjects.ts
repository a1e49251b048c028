import { shallowRef, type Ref, type ShallowRef } from 'vue';
import { inOrder } from '#core/batch/benchMarks';
import type { MarkView, PhotoView } from '#core/contract/http';
import { adjustmentFor } from '#core/placement/adjustment';
import type { Size } from '#core/placement/geometry';
import { useLibrary } from '../app/library.ts';
import { NOT_ADJUSTED, type DraftState } from './adjusting.ts';
import type { useBeside } from './beside.ts';
import { LYING, UPRIGHT, type Subject } from './subject.ts';

interface Bench {
  readonly state: ShallowRef<DraftState>;
  readonly presetId: Ref<number | null>;
  readonly baseMark: Readonly<Ref<MarkView | null>>;
  /** The bench speaks to upright photos. */
  readonly speaksUpright: Ref<boolean>;
  readonly laid: Pick<ReturnType<typeof useBeside>, 'others' | 'handAt' | 'handKey'>;
}

/** How photos are marked by what is on the bench. */
export function useSubjects(bench: Bench) {
  const library = useLibrary();
  const shapes = shallowRef<ReadonlyMap<number, Size>>(new Map());

  /** By the mark in hand. @param photoId null: a photo without anything of its own */
  function subjectOf(photoId: number | null): Subject {
    const key = bench.laid.handKey.value;
    const first = { mark: bench.baseMark.value, rule: bench.state.value.rule };
    return subjectBy(photoId, key, first);
  }

  /** @param key of the mark, as photos know it: null is the first */
  function subjectBy(
    photoId: number | null,
    key: number | null,
    by: Pick<Subject, 'mark' | 'rule'>,
  ): Subject {
    const whole = photoId === null ? undefined : bench.state.value.adjustments.get(photoId);
    const adjustment = whole ? adjustmentFor(whole, key) : NOT_ADJUSTED;
    const shape = shapeOf(photoId);
    // A photo may have another preset than its batch for the first.
    const own = key === null ? library.presetOf(adjustment.presetId) : null;
    if (!own || own.id === bench.presetId.value) return { ...by, adjustment, shape };
    return { mark: library.markOf(own.markId), rule: own.rule, adjustment, shape };
  }

  /** How a photo is marked by all marks of the bench, the lowest first. */
  function subjectsOf(photoId: number | null): Subject[] {
    const { others, handAt } = bench.laid;
    if (others.value.length === 0) return [subjectOf(photoId)];
    const rest = others.value.map((other, index) => {
      const isFirst = index === 0 && handAt.value > 0;
      return subjectBy(photoId, isFirst ? null : other.presetId, other);
    });
    return inOrder(subjectOf(photoId), rest, handAt.value);
  }

  function shapeOf(photoId: number | null): Size {
    const known = photoId === null ? undefined : shapes.value.get(photoId);
    return known ?? (bench.speaksUpright.value ? UPRIGHT : LYING);
  }

  /** The photos that are shown: presets may have a rule of their own for upright ones. */
  function knowShapes(photos: readonly PhotoView[]): void {
    shapes.value = new Map(photos.map((photo) => [photo.id, photo]));
  }

  return { subjectOf, subjectsOf, shapeOf, knowShapes };
}
