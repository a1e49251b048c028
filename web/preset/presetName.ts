import { computed, type ComputedRef, type Ref } from 'vue';
import type { MarkView } from '#core/contract/http';
import type { PresetRule } from '#core/contract/preset';
import { freeName, suggestName } from '#core/placement/suggestName';
import { useLibrary } from '../app/library.ts';

/** A name that says what a mark and a rule do, and that no preset has yet. */
export function usePresetName(
  mark: Ref<MarkView | null>,
  rule: Ref<PresetRule>,
): ComputedRef<string> {
  const library = useLibrary();
  const toneName = (tone: string): string =>
    library.settings.palette.find(({ colour }) => colour === tone)?.name ?? tone;
  return computed(() =>
    freeName(
      suggestName(mark.value?.name ?? 'Mark', rule.value, toneName),
      library.presets.map((preset) => preset.name),
    ),
  );
}
