import { useLocalStorage, usePreferredDark } from '@vueuse/core';
import { watch, watchEffect } from 'vue';
import type { Settings } from '#core/contract/settings';
import { useLibrary } from './library.ts';

type Look = Pick<Settings, 'theme' | 'surround'>;

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
  });
}
