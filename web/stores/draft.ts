import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type { Adjustment } from '#core/contract/adjustment';
import type { MarkView, PresetView } from '#core/contract/http';
import { DEFAULT_RULE, type PresetRule } from '#core/contract/preset';
import {
  adjustedRule,
  tidyAdjustment,
  withoutPart,
  type AdjustedPart,
} from '#core/placement/adjustment';
import { freeName, suggestName } from '#core/placement/suggestName';
import { useSteps } from '../composables/useSteps.ts';
import { useLibrary } from './library.ts';

/** What the bench edits: a preset, or one that is not saved yet, and what photos have of their own. */
interface DraftState {
  readonly markId: number | null;
  readonly rule: PresetRule;
  readonly adjustments: ReadonlyMap<number, Adjustment>;
}

type OpenDraft = Pick<DraftState, 'markId' | 'rule'>;

/** How one photo is marked. */
export interface Subject {
  readonly mark: MarkView | null;
  /** Its preset's, before the adjustment. */
  readonly rule: PresetRule;
  readonly adjustment: Adjustment;
}

/** What a photo without an adjustment has; one object, so that it is known by itself. */
export const NOT_ADJUSTED: Adjustment = Object.freeze({});
const NONE: ReadonlyMap<number, Adjustment> = new Map();

/**
 * The preset that is being shaped, and the adjustments of the open batch, with one undo for both.
 * Changes that are not saved outlive a change of view.
 */
export const useDraft = defineStore('draft', () => {
  const library = useLibrary();
  const presetId = ref<number | null>(null);
  const state = shallowRef<DraftState>({ markId: null, rule: DEFAULT_RULE, adjustments: NONE });
  /** Photos that the bench speaks to; null: the preset, for all. */
  const target = shallowRef<readonly number[] | null>(null);
  const unsaved = new Map<number | null, OpenDraft>();
  const steps = useSteps(state);

  const saved = computed<PresetView | null>(() => library.presetOf(presetId.value));
  const baseMark = computed(() => library.markOf(state.value.markId));
  const baseRule = computed(() => state.value.rule);
  const adjustments = computed(() => state.value.adjustments);
  /** Of the first photo that the bench speaks to, or of the preset. */
  const subject = computed(() => subjectOf(target.value?.[0] ?? null));
  const mark = computed(() => subject.value.mark);
  const rule = computed(() => adjustedRule(subject.value.rule, subject.value.adjustment));
  const isDirty = computed(() => {
    if (!saved.value) return state.value.markId !== null;
    const { markId, rule: savedRule } = saved.value;
    return markId !== state.value.markId || !sameRule(savedRule, state.value.rule);
  });
  const toneName = (tone: string): string =>
    library.settings.palette.find(({ colour }) => colour === tone)?.name ?? tone;
  const suggestedName = computed(() =>
    freeName(
      suggestName(baseMark.value?.name ?? 'Mark', state.value.rule, toneName),
      library.presets.map((preset) => preset.name),
    ),
  );
  const name = computed(() => saved.value?.name ?? suggestedName.value);

  function subjectOf(photoId: number | null): Subject {
    const adjustment = photoId === null ? undefined : state.value.adjustments.get(photoId);
    const own = library.presetOf(adjustment?.presetId);
    if (own && own.id !== presetId.value) {
      return {
        mark: library.markOf(own.markId),
        rule: own.rule,
        adjustment: adjustment ?? NOT_ADJUSTED,
      };
    }
    const { rule: shared } = state.value;
    return { mark: baseMark.value, rule: shared, adjustment: adjustment ?? NOT_ADJUSTED };
  }

  /** Opens a preset, or with null one that starts from the defaults and the newest mark. */
  function open(id: number | null): void {
    if (id !== presetId.value) keepUnsaved();
    const kept = unsaved.get(id);
    const preset = library.presetOf(id);
    presetId.value = preset?.id ?? null;
    if (kept) setBase(kept.markId, kept.rule);
    else if (preset) setBase(preset.markId, preset.rule);
    else setBase(newestMark(), DEFAULT_RULE);
    steps.start();
  }

  /** What the photos of a batch have of their own, as the server knows it. */
  function takeAdjustments(all: ReadonlyMap<number, Adjustment>): void {
    target.value = null;
    state.value = { ...state.value, adjustments: all };
    steps.start();
  }

  function setBase(markId: number | null, base: PresetRule): void {
    state.value = { ...state.value, markId, rule: base };
  }

  function keepUnsaved(): void {
    const { markId, rule: base } = state.value;
    if (isDirty.value) unsaved.set(presetId.value, { markId, rule: base });
    else unsaved.delete(presetId.value);
  }

  function newestMark(): number | null {
    return library.marks.filter((some) => !some.retired).at(-1)?.id ?? null;
  }

  /** Changes what the bench speaks to: the preset, or the photos it is set on. */
  function change(part: Partial<PresetRule>): void {
    if (target.value) adjust(target.value, part);
    else state.value = { ...state.value, rule: { ...state.value.rule, ...part } };
  }

  /**
   * A change made by hand on one photo: of the photos the bench is set on, where it is one of them;
   * else of that photo alone, where its place is its own or the bench is set on others; else of all.
   */
  function changeOn(photoId: number, part: Partial<PresetRule>): void {
    const adjusted = state.value.adjustments.get(photoId);
    const isOwn = Object.keys(part).some((field) => field in (adjusted ?? NOT_ADJUSTED));
    if (target.value?.includes(photoId)) adjust(target.value, part);
    else if (target.value || isOwn) adjust([photoId], part);
    else change(part);
  }

  /** Fallbacks are a rule's alone: a photo adjusted by hand has one place. */
  function adjust(photoIds: readonly number[], part: Adjustment & Partial<PresetRule>): void {
    const own = Object.entries(part).filter(([field]) => field !== 'fallbacks');
    const changed: Adjustment = Object.fromEntries(own);
    edit(photoIds, (adjustment) => tidyAdjustment({ ...adjustment, ...changed }));
  }

  /** Takes one part of the adjustment back, or all of it. */
  function takeBack(photoIds: readonly number[], part: AdjustedPart | null = null): void {
    edit(photoIds, (adjustment) => (part ? withoutPart(adjustment, part) : null));
  }

  /** Gives photos the adjustment of another, in place of their own. */
  function copyAdjustment(fromId: number, photoIds: readonly number[]): void {
    const from = state.value.adjustments.get(fromId) ?? null;
    edit(
      photoIds.filter((id) => id !== fromId),
      () => from,
    );
  }

  function edit(
    photoIds: readonly number[],
    edited: (adjustment: Adjustment) => Adjustment | null,
  ): void {
    const next = new Map(state.value.adjustments);
    for (const id of photoIds) {
      const adjustment = edited(next.get(id) ?? NOT_ADJUSTED);
      if (adjustment) next.set(id, adjustment);
      else next.delete(id);
    }
    state.value = { ...state.value, adjustments: next };
  }

  function chooseMark(markId: number): void {
    setBase(markId, state.value.rule);
  }

  function putBack(): void {
    unsaved.delete(presetId.value);
    if (saved.value) setBase(saved.value.markId, saved.value.rule);
    else setBase(state.value.markId, DEFAULT_RULE);
  }

  async function save(): Promise<void> {
    const wish = wishNamed(name.value);
    if (saved.value) await library.savePreset(saved.value.id, wish);
    else await saveAsNew(name.value);
    unsaved.delete(presetId.value);
  }

  async function saveAsNew(newName: string): Promise<number> {
    const preset = await library.addPreset(wishNamed(newName));
    unsaved.delete(presetId.value);
    presetId.value = preset.id;
    return preset.id;
  }

  /** Puts what is on the bench into a preset that exists, and goes on with that. */
  async function saveInto(id: number): Promise<void> {
    const preset = library.presetOf(id);
    if (!preset) return;
    await library.savePreset(id, wishNamed(preset.name));
    unsaved.delete(presetId.value);
    unsaved.delete(id);
    presetId.value = id;
  }

  function wishNamed(newName: string) {
    const { markId, rule: wanted } = state.value;
    if (markId === null)
      throw new Error('Expected a mark for the preset, found none. Add one first.');
    return { name: newName, markId, rule: wanted };
  }

  return {
    ...{ presetId, target, rule, mark, baseRule, baseMark, adjustments, subject, subjectOf },
    ...{ saved, name, suggestedName, isDirty },
    ...{ open, takeAdjustments, change, changeOn, adjust, takeBack, copyAdjustment },
    ...{ chooseMark, putBack, save, saveAsNew, saveInto },
    ...{ undo: steps.undo, redo: steps.redo },
    ...{ canUndo: steps.canUndo, canRedo: steps.canRedo },
  };
});

/** Both come through the same schema, which fixes the order of keys. */
function sameRule(a: PresetRule, b: PresetRule): boolean {
  return JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));
}

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, part]) => [key, sorted(part)]),
  );
}
