import { useLocalStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import type { Beside, Placing } from '#core/contract/http';
import { presetRuleSchema } from '#core/contract/preset';

/** What was changed of a preset and is not saved. */
export interface UnsavedPreset extends Placing {
  /** The batch whose bench it was changed on, or null. */
  readonly batchId: number | null;
  /** That batch has it on the server. */
  readonly isKept: boolean;
}

/** A batch with what its bench held when it was left; left out where a preset is chosen on it. */
export interface BatchBench {
  readonly id: number;
  readonly placing?: Placing | null;
  readonly beside?: Beside;
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
    if (!found || !rule.success) return null;
    return {
      ...found,
      batchId: found.batchId ?? null,
      isKept: found.isKept ?? false,
      rule: rule.data,
    };
  }

  function put(key: number | string, unsaved: UnsavedPreset): void {
    kept.value = { ...kept.value, [key]: unsaved };
  }

  function remove(key: number | string): void {
    if (!(key in kept.value)) return;
    const rest = Object.entries(kept.value).filter(([name]) => name !== String(key));
    kept.value = Object.fromEntries(rest);
  }

  /** A batch has what its bench holds on the server now. */
  function noteKept(key: number | string, batchId: number): void {
    const found = kept.value[key];
    if (found?.batchId === batchId) put(key, { ...found, isKept: true });
  }

  /**
   * What was not saved: what this browser has and the server does not, what the batch holds, what was
   * changed where no batch's bench was open. What another batch holds is that one's.
   */
  function heldBy(id: number | null, batch: BatchBench | null): Placing | null {
    const kept = get(id ?? NEW_PRESET);
    if (!batch) return kept;
    const isChosen = batch.placing === undefined;
    if (kept?.batchId === batch.id && (isChosen || !kept.isKept)) return kept;
    return batch.placing ?? (kept?.batchId === null ? kept : null);
  }

  return { get, put, remove, noteKept, heldBy };
});
