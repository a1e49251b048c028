import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { PresetView } from '#core/contract/http';
import { DEFAULT_RULE, type PresetRule } from '#core/contract/preset';
import { freeName, suggestName } from '#core/placement/suggestName';
import { useSteps } from '../composables/useSteps.ts';
import { useLibrary } from './library.ts';

/** What the bench edits: a preset, or one that is not saved yet. */
interface DraftState {
  readonly markId: number | null;
  readonly rule: PresetRule;
}

interface OpenDraft extends DraftState {
  readonly presetId: number | null;
}

/** The preset that is being shaped, with undo; changes that are not saved outlive a change of view. */
export const useDraft = defineStore('draft', () => {
  const library = useLibrary();
  const presetId = ref<number | null>(null);
  const state = ref<DraftState>({ markId: null, rule: DEFAULT_RULE });
  const unsaved = new Map<number | null, OpenDraft>();
  const steps = useSteps(state);

  const saved = computed<PresetView | null>(() => library.presetOf(presetId.value));
  const mark = computed(() => library.markOf(state.value.markId));
  const rule = computed(() => state.value.rule);
  const isDirty = computed(() => {
    if (!saved.value) return state.value.markId !== null;
    const { markId, rule: savedRule } = saved.value;
    return markId !== state.value.markId || !sameRule(savedRule, state.value.rule);
  });
  const suggestedName = computed(() =>
    freeName(
      suggestName(mark.value?.name ?? 'Mark', state.value.rule),
      library.presets.map((preset) => preset.name),
    ),
  );
  const name = computed(() => saved.value?.name ?? suggestedName.value);

  /** Opens a preset, or with null one that starts from the defaults and the newest mark. */
  function open(id: number | null): void {
    if (id !== presetId.value) keepUnsaved();
    const kept = unsaved.get(id);
    const preset = library.presetOf(id);
    presetId.value = preset?.id ?? null;
    if (kept) state.value = { markId: kept.markId, rule: kept.rule };
    else if (preset) state.value = { markId: preset.markId, rule: preset.rule };
    else state.value = { markId: newestMark(), rule: DEFAULT_RULE };
    steps.start();
  }

  function keepUnsaved(): void {
    if (isDirty.value) unsaved.set(presetId.value, { presetId: presetId.value, ...state.value });
    else unsaved.delete(presetId.value);
  }

  function newestMark(): number | null {
    return library.marks.filter((some) => !some.retired).at(-1)?.id ?? null;
  }

  function change(part: Partial<PresetRule>): void {
    state.value = { ...state.value, rule: { ...state.value.rule, ...part } };
  }

  function chooseMark(markId: number): void {
    state.value = { ...state.value, markId };
  }

  function putBack(): void {
    unsaved.delete(presetId.value);
    if (saved.value) state.value = { markId: saved.value.markId, rule: saved.value.rule };
    else state.value = { markId: state.value.markId, rule: DEFAULT_RULE };
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

  function wishNamed(newName: string) {
    const { markId, rule: wanted } = state.value;
    if (markId === null)
      throw new Error('Expected a mark for the preset, found none. Add one first.');
    return { name: newName, markId, rule: wanted };
  }

  return {
    ...{ presetId, rule, mark, saved, name, suggestedName, isDirty },
    ...{ open, change, chooseMark, putBack, save, saveAsNew },
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
