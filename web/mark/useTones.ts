import { computed, type ComputedRef } from 'vue';
import type { ToneChoice } from '#core/contract/preset';
import { useLibrary } from '../app/library.ts';

export interface ToneOption {
  readonly value: ToneChoice;
  readonly label: string;
  /** CSS background of the swatch. */
  readonly swatch: string;
}

/** The tones a mark can take: light, dark, its own colours, and the photographer's palette. */
export function useTones(): ComputedRef<ToneOption[]> {
  const library = useLibrary();
  return computed(() => [
    { value: 'light', label: 'Light', swatch: '#ffffff' },
    { value: 'dark', label: 'Dark', swatch: '#0b0b0b' },
    {
      value: 'original',
      label: 'Original colours',
      swatch: 'conic-gradient(#17364a 0 33%, #b07d2b 0 66%, #e9e2d0 0)',
    },
    ...library.settings.palette.map(({ name, colour }) => ({
      value: colour as ToneChoice,
      label: name,
      swatch: colour,
    })),
  ]);
}
