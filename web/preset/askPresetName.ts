import type { PresetView } from '#core/contract/http';
import { freeName } from '#core/placement/suggestName';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import { askName, askNameTaken } from '../ui/ask.ts';
import { useDraft } from './draft.ts';

/** A name for a preset, or the preset of that name, which is to take over mark and rule. */
type NamedPreset = { readonly name: string } | { readonly update: PresetView };

interface PresetNameQuestion {
  readonly title: string;
  readonly name: string;
  readonly action: string;
  /** The preset that has the name now, and may keep it. */
  readonly ownId?: number;
}

async function askPresetName(question: PresetNameQuestion): Promise<NamedPreset | null> {
  const { presets } = useLibrary();
  const name = await askName(question);
  if (name === null) return null;
  const update = presets.find((preset) => preset.name === name && preset.id !== question.ownId);
  if (!update) return { name };
  const free = freeName(
    name,
    presets.map((preset) => preset.name),
  );
  const decided = await askNameTaken('preset', name, free);
  if (decided === null) return null;
  return decided === 'both' ? { name: free } : { update };
}

/** Another name for a preset. @returns the preset that has its mark and rule now */
export async function renamePreset(preset: PresetView): Promise<number | null> {
  const { id: ownId, markId, rule } = preset;
  const question = { title: 'Rename the preset', name: preset.name, action: 'Rename', ownId };
  const named = await askPresetName(question);
  if (!named) return null;
  const library = useLibrary();
  const notices = useNotices();
  const done = await notices.attempt(async () => {
    if ('name' in named) {
      await library.savePreset(ownId, { name: named.name, markId, rule });
      return ownId;
    }
    const { id, name } = named.update;
    await library.savePreset(id, { name, markId, rule });
    notices.done(`${name} is updated.`);
    return id;
  });
  return done ?? null;
}

/** Saves what is on the bench as a new preset. @returns its id */
export async function saveAsNewPreset(): Promise<number | null> {
  const draft = useDraft();
  const notices = useNotices();
  const named = await askPresetName({
    ...{ title: 'Save as a new preset', name: draft.suggestedName, action: 'Save' },
  });
  if (!named) return null;
  const saved = await notices.attempt(async () => {
    if ('name' in named) {
      const id = await draft.saveAsNew(named.name);
      notices.done(`${named.name} is saved.`);
      return id;
    }
    await draft.saveInto(named.update.id);
    notices.done(`${named.update.name} is updated.`);
    return named.update.id;
  });
  return saved ?? null;
}
