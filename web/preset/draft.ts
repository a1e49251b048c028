import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import type { Adjustment } from '#core/contract/adjustment';
import { NOTHING_BESIDE, type Beside, type Placing, type PresetView } from '#core/contract/http';
import { DEFAULT_RULE, type PresetRule } from '#core/contract/preset';
import { changedUpright, isUpright } from '#core/placement/uprightRule';
import { isSameValue } from '#core/sameValue';
import { useSteps } from '../ui/useSteps.ts';
import { useLibrary } from '../app/library.ts';
import { useAdjusting, type DraftState } from './adjusting.ts';
import { useBeside } from './beside.ts';
import { usePresetName } from './presetName.ts';
import { usePresetSaving } from './presetSaving.ts';
import { subjectRule } from './subject.ts';
import { useSubjects } from './useSubjects.ts';
import { NEW_PRESET, useUnsavedPresets, type BatchBench } from './unsavedPresets.ts';

const NONE: ReadonlyMap<number, Adjustment> = new Map();

/**
 * The preset that is being shaped, and the adjustments of the open batch, with one undo for both.
 * Changes that are not saved stay with the preset they were made to, whatever view comes next, and are
 * kept in the browser until they are saved or put back.
 */
export const useDraft = defineStore('draft', () => {
  const library = useLibrary();
  const unsaved = useUnsavedPresets();
  let hasOpened = false;
  /** The batch whose bench this is: it keeps what is on it. */
  const batchId = ref<number | null>(null);
  /** Version of the preset that the bench started from. */
  const baseVersion = ref(0);
  const presetId = ref<number | null>(null);
  const state = shallowRef<DraftState>({
    ...{ markId: null, rule: DEFAULT_RULE, adjustments: NONE, beside: NOTHING_BESIDE },
  });
  /** Photos that the bench speaks to; null: the preset, for all. */
  const target = shallowRef<readonly number[] | null>(null);
  /** The bench speaks to upright photos, for which a preset can have a rule of its own. */
  const speaksUpright = ref(false);
  const steps = useSteps(state);
  const { adjust, takeBack, copyAdjustment } = useAdjusting(state, () => laid.handKey.value);

  const saved = computed<PresetView | null>(() => library.presetOf(presetId.value));
  const baseMark = computed(() => library.markOf(state.value.markId));
  const baseRule = computed(() => state.value.rule);
  const adjustments = computed(() => state.value.adjustments);
  /** Of the first photo that the bench speaks to, or of the preset. */
  const subject = computed(() => subjectOf(target.value?.[0] ?? null));
  const mark = computed(() => subject.value.mark);
  const rule = computed(() => subjectRule(subject.value));
  const isDirty = computed(() => {
    if (!saved.value) return state.value.markId !== null;
    return !sameAs(saved.value, state.value);
  });
  /** Another window has saved the preset since the bench started from it. */
  const isOutdated = computed(
    () => isDirty.value && saved.value !== null && saved.value.version !== baseVersion.value,
  );
  const suggestedName = usePresetName(baseMark, baseRule);
  const name = computed(() => saved.value?.name ?? suggestedName.value);

  /**
   * Opens a preset, or with null one that starts from the defaults and the newest mark. The one that is
   * open already stays as it is, with what was changed of it.
   *
   * @param batch whose bench it is opened on, with what that held
   */
  function open(id: number | null, batch: BatchBench | null = null): void {
    // A preset that is chosen on the bench takes the place of the one in hand.
    if (batch?.beside) laid.lay(batch.beside);
    else if (batch?.id !== batchId.value) laid.lay(NOTHING_BESIDE);
    const preset = library.presetOf(id);
    const wanted = preset?.id ?? null;
    const own = batch?.id ?? null;
    const isOpen = hasOpened && wanted === presetId.value && own === batchId.value;
    // Left and come back to, unless another window changed the batch's bench meanwhile.
    const isLoaded = batch?.placing !== undefined;
    if (isOpen && !(isLoaded && !isSameValue(unsaved.heldBy(wanted, batch), placing.value))) return;
    if (hasOpened) remember();
    hasOpened = true;
    presetId.value = wanted;
    batchId.value = own;
    take(unsaved.heldBy(wanted, batch));
  }

  /** The bench of the open batch as another window left it. */
  function follow(id: number | null, placing: Placing | null, beside: Beside): void {
    laid.lay(beside);
    presetId.value = library.presetOf(id)?.id ?? null;
    take(placing);
  }

  function take(kept: Placing | null): void {
    const preset = saved.value;
    baseVersion.value = kept?.base ?? preset?.version ?? 0;
    if (kept) {
      const isThere = library.markOf(kept.markId) !== null;
      setBase(isThere ? kept.markId : (preset?.markId ?? newestMark()), kept.rule);
    } else startOver();
    steps.start();
  }

  /** From what is saved; a new preset from the defaults. */
  function startOver(): void {
    baseVersion.value = saved.value?.version ?? 0;
    if (saved.value) setBase(saved.value.markId, saved.value.rule);
    else setBase(newestMark(), DEFAULT_RULE);
  }

  // Kept as it is changed: a window may be closed or crash at any time.
  watch([() => state.value.rule, () => state.value.markId], () => hasOpened && remember());
  // What is not changed here follows what is saved elsewhere.
  watch(saved, (now, before) => {
    if (!hasOpened || !now || now === before) return;
    const isMine = before?.id === now.id && !sameAs(before, state.value);
    if (isMine) return;
    if (before?.id === now.id) startOver();
  });
  // A mark that was added last is what a new preset begins with, as long as it has none.
  watch(
    () => library.marks,
    () => {
      if (hasOpened && !saved.value && state.value.markId === null) startOver();
    },
  );

  /** The same while a batch is open: another window changed something. */
  function followAdjustments(all: ReadonlyMap<number, Adjustment>): void {
    state.value = { ...state.value, adjustments: all };
    steps.start();
  }

  /** What the photos of a batch have of their own, as the server knows it. */
  function takeAdjustments(all: ReadonlyMap<number, Adjustment>): void {
    target.value = null;
    followAdjustments(all);
  }

  function setBase(markId: number | null, base: PresetRule): void {
    state.value = { ...state.value, markId, rule: base };
  }

  function remember(): void {
    const { markId, rule: base } = state.value;
    const isUntouched = !saved.value && isSameValue(base, DEFAULT_RULE) && markId === newestMark();
    if (isDirty.value && !isUntouched) {
      const key = presetId.value ?? NEW_PRESET;
      const known = unsaved.get(key);
      if (known && sameAs(known, state.value)) return;
      const now = { markId, rule: base, base: baseVersion.value };
      unsaved.put(key, { ...now, batchId: batchId.value, isKept: false });
    } else unsaved.remove(presetId.value ?? NEW_PRESET);
  }

  /** What a batch keeps of its bench: null where that is the preset as it is saved. */
  const placing = computed<Placing | null>(() => {
    const { markId, rule: base } = state.value;
    return isDirty.value ? { markId, rule: base, base: baseVersion.value } : null;
  });

  const laid = useBeside({
    ...{ state, presetId, placing },
    take(id, kept) {
      presetId.value = id;
      take(kept);
    },
  });
  const { subjectOf, subjectsOf, shapeOf, knowShapes } = useSubjects({
    ...{ state, presetId, baseMark, speaksUpright, laid },
  });

  /** Ids are given out in order, while the list is by name. */
  function newestMark(): number | null {
    const ids = library.marks.filter((some) => !some.retired).map(({ id }) => id);
    return ids.length > 0 ? Math.max(...ids) : null;
  }

  /** Changes what the bench speaks to: the preset, or the photos it is set on. */
  function change(part: Partial<PresetRule>): void {
    if (target.value) adjust(target.value, part);
    else changeBase(part, speaksUpright.value);
  }

  function changeBase(part: Partial<PresetRule>, isForUpright: boolean): void {
    const { rule: before } = state.value;
    const after = isForUpright ? changedUpright(before, part) : { ...before, ...part };
    state.value = { ...state.value, rule: after };
  }

  /**
   * A change made by hand on one photo: of the photos the bench is set on, where it is one of them;
   * else of that photo alone, where its place is its own or the bench is set on others; else of all.
   */
  function changeOn(photoId: number, part: Partial<PresetRule>): void {
    const { adjustment } = subjectOf(photoId);
    const isOwn = Object.keys(part).some((field) => field in adjustment);
    if (target.value?.includes(photoId)) adjust(target.value, part);
    else if (target.value || isOwn) adjust([photoId], part);
    else changeBase(part, isUpright(shapeOf(photoId)) && baseRule.value.upright !== null);
  }

  const { save, saveAsNew, saveInto } = usePresetSaving({
    ...{ state, presetId, baseVersion, saved, name, startOver },
  });

  function chooseMark(markId: number): void {
    setBase(markId, state.value.rule);
  }

  function putBack(): void {
    if (saved.value) startOver();
    else setBase(state.value.markId, DEFAULT_RULE);
  }

  return {
    ...{
      presetId,
      target,
      rule,
      mark,
      baseRule,
      baseMark,
      adjustments,
      subject,
      subjectOf,
      subjectsOf,
    },
    ...{ others: laid.others, handAt: laid.handAt, isFull: laid.isFull, beside: laid.beside },
    ...{ addMark: laid.add, removeMark: laid.remove },
    ...{ takeInHand: laid.takeInHand, moveHand: laid.moveHand },
    ...{ saved, name, suggestedName, isDirty, isOutdated, batchId, placing },
    ...{ open, follow, takeAdjustments, followAdjustments },
    ...{ speaksUpright, knowShapes, change, changeOn, adjust, takeBack, copyAdjustment },
    ...{ chooseMark, putBack, save, saveAsNew, saveInto },
    ...{ undo: steps.undo, redo: steps.redo },
    ...{ canUndo: steps.canUndo, canRedo: steps.canRedo },
  };
});

function sameAs(
  a: Pick<DraftState, 'markId' | 'rule'>,
  b: Pick<DraftState, 'markId' | 'rule'>,
): boolean {
  return a.markId === b.markId && isSameValue(a.rule, b.rule);
}
