import { useLocalStorage, usePreferredDark } from '@vueuse/core';
import { computed, shallowRef, watch, watchEffect, type ComputedRef } from 'vue';
import type { Settings } from '#core/contract/settings';
import { useLibrary } from './library.ts';

type Look = Pick<Settings, 'theme' | 'surround'>;

/** After the page has it. */
const isDimNow = shallowRef(false);

const COLOURS = ['clear', 'faint', 'lost', 'line', 'hairline', 'ink-quiet'] as const;

/** Colours of the theme for what is drawn on a canvas, which knows no variables. */
export function useThemeColours(): ComputedRef<Record<(typeof COLOURS)[number], string>> {
  const read = (): [string, string][] => {
    const style = getComputedStyle(document.documentElement);
    return COLOURS.map((name) => [name, style.getPropertyValue(`--lc-${name}`).trim()]);
  };
  return computed(() => {
    void isDimNow.value;
    return Object.fromEntries(read()) as Record<(typeof COLOURS)[number], string>;
  });
}

/** Puts the theme and the surround onto the page; the last ones hold until the settings are there. */
export function useTheme(): void {
  const library = useLibrary();
  const isDarkPreferred = usePreferredDark();
  const last = useLocalStorage<Look>('light-crest-look', { theme: 'system', surround: 'grey' });
  watch(
    () => [library.isLoaded, library.settings.theme, library.settings.surround] as const,
    ([isLoaded, theme, surround]) => {
      if (isLoaded) last.value = { theme, surround };
    },
  );
  watchEffect(() => {
    const { theme, surround } = last.value;
    const isDim = theme === 'dim' || (theme === 'system' && isDarkPreferred.value);
    const root = document.documentElement;
    root.setAttribute('data-bs-theme', isDim ? 'dark' : 'light');
    root.setAttribute('data-surround', surround);
    isDimNow.value = isDim;
  });
}
