import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { presetRuleSchema, type PresetRule } from '#core/contract/preset';

/** What was changed of a preset and is not saved. */
export interface UnsavedPreset {
  readonly markId: number | null;
  readonly rule: PresetRule;
  /** Version of the preset it was changed from; 0 for a new one. */
  readonly base: number;
}

/** The key of a preset that is not there yet. */
export const NEW_PRESET = 'new';

/** Unsaved changes by preset, in the browser: they outlive a reload, a crash and the server. */
export const useUnsavedPresets = defineStore('unsaved-presets', () => {
  const kept = useLocalStorage<Record<string, UnsavedPreset>>('light-crest-unsaved-presets', {});

  function get(key: number | string): UnsavedPreset | null {
    const found = kept.value[key];
    // Written by an older version of the page, perhaps: what is not understood is left aside.
    const rule = presetRuleSchema.safeParse(found?.rule);
    return found && rule.success ? { ...found, rule: rule.data } : null;
  }

  function put(key: number | string, unsaved: UnsavedPreset): void {
    kept.value = { ...kept.value, [key]: unsaved };
  }

  function remove(key: number | string): void {
    if (!(key in kept.value)) return;
    const rest = Object.entries(kept.value).filter(([name]) => name !== String(key));
    kept.value = Object.fromEntries(rest);
  }

  return { get, put, remove };
});
