import type { Ref, ShallowRef } from 'vue';
import type { PresetView } from '#core/contract/http';
import { saveOn } from '../app/conflicts.ts';
import { useLibrary } from '../app/library.ts';
import type { DraftState } from './adjusting.ts';
import { NEW_PRESET, useUnsavedPresets } from './unsavedPresets.ts';

interface Bench {
  readonly state: ShallowRef<DraftState>;
  readonly presetId: Ref<number | null>;
  /** Version of the preset that the bench started from. */
  readonly baseVersion: Ref<number>;
  readonly saved: Readonly<Ref<PresetView | null>>;
  readonly name: Readonly<Ref<string>>;
  readonly startOver: () => void;
}

/** The ways a preset is saved from the bench: as itself, as a new one, into another. */
export function usePresetSaving({ state, presetId, baseVersion, saved, name, startOver }: Bench) {
  const library = useLibrary();
  const unsaved = useUnsavedPresets();

  /** @returns false where another window's change goes on instead */
  async function save(): Promise<boolean> {
    if (!saved.value) {
      await saveAsNew(name.value);
      return true;
    }
    const { id } = saved.value;
    return put(id, wishNamed(name.value), baseVersion.value);
  }

  async function put(
    id: number,
    wish: ReturnType<typeof wishNamed>,
    version: number,
  ): Promise<boolean> {
    const now = await saveOn(version, (baseVersion) =>
      library.savePreset(id, { ...wish, baseVersion }),
    );
    if (now) {
      baseVersion.value = now.version;
      unsaved.remove(id);
      return true;
    }
    await library.refreshPresets();
    if (presetId.value === id) startOver();
    return false;
  }

  async function saveAsNew(newName: string): Promise<number> {
    const preset = await library.addPreset(wishNamed(newName));
    unsaved.remove(presetId.value ?? NEW_PRESET);
    presetId.value = preset.id;
    baseVersion.value = preset.version;
    return preset.id;
  }

  /** Puts what is on the bench into a preset that exists, and goes on with that. */
  async function saveInto(id: number): Promise<void> {
    const preset = library.presetOf(id);
    if (!preset) return;
    if (!(await put(id, wishNamed(preset.name), preset.version))) return;
    unsaved.remove(presetId.value ?? NEW_PRESET);
    presetId.value = id;
  }

  function wishNamed(newName: string) {
    const { markId, rule: wanted } = state.value;
    if (markId === null) throw new Error('A preset needs a mark. Add one first.');
    return { name: newName, markId, rule: wanted };
  }

  return { save, saveAsNew, saveInto };
}
