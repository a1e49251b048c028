import { ref } from 'vue';
import { settingsSchema, type Settings } from '#core/contract/settings';
import { api } from '../api/client.ts';
import { useSaving } from './saving.ts';

export type SettingsAnswer = Settings & { configured: string[]; version: number };

/** What is typed is saved when the hand rests. */
const REST_MS = 400;
const SETTINGS_KEY = 'settings';

/**
 * The settings as this window has them.
 *
 * @param refresh asks for them again, where another window's go on
 */
export function useSettings(refresh: () => void) {
  const saving = useSaving();
  const settings = ref<Settings>(settingsSchema.parse({}));
  const configuredFolders = ref<string[]>([]);
  let settingsVersion = 0;

  function takeSettings({ configured, version, ...rest }: SettingsAnswer): void {
    settingsVersion = version;
    configuredFolders.value = configured;
    // What is set in this window and not saved yet stays.
    settings.value = { ...rest, ...saving.valueOf<Settings>(SETTINGS_KEY) };
  }

  /** Settings that somebody waits for to be saved, such as a folder that has to be there. */
  async function saveSettings(part: Partial<Settings>): Promise<void> {
    const body = { ...settings.value, ...part, version: settingsVersion };
    takeSettings(await api.put<SettingsAnswer>('/settings', body));
  }

  /** Settings that hold at once in this window and are saved by the way. */
  function changeSettings(part: Partial<Settings>): void {
    settings.value = { ...settings.value, ...part };
    saving.put<Partial<Settings>>({
      key: SETTINGS_KEY,
      value: { ...saving.valueOf<Partial<Settings>>(SETTINGS_KEY), ...part },
      restMs: REST_MS,
      send: async (changed, { base, keepalive }) => {
        const body = { ...settings.value, ...changed, version: base ?? settingsVersion };
        const answer = await api.put<SettingsAnswer>('/settings', body, {
          keepalive: keepalive ?? false,
        });
        settingsVersion = answer.version;
        return answer.version;
      },
      theirs: refresh,
    });
  }

  async function refreshSettings(): Promise<void> {
    takeSettings(await api.get<SettingsAnswer>('/settings'));
  }

  return {
    ...{ settings, configuredFolders },
    ...{ takeSettings, saveSettings, changeSettings, refreshSettings },
  };
}
